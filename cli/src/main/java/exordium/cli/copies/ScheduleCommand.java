// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.copies.schedule.TimerUnits;
import exordium.core.finding.BadArgument;
import exordium.jobs.copies.schedule.ScheduleJob;
import java.io.IOException;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code schedule}: a timer of the user's own systemd that makes due copies, shown before it is put in place, and taken back. */
@Command(
        name = "schedule",
        description = "Show, install or remove a timer that makes due copies.",
        mixinStandardHelpOptions = true)
public final class ScheduleCommand {
    private static final String USUAL = "19:30";

    private record UnitOut(String name, String text) {}

    private record ShowOut(
            String folder, List<UnitOut> units, String cronLine, boolean installed, List<String> installedFiles) {}

    private record InstallOut(List<String> files, boolean running, String text) {}

    private record RemoveOut(List<String> removed) {}

    @Command(name = "show", description = "Show what would be written, and what is installed; nothing is changed.")
    int show(
            @Mixin Common common,
            @Option(names = "--at", paramLabel = "HH:MM", defaultValue = USUAL) String at,
            @Option(names = "--folder", paramLabel = "DIR", description = "of the units") Path folder)
            throws IOException {
        TimerUnits units = units(common, at);
        Path place = Optional.ofNullable(folder).orElseGet(ScheduleJob::usualFolder);
        List<Path> installed = new ScheduleJob(place, false).installed();
        List<String> lines = new ArrayList<>();
        for (TimerUnits.Unit unit : units.units()) {
            lines.add(place.resolve(unit.name()) + ":");
            lines.add(unit.text());
        }
        lines.add("Or this line in a crontab: " + units.cronLine());
        lines.add(installed.isEmpty() ? "Nothing is installed." : "Installed.");
        common.print(
                new ShowOut(
                        place.toString(),
                        units.units().stream()
                                .map(each -> new UnitOut(each.name(), each.text()))
                                .toList(),
                        units.cronLine(),
                        !installed.isEmpty(),
                        installed.stream().map(Path::toString).toList()),
                lines);
        return ExitCode.DONE;
    }

    @Command(name = "install", description = "Write the timer and its service, and start it.")
    int install(
            @Mixin Common common,
            @Option(names = "--at", paramLabel = "HH:MM", defaultValue = USUAL) String at,
            @Option(names = "--folder", paramLabel = "DIR", description = "of the units; systemd is not told then")
                    Path folder)
            throws IOException {
        ScheduleJob job =
                new ScheduleJob(Optional.ofNullable(folder).orElseGet(ScheduleJob::usualFolder), folder == null);
        ScheduleJob.Installed done = job.install(units(common, at));
        common.print(
                new InstallOut(done.files().stream().map(Path::toString).toList(), done.running(), done.words()),
                List.of(done.words()));
        return ExitCode.DONE;
    }

    @Command(name = "remove", description = "Stop the timer and take its files away.")
    int remove(
            @Mixin Common common,
            @Option(names = "--folder", paramLabel = "DIR", description = "of the units; systemd is not told then")
                    Path folder)
            throws IOException {
        List<Path> gone = new ScheduleJob(
                        Optional.ofNullable(folder).orElseGet(ScheduleJob::usualFolder), folder == null)
                .remove();
        common.print(
                new RemoveOut(gone.stream().map(Path::toString).toList()),
                List.of(gone.isEmpty() ? "Nothing of this program's was there." : "The timer is gone."));
        return ExitCode.DONE;
    }

    private static TimerUnits units(Common common, String at) throws BadArgument {
        try {
            return new TimerUnits(
                    LocalTime.parse(at),
                    Path.of(System.getProperty("exordium.command", "/usr/bin/exordium")),
                    common.folder().toAbsolutePath().normalize());
        } catch (DateTimeException e) {
            throw new BadArgument("\"" + at + "\" is no time of day; write it as " + USUAL + ".", at);
        } catch (IllegalArgumentException e) {
            throw new BadArgument("No timer can name " + common.folder() + ": " + e.getMessage() + ".", at);
        }
    }
}
