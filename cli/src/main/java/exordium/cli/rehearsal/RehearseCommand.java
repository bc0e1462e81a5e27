// SPDX-License-Identifier: Apache-2.0
package exordium.cli.rehearsal;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.RehearsedBoard;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.SingleFaults;
import exordium.core.rehearsal.Trace;
import exordium.jobs.rehearsal.ScenarioFile;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code rehearse}: what a board would do when it is switched on. */
@Command(name = "rehearse", description = "Work out what a board does when it is switched on.")
public final class RehearseCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(paramLabel = "SCENARIO.yaml", arity = "0..1")
    private Path scenario;

    @Option(names = "--board", paramLabel = "ID")
    private String board;

    @Option(names = "--without", paramLabel = "PORT", description = "as if nothing were plugged in there")
    private List<String> without = List.of();

    @Option(names = "--faults", description = "and what it survives: every single thing pulled or spoiled in turn")
    private boolean faults;

    private Common.Desk desk;

    private record FaultOut(
            String fault,
            Optional<String> port,
            String verdict,
            String outcome,
            Optional<String> startedFrom,
            String cause,
            double seconds,
            boolean reachable,
            String text) {}

    private record StepOut(double at, String stage, Optional<String> port, String result, String text) {}

    private record Out(
            String outcome,
            Optional<String> startedFrom,
            Optional<String> rootFrom,
            String cause,
            double seconds,
            boolean reachable,
            List<StepOut> steps,
            List<Common.FindingOut> findings,
            @JsonInclude(JsonInclude.Include.NON_NULL) List<FaultOut> faults,
            @JsonInclude(JsonInclude.Include.NON_NULL) @JsonUnwrapped RehearsedBoard of) {}

    @Override
    public Integer call() throws IOException {
        if ((scenario == null) == (board == null)) {
            throw new UnreadableInput("Give either a scenario file or --board.");
        }
        Bench bench = bench();
        Trace trace = Rehearsal.of(bench);
        List<FaultOut> survived = faults ? faults(SingleFaults.of(bench)) : null;
        RehearsedBoard rehearsed =
                board == null ? null : RehearsedBoard.of(desk, desk.bench().board(board));
        List<String> lines = new ArrayList<>();
        for (Trace.Event event : trace.steps()) {
            lines.add(String.format(
                    Locale.ROOT, "%6.1f s  %-10s %s", event.at(), event.result().code(), event.text()));
        }
        lines.add(trace.outcome().code() + " after " + trace.seconds() + " s"
                + (trace.runs() ? "" : ", cause " + trace.cause().code()));
        lines.addAll(Common.lines(trace.findings()));
        if (survived != null) {
            survived.forEach(each -> lines.add(each.verdict() + ": " + each.text()));
        }
        common.print(
                new Out(
                        trace.outcome().code(),
                        trace.startedFrom(),
                        trace.rootFrom(),
                        trace.cause().code(),
                        trace.seconds(),
                        trace.reachable(),
                        trace.steps().stream()
                                .map(each -> new StepOut(
                                        Math.round(each.at() * 10) / 10.0,
                                        each.stage().code(),
                                        each.port(),
                                        each.result().code(),
                                        each.text()))
                                .toList(),
                        Common.out(trace.findings()),
                        survived,
                        rehearsed),
                lines);
        return ExitCode.DONE;
    }

    private static List<FaultOut> faults(SingleFaults sheet) {
        return sheet.rows().stream()
                .map(row -> new FaultOut(
                        row.fault().code(),
                        row.port(),
                        row.verdict().code(),
                        row.trace().outcome().code(),
                        row.trace().startedFrom(),
                        row.trace().cause().code(),
                        row.trace().seconds(),
                        row.trace().reachable(),
                        row.text()))
                .toList();
    }

    private Bench bench() throws IOException {
        Set<String> pulled = new HashSet<>(without);
        if (scenario != null) {
            Bench bench = ScenarioFile.bench(
                    common.reader(), scenario, common.folder().resolve("profiles"));
            requirePorts(bench.profile(), pulled);
            return bench.without(pulled);
        }
        desk = common.desk();
        var at = desk.bench().board(board);
        requirePorts(at.profile(), pulled);
        return desk.benches().of(at).without(pulled);
    }

    private static void requirePorts(BoardProfile profile, Set<String> ports) throws UnreadableInput {
        List<String> known = profile.ports().stream().map(BoardProfile.Port::id).toList();
        for (String port : ports) {
            if (!known.contains(port)) {
                throw new UnreadableInput("A " + profile.id() + " has no port \"" + port + "\"; there are "
                        + String.join(", ", known) + ".");
            }
        }
    }
}
