// SPDX-License-Identifier: Apache-2.0
package exordium.cli.order;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.access.HandSteps;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Workbench;
import exordium.jobs.order.OrderJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code order}: reads and writes down start orders. */
@Command(name = "order", description = "Decode, encode and stage start orders.", mixinStandardHelpOptions = true)
public final class OrderCommand {
    private record Out(String value, List<StartSource> sources, List<Common.FindingOut> findings) {}

    private record EncodedOut(String value, List<StartSource> sources) {}

    private record StagedOut(String board, String reach, String value, String note, List<String> steps) {}

    @Command(name = "decode", description = "Say what a stored order means.")
    int decode(
            @Mixin Common common,
            @Option(names = "--profile", required = true) String profile,
            @Parameters(paramLabel = "VALUE") String value)
            throws IOException {
        DecodedOrder order = OrderDialect.of(common.profile(profile)).decode(value);
        List<String> lines = new ArrayList<>();
        if (!order.sources().isEmpty()) {
            lines.add(order.sources().stream().map(StartSource::code).collect(Collectors.joining(", ")));
        }
        lines.addAll(Common.lines(order.findings()));
        common.print(new Out(order.value(), order.sources(), Common.out(order.findings())), lines);
        return Finding.anyStops(order.findings()) ? ExitCode.BAD_INPUT : ExitCode.DONE;
    }

    @Command(name = "encode", description = "Write sources down as the board stores them.")
    int encode(
            @Mixin Common common,
            @Option(names = "--profile", required = true) String profile,
            @Parameters(paramLabel = "a,b,c") String list)
            throws IOException {
        List<StartSource> sources = new ArrayList<>();
        for (String code : list.split(",")) {
            sources.add(StartSource.find(code.strip())
                    .orElseThrow(() -> new UnreadableInput("\"" + code.strip() + "\" is no source; there are "
                            + Arrays.stream(StartSource.values())
                                    .map(StartSource::code)
                                    .collect(Collectors.joining(", "))
                            + ".")));
        }
        String value = OrderDialect.of(common.profile(profile)).encode(sources);
        common.print(new EncodedOut(value, sources), List.of(value));
        return ExitCode.DONE;
    }

    @Command(name = "stage", description = "Stage an order on a board; it counts from the next restart.")
    int stage(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "VALUE") String value)
            throws IOException {
        Common.Desk desk = common.desk();
        new OrderJob(desk.bench()).stage(desk.bench().board(board), value);
        Workbench.BoardAtHand at = desk.bench().board(board);
        String note = at.register().byHand()
                ? value + " is to be set at " + board + ":"
                : value + " is staged on " + board + "; restart it, do not switch it off.";
        List<String> steps = at.register().byHand()
                ? HandSteps.restart(at.profile(), at.board().chip())
                : List.of();
        List<String> lines = new ArrayList<>(List.of(note));
        lines.addAll(steps);
        common.print(new StagedOut(board, at.register().reach().code(), value, note, steps), lines);
        return ExitCode.DONE;
    }
}
