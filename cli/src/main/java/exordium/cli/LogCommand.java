// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.store.Logbook;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code log}: the logbook. */
@Command(name = "log", description = "Show the logbook.")
final class LogCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Option(names = "--csv", description = "as comma-separated values")
    private boolean csv;

    private record Out(long id, Instant at, Optional<String> board, String step, String kind, String text) {}

    @Override
    public Integer call() throws IOException {
        List<Logbook.Entry> entries = common.workspace().log().all();
        List<String> lines = new ArrayList<>();
        if (csv) {
            lines.add("at,board,step,kind,text");
        }
        for (Logbook.Entry entry : entries) {
            lines.add(csv ? csv(entry) : entry.at() + "  " + entry.text());
        }
        common.print(
                entries.stream()
                        .map(each -> new Out(each.id(), each.at(), each.board(), each.step(), each.kind(), each.text()))
                        .toList(),
                lines);
        return ExitCode.DONE;
    }

    /** RFC 4180: fields with a comma, a quote or a line break are quoted, quotes doubled. */
    private static String csv(Logbook.Entry entry) {
        return String.join(
                ",", entry.at().toString(), entry.board().orElse(""), entry.step(), entry.kind(), quoted(entry.text()));
    }

    private static String quoted(String text) {
        return "\"" + text.replace("\"", "\"\"") + "\"";
    }
}
