// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;

/** A program that speaks on a console: started, listened to until it ends or says what it was waited for, and ended. */
final class Console {
    /** A look at what it said so far; what it says on a pipe is lost when it ends, so it writes into a file. */
    private static final long LOOK_MILLIS = 50;

    private static final Pattern ESCAPES =
            Pattern.compile("\u001b\\[[0-9;?=]*[A-Za-z]|\u001b[()][A-Z0-9]|\u001b[78]|\b|\r|\0");

    private Console() {}

    /**
     * What it said.
     *
     * @param until what ends it; it may end by itself before
     * @param seconds after which it is ended in any case
     */
    static String of(List<String> command, Path log, Pattern until, long seconds) throws IOException {
        Process process;
        try {
            process = new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectInput(
                            ProcessBuilder.Redirect.from(Path.of("/dev/null").toFile()))
                    .redirectOutput(log.toFile())
                    .start();
        } catch (IOException e) {
            throw new UnreadableInput(command.get(0) + " cannot be started here.", e);
        }
        try {
            long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
            while (!process.waitFor(LOOK_MILLIS, TimeUnit.MILLISECONDS)) {
                if (System.nanoTime() > end || until.matcher(said(log)).find()) {
                    break;
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new UnreadableInput("It was stopped.", e);
        } finally {
            process.descendants().forEach(ProcessHandle::destroyForcibly);
            process.destroyForcibly();
        }
        return said(log);
    }

    private static String said(Path log) throws IOException {
        return ESCAPES.matcher(Files.readString(log, StandardCharsets.ISO_8859_1))
                .replaceAll("");
    }
}
