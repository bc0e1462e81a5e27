// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import exordium.jobs.bench.Workbench;
import exordium.jobs.demo.DemoWorkspace;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.stream.Collectors;

/** Opens the workspace while the toolkit starts; each takes half a second, and neither needs the other. */
final class Beginning {
    private final FutureTask<Workbench> opening;
    private final boolean fresh;

    private Beginning(Callable<Workbench> open, boolean fresh) {
        this.opening = new FutureTask<>(open);
        this.fresh = fresh;
        Thread thread = new Thread(opening, "exordium-opening");
        thread.setDaemon(true);
        thread.start();
    }

    /** Where args: as the window takes them, {@code --name=value}. */
    static Beginning of(String... args) {
        Map<String, String> named = Arrays.stream(args)
                .filter(arg -> arg.startsWith("--") && arg.contains("="))
                .collect(Collectors.toMap(
                        arg -> arg.substring(2, arg.indexOf('=')),
                        arg -> arg.substring(arg.indexOf('=') + 1),
                        (first, last) -> last));
        boolean fresh = !named.containsKey("demo") && !Workbench.isWorkspace(folder(named));
        return new Beginning(() -> open(named), fresh);
    }

    /** Another one, from the window. */
    static Beginning of(Path folder) {
        return new Beginning(() -> Opening.at(folder, Clock.systemUTC(), ZoneId.systemDefault()), false);
    }

    /** Whether there was none before, so that its user is asked for a name. */
    boolean fresh() {
        return fresh;
    }

    static Path folder(Map<String, String> named) {
        return Path.of(named.getOrDefault("workspace", Workbench.usualFolder().toString()));
    }

    private static Workbench open(Map<String, String> named) throws IOException {
        Path folder = folder(named);
        boolean fixed = named.containsKey("now");
        Clock clock = fixed ? Clock.fixed(Instant.parse(named.get("now")), ZoneId.of("UTC")) : Clock.systemUTC();
        ZoneId zone = fixed ? ZoneId.of("UTC") : ZoneId.systemDefault();
        return named.containsKey("demo")
                ? DemoWorkspace.make(folder, true, clock, zone)
                : Opening.at(folder, clock, zone);
    }

    /** Waits for it; not on the interface thread. */
    Workbench opened() throws IOException {
        try {
            return opening.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while the workspace was being opened", e);
        } catch (ExecutionException e) {
            if (e.getCause() instanceof IOException failure) {
                throw failure;
            }
            throw new IllegalStateException(e.getCause());
        }
    }
}
