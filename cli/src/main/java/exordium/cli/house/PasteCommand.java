// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.PlainText;
import exordium.core.finding.UnreadableInput;
import exordium.core.reading.Fact;
import exordium.core.reading.Pasted;
import exordium.jobs.board.PasteJob;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code paste}: what a terminal or a screen showed, as facts. */
@Command(
        name = "paste",
        description =
                "Read what a terminal or screen showed as facts, each with its line; from standard input without a file.")
public final class PasteCommand implements Callable<Integer> {
    /** More than this is none that anybody pastes; the reader says so. */
    private static final int MOST = (8 << 20) + 1;

    @Mixin
    private Common common;

    @Parameters(paramLabel = "FILE", arity = "0..1")
    private Path file;

    @Option(names = "--board", paramLabel = "ID", description = "whose text it is")
    private String board;

    @Option(names = "--medium", paramLabel = "ID", description = "of which medium it tells, where it does not say")
    private String medium;

    @Option(names = "--put-down", description = "what it tells of the board is told")
    private boolean putDown;

    private record FactOut(String fact, Object value, int line, String of, Optional<String> name) {
        static FactOut of(Fact fact) {
            return new FactOut(
                    fact.fact(),
                    plain(fact.value()),
                    fact.line(),
                    fact.of().code(),
                    fact.name().map(PlainText::line));
        }

        private static Object plain(Object value) {
            if (value instanceof Map<?, ?> fields) {
                Map<String, Object> plain = new java.util.LinkedHashMap<>();
                fields.forEach((name, each) -> plain.put(String.valueOf(name), plain(each)));
                return plain;
            }
            return value instanceof String text ? PlainText.line(text) : value;
        }
    }

    private record PasteOut(
            List<String> kinds,
            List<FactOut> facts,
            List<String> unread,
            Optional<String> putDown,
            List<Common.FindingOut> findings) {}

    @Override
    public Integer call() throws IOException {
        Common.House house = common.house();
        PasteJob job = new PasteJob(house.bench(), house.benches());
        PasteJob.Told told = job.read(text(), Optional.ofNullable(board), Optional.ofNullable(medium));
        Optional<PasteJob.Down> down = putDown ? Optional.of(job.putDown(told)) : Optional.empty();
        Pasted pasted = told.text();
        List<String> lines = new ArrayList<>();
        for (Fact fact : told.facts()) {
            lines.add(fact.line() + "  " + fact.fact() + "  " + PlainText.line(said(fact.value()))
                    + fact.name()
                            .map(name -> "  (" + PlainText.line(name) + ")")
                            .orElse(""));
        }
        if (!pasted.unread().isEmpty()) {
            lines.add(pasted.unread().size() + " lines belong to nothing that is known.");
        }
        down.ifPresent(each -> {
            lines.add(each.said());
            lines.addAll(Common.lines(each.findings()));
        });
        common.print(
                new PasteOut(
                        pasted.kinds(),
                        told.facts().stream().map(FactOut::of).toList(),
                        pasted.unread().stream()
                                .map(each -> PlainText.line(each.text()))
                                .toList(),
                        down.map(PasteJob.Down::said),
                        down.map(each -> Common.out(each.findings())).orElse(List.of())),
                lines);
        return ExitCode.DONE;
    }

    private static String said(Object value) {
        return value instanceof Map<?, ?> fields ? new TreeMap<>(fields).toString() : String.valueOf(value);
    }

    private byte[] text() throws IOException {
        if (file == null) {
            return System.in.readNBytes(MOST);
        }
        if (!Files.isRegularFile(file)) {
            throw new UnreadableInput("There is no file " + file + ".");
        }
        try (InputStream in = Files.newInputStream(file)) {
            return in.readNBytes(MOST);
        }
    }
}
