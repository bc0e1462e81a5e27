// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.jobs.paper.CopySheets;
import exordium.jobs.paper.DueCalendar;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code due}: when the next copies are due. */
@Command(name = "due", description = "Show when the next copies are due.")
public final class DueCommand implements Callable<Integer> {
    private static final int ROUND_DAYS = 14;

    @Mixin
    private Common common;

    @Option(names = "--ics", paramLabel = "FILE", description = "write an iCalendar file as well")
    private Path ics;

    @Option(
            names = "--round",
            paramLabel = "FILE",
            description = "write the round to those of the next two weeks as a PDF")
    private Path round;

    @Override
    public Integer call() throws IOException {
        Common.House house = common.house();
        List<DueCalendar.Entry> entries = DueCalendar.entries(house.bench(), house.sheets());
        if (ics != null) {
            Files.writeString(
                    ics, DueCalendar.iCalendar(entries, house.bench().clock().instant()));
        }
        if (round != null) {
            CopySheets.round(house.bench(), house.sheets(), ROUND_DAYS, round);
        }
        common.print(
                entries,
                entries.stream()
                        .map(each -> each.date() + "  " + each.name() + (each.overdue() ? "  overdue" : "") + "  "
                                + each.reason()
                                + (each.planned().equals(each.date()) ? "" : " Planned for " + each.planned() + "."))
                        .toList());
        return ExitCode.DONE;
    }
}
