// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import java.nio.file.Path;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.List;

/**
 * What has a user's own systemd make the due copies once a day (systemd.timer(5), systemd.service(5)), or the line for a crontab
 * (crontab(5)). A run that was missed, as the machine was off, is made up for once.
 *
 * @param at the time of day
 * @param command the program, and workspace: what it works on
 */
public record TimerUnits(LocalTime at, Path command, Path workspace) {
    public static final String SERVICE = "exordium-copies.service";
    public static final String TIMER = "exordium-copies.timer";
    /** The first line of what was written here; anything else of that name is left alone. */
    public static final String MARK = "# Written by exordium schedule install; exordium schedule remove takes it back.";

    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm");

    /** One file and its text. */
    public record Unit(String name, String text) {}

    public TimerUnits {
        for (Path path : List.of(command, workspace)) {
            if (path.toString().matches(".*[\\p{Cntrl}\"\\\\].*")) {
                throw new IllegalArgumentException("a path with control characters, quotes or backslashes: " + path);
            }
        }
    }

    public List<Unit> units() {
        return List.of(
                new Unit(
                        SERVICE,
                        MARK
                                + "\n[Unit]\nDescription=Copies of boards that are due\n\n[Service]\nType=oneshot\nNice=10\n"
                                + "IOSchedulingClass=idle\nExecStart=" + run("copy run --due") + "\nExecStart="
                                + run("copy drill --due") + "\n"),
                new Unit(
                        TIMER,
                        MARK
                                + "\n[Unit]\nDescription=Looks once a day for copies that are due\n\n[Timer]\nOnCalendar=*-*-* "
                                + CLOCK.format(at) + ":00\nPersistent=true\nRandomizedDelaySec=300\n\n[Install]\n"
                                + "WantedBy=timers.target\n"));
    }

    private String run(String words) {
        return quoted(command) + " --workspace " + quoted(workspace) + " " + words;
    }

    /** Percent signs are the units' own (systemd.unit(5), specifiers). */
    private static String quoted(Path path) {
        return "\"" + path.toString().replace("%", "%%").replace("$", "$$") + "\"";
    }

    /** The same for who has no systemd; there a missed run is not made up for. */
    public String cronLine() {
        String program = "'" + cron(command) + "' --workspace '" + cron(workspace) + "'";
        return at.getMinute() + " " + at.getHour() + " * * * " + program + " copy run --due; " + program
                + " copy drill --due";
    }

    private static String cron(Path path) {
        return path.toString().replace("'", "'\\''").replace("%", "\\%");
    }
}
