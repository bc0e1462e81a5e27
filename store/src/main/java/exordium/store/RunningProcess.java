// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Optional;

/**
 * A process by its number and when it began: numbers are given again. When it began is told by the kernel in clock ticks since
 * the machine started (proc(5), stat), for processes of other users as well; a machine that started anew has another identifier.
 */
record RunningProcess(long number, String start) {
    private static final int START_FIELD = 19;

    static RunningProcess own() {
        long number = ProcessHandle.current().pid();
        return new RunningProcess(number, startOf(number).orElse(""));
    }

    /** Whether it still runs. Where nothing is known of when it began, as in rows of older versions, its number decides. */
    boolean alive() {
        Optional<String> now = startOf(number);
        return now.isPresent() && (start.isEmpty() || start.equals(now.get()));
    }

    private static Optional<String> startOf(long number) {
        Path stat = Path.of("/proc", Long.toString(number), "stat");
        try {
            if (Files.isReadable(stat)) {
                String line = Files.readString(stat);
                // The name in brackets may hold anything; what counts stands behind the last of them.
                String[] fields = line.substring(line.lastIndexOf(')') + 2).split(" ");
                boolean over = fields[0].equals("Z") || fields[0].equals("X");
                return over ? Optional.empty() : Optional.of(fields[START_FIELD] + "@" + machine());
            }
        } catch (IOException e) {
            return Optional.empty();
        }
        return ProcessHandle.of(number)
                .filter(ProcessHandle::isAlive)
                .map(handle ->
                        handle.info().startInstant().map(Instant::toString).orElse("alive"));
    }

    private static String machine() throws IOException {
        Path boot = Path.of("/proc/sys/kernel/random/boot_id");
        return Files.isReadable(boot) ? Files.readString(boot).strip() : "";
    }
}
