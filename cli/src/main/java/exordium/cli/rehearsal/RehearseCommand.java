// SPDX-License-Identifier: Apache-2.0
package exordium.cli.rehearsal;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.RehearsedBoard;
import exordium.cli.common.StartOut;
import exordium.core.access.BoardState;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.UnpackingRoom;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.TwoTraces;
import exordium.core.rehearsal.faults.SingleFaults;
import exordium.jobs.bench.Workbench;
import exordium.jobs.rehearsal.ScenarioFile;
import exordium.jobs.rehearsal.real.AgainstReal;
import exordium.jobs.rehearsal.real.Compared;
import exordium.jobs.rehearsal.real.RealBench;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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

    @Option(
            names = "--against-real",
            description =
                    "and whether U-Boot, EDK2 and a Linux kernel do the same with these drives, where they are installed"
                            + " (from the program's sources only)")
    private boolean againstReal;

    @Option(names = "--beside", paramLabel = "SCENARIO.yaml", description = "and a second start laid over it")
    private Path beside;

    @Option(
            names = "--beside-order",
            paramLabel = "VALUE",
            description = "and its start with another order laid over it")
    private String besideOrder;

    private Common.House house;

    private record RowOut(
            String stage, Optional<String> port, boolean both, Optional<String> text, Optional<String> besideText) {}

    private record BesideOut(
            String text,
            String outcome,
            Optional<String> startedFrom,
            Optional<String> rootFrom,
            String cause,
            double seconds,
            List<RowOut> rows) {}

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

    private record PointOut(String what, String rehearsed, String real, boolean agrees) {}

    private record RealOut(
            String peer,
            Optional<Boolean> agrees,
            List<PointOut> points,
            List<String> notShown,
            @JsonInclude(JsonInclude.Include.NON_NULL) String log) {}

    private record RehearseOut(
            @JsonUnwrapped StartOut start,
            @JsonInclude(JsonInclude.Include.NON_NULL) List<FaultOut> faults,
            @JsonInclude(JsonInclude.Include.NON_NULL) List<RealOut> againstReal,
            @JsonInclude(JsonInclude.Include.NON_NULL) BesideOut beside,
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
                board == null ? null : RehearsedBoard.of(house, house.bench().board(board));
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
        TwoTraces both = besides(bench, trace);
        if (both != null) {
            lines.add(both.text("this one", "the other"));
        }
        AgainstReal real = againstReal ? AgainstReal.of(bench, drives(), UnpackingRoom.folder()) : null;
        if (real != null) {
            lines.addAll(lines(real));
        }
        common.print(
                new RehearseOut(
                        StartOut.of(trace),
                        survived,
                        real == null ? null : out(real),
                        both == null ? null : out(both),
                        rehearsed),
                lines);
        if (real == null) {
            return ExitCode.DONE;
        }
        return real.compared().isEmpty() ? ExitCode.FAILED : real.agrees() ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private TwoTraces besides(Bench bench, Trace trace) throws IOException {
        if (beside != null && besideOrder != null) {
            throw new UnreadableInput("Give either --beside or --beside-order.");
        }
        if (beside != null) {
            Bench other =
                    ScenarioFile.bench(common.reader(), beside, common.folder().resolve("profiles"));
            return TwoTraces.of(trace, Rehearsal.of(other));
        }
        return besideOrder == null ? null : TwoTraces.of(trace, Rehearsal.of(bench.withOrder(besideOrder)));
    }

    private static BesideOut out(TwoTraces both) {
        Trace other = both.other();
        return new BesideOut(
                both.text("this one", "the other"),
                other.outcome().code(),
                other.startedFrom(),
                other.rootFrom(),
                other.cause().code(),
                other.seconds(),
                both.rows().stream()
                        .map(row -> {
                            Trace.Event event = row.one().or(row::other).orElseThrow();
                            return new RowOut(
                                    event.stage().code(),
                                    event.port(),
                                    row.both(),
                                    row.one().map(Trace.Event::text),
                                    row.other().map(Trace.Event::text));
                        })
                        .toList());
    }

    private static List<String> lines(AgainstReal real) {
        List<String> lines = new ArrayList<>();
        for (Compared compared : real.compared()) {
            for (Compared.Point point : compared.points()) {
                lines.add(compared.peer() + ", " + point.what() + ": "
                        + (point.agrees()
                                ? "as rehearsed, " + point.real()
                                : "rehearsed " + point.rehearsed() + ", but it did " + point.real()));
            }
            compared.left().forEach(each -> lines.add(compared.peer() + ": " + each));
        }
        real.silent().forEach((peer, why) -> lines.add(peer + ": not asked. " + why));
        return lines;
    }

    /** What it said comes along where it did something else. */
    private static List<RealOut> out(AgainstReal real) {
        List<RealOut> all = new ArrayList<>();
        for (Compared compared : real.compared()) {
            all.add(new RealOut(
                    compared.peer(),
                    Optional.of(compared.agrees()),
                    compared.points().stream()
                            .map(each -> new PointOut(each.what(), each.rehearsed(), each.real(), each.agrees()))
                            .toList(),
                    compared.left(),
                    compared.agrees() ? null : compared.log()));
        }
        real.silent()
                .forEach((peer, why) -> all.add(new RealOut(peer, Optional.empty(), List.of(), List.of(why), null)));
        return all;
    }

    private Map<String, RealBench.Drive> drives() throws IOException {
        Map<String, RealBench.Drive> drives = new HashMap<>();
        if (scenario != null) {
            drives.putAll(ScenarioFile.drives(common.reader(), scenario));
        } else {
            Workbench workbench = house.bench();
            for (BoardState.Plug plug : workbench.board(board).board().attached()) {
                Path file = workbench.driveFile(plug.drive());
                if (Files.isRegularFile(file)) {
                    drives.put(plug.port(), ScenarioFile.drive(common.reader(), file));
                }
            }
        }
        without.forEach(drives::remove);
        return drives;
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
        house = common.house();
        var at = house.bench().board(board);
        requirePorts(at.profile(), pulled);
        return house.benches().of(at).without(pulled);
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
