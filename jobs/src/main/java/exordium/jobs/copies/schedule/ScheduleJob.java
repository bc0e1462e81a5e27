// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.schedule;

import exordium.core.copies.schedule.TimerUnits;
import exordium.core.finding.NameTaken;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/** Puts the timer for due copies among the user's own units, and takes it away again. Nothing of the system is touched. */
public final class ScheduleJob {
    private final Path folder;
    private final boolean tell;

    /**
     * @param folder of the user's units
     * @param tell whether the running systemd is told, where there is one
     */
    public ScheduleJob(Path folder, boolean tell) {
        this.folder = folder;
        this.tell = tell;
    }

    /** Where a user's units are by the XDG base directory specification. */
    public static Path usualFolder() {
        String set = System.getenv("XDG_CONFIG_HOME");
        Path config = set == null || set.isBlank() ? Path.of(System.getProperty("user.home"), ".config") : Path.of(set);
        return config.resolve("systemd/user");
    }

    /** Whether it is there, and whether systemd took it; words: what to do where it did not. */
    public record Installed(List<Path> files, boolean running, String words) {}

    /** @throws NameTaken when units of that name are there that were not written here */
    public Installed install(TimerUnits units) throws IOException {
        for (TimerUnits.Unit unit : units.units()) {
            Path file = folder.resolve(unit.name());
            if (Files.exists(file) && !isOurs(file)) {
                throw new NameTaken(
                        file + " is there and was not written here; it was left as it is, and nothing was installed.",
                        unit.name());
            }
        }
        Files.createDirectories(folder);
        List<Path> files = new ArrayList<>();
        for (TimerUnits.Unit unit : units.units()) {
            Path file = folder.resolve(unit.name());
            Files.writeString(file, unit.text());
            files.add(file);
        }
        boolean running = tell && systemctl("daemon-reload") && systemctl("enable", "--now", TimerUnits.TIMER);
        return new Installed(
                files,
                running,
                running
                        ? "The timer runs: due copies are made once a day, and a missed day is made up for."
                        : "The files are in place. Once systemd runs for this user: systemctl --user enable --now "
                                + TimerUnits.TIMER);
    }

    /** Those that are there and were written here. */
    public List<Path> installed() throws IOException {
        List<Path> files = new ArrayList<>();
        for (String name : List.of(TimerUnits.SERVICE, TimerUnits.TIMER)) {
            Path file = folder.resolve(name);
            if (Files.isRegularFile(file) && isOurs(file)) {
                files.add(file);
            }
        }
        return files;
    }

    /** Gives what was taken away; nothing of others' is. */
    public List<Path> remove() throws IOException {
        List<Path> ours = installed();
        if (tell && !ours.isEmpty()) {
            systemctl("disable", "--now", TimerUnits.TIMER);
        }
        for (Path each : ours) {
            Files.deleteIfExists(each);
        }
        if (tell && !ours.isEmpty()) {
            systemctl("daemon-reload");
        }
        return ours;
    }

    private static boolean isOurs(Path file) throws IOException {
        return Files.readString(file).startsWith(TimerUnits.MARK);
    }

    private static boolean systemctl(String... words) throws IOException {
        List<String> line = new ArrayList<>(List.of("systemctl", "--user"));
        line.addAll(List.of(words));
        Optional<Process> process = start(line);
        try {
            return process.isPresent()
                    && process.get().waitFor(20, TimeUnit.SECONDS)
                    && process.get().exitValue() == 0;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    private static Optional<Process> start(List<String> line) {
        try {
            return Optional.of(new ProcessBuilder(line)
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start());
        } catch (IOException e) {
            // No systemd here.
            return Optional.empty();
        }
    }
}
