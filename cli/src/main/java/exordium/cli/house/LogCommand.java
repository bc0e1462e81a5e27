// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.PlainText;
import exordium.store.Logbook;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.apache.commons.csv.CSVFormat;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code log}: the logbook. */
@Command(name = "log", description = "Show the logbook.")
public final class LogCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Option(names = "--csv", description = "as comma-separated values")
    private boolean csv;

    private record LogOut(long id, Instant at, Optional<String> board, String step, String kind, String text) {}

    @Override
    public Integer call() throws IOException {
        List<Logbook.Entry> entries = common.records().log();
        List<LogOut> out = entries.stream()
                .map(each -> new LogOut(each.id(), each.at(), each.board(), each.step(), each.kind(), each.text()))
                .toList();
        if (csv) {
            common.printText(out, String.join("\n", csv(entries)));
        } else {
            common.print(
                    out,
                    entries.stream()
                            .map(entry -> Common.said(entry.at()) + "  " + entry.text())
                            .toList());
        }
        return ExitCode.DONE;
    }

    /** RFC 4180, with a line of names first. */
    private static List<String> csv(List<Logbook.Entry> entries) {
        CSVFormat format = CSVFormat.RFC4180;
        List<String> lines = new ArrayList<>();
        lines.add(format.format("at", "board", "step", "kind", "text"));
        entries.forEach(entry -> lines.add(format.format(
                entry.at(),
                entry.board().orElse(""),
                entry.step(),
                entry.kind(),
                PlainText.cell(PlainText.line(entry.text())))));
        return lines;
    }
}
