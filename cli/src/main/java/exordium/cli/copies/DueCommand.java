// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
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
    @Mixin
    private Common common;

    @Option(names = "--ics", paramLabel = "FILE", description = "write an iCalendar file as well")
    private Path ics;

    @Override
    public Integer call() throws IOException {
        Common.Desk desk = common.desk();
        List<DueCalendar.Entry> entries = DueCalendar.entries(desk.bench(), desk.sheets());
        if (ics != null) {
            Files.writeString(
                    ics, DueCalendar.iCalendar(entries, desk.bench().clock().instant()));
        }
        common.print(
                entries,
                entries.stream()
                        .map(each -> each.date() + "  " + each.name() + (each.overdue() ? "  overdue" : "") + "  "
                                + each.reason())
                        .toList());
        return ExitCode.DONE;
    }
}
