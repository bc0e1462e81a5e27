// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.RehearsedBoard;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Reach;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.ReachCheck;
import exordium.jobs.paper.ReachSheet;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firststart reach}: whether a board is reached after its first start, and how to find it. */
@Command(name = "reach", description = "Tell whether a board is reached after its first start, and how to find it.")
public final class ReachCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(paramLabel = "TARGET", arity = "0..1", description = "a medium; or --board for one of the register")
    private Optional<Path> target;

    @Option(names = "--board", paramLabel = "ID")
    private Optional<String> board;

    @Option(names = "--profile", paramLabel = "P")
    private Optional<String> profile;

    @Option(names = "--mac", paramLabel = "M", defaultValue = "", description = "its hardware address")
    private String mac;

    @Option(names = "--sheet", paramLabel = "FILE.pdf", description = "the same as a page to print or to keep")
    private Optional<Path> sheet;

    private record GrowthOut(String kind, String mark, String text) {}

    private record ReachOut(
            boolean reachable,
            String why,
            boolean login,
            boolean account,
            Optional<String> user,
            Optional<String> address,
            Optional<String> hostName,
            String findBy,
            Optional<String> connect,
            String hostKey,
            List<String> fingerprints,
            GrowthOut growth,
            List<String> needs,
            @JsonInclude(JsonInclude.Include.NON_NULL) @JsonUnwrapped RehearsedBoard of) {}

    @Override
    public Integer call() throws IOException {
        Common.House house = common.house();
        Workbench bench = house.bench();
        RehearsedBoard rehearsed = null;
        String name;
        Reach reach;
        if (board.isPresent() && target.isEmpty()) {
            Workbench.BoardAtHand at = bench.board(board.get());
            name = at.register().name();
            rehearsed = RehearsedBoard.of(house, at);
            reach = new ReachCheck(bench, house.benches())
                    .of(at)
                    .orElseThrow(() -> new UnreadableInput(
                            "Nothing is known of a medium " + at.register().name() + " could start from."));
        } else if (target.isPresent() && profile.isPresent() && board.isEmpty()) {
            name = String.valueOf(target.get().getFileName());
            reach = new ReachCheck(bench)
                    .of(
                            FirstStartCommand.at(common.readable(), target.get()),
                            bench.profiles().require(profile.get()),
                            mac);
        } else {
            throw new BadArgument("Say either --board ID, or a medium and --profile P.", "reach");
        }
        if (sheet.isPresent()) {
            common.message("The sheet is in " + ReachSheet.save(name, reach, sheet.get()) + ".");
        }
        common.print(out(reach, rehearsed), lines(reach));
        return ExitCode.DONE;
    }

    private static ReachOut out(Reach reach, RehearsedBoard rehearsed) {
        return new ReachOut(
                reach.reachable(),
                reach.why(),
                reach.login(),
                reach.account(),
                reach.user(),
                reach.address(),
                reach.hostName(),
                reach.findBy(),
                reach.connect(),
                reach.hostKey(),
                reach.fingerprints(),
                new GrowthOut(
                        reach.growth()
                                .kind()
                                .name()
                                .toLowerCase(java.util.Locale.ROOT)
                                .replace('_', '-'),
                        reach.growth().mark(),
                        reach.growth().finding().text()),
                reach.needs(),
                rehearsed);
    }

    private static List<String> lines(Reach reach) {
        List<String> lines = new ArrayList<>();
        lines.add((reach.reachable() ? "reached: " : "not reached: ") + reach.why());
        lines.add("find it: " + reach.findBy());
        reach.connect().ifPresent(line -> lines.add("type:    " + line));
        lines.add("key:     " + reach.hostKey());
        reach.fingerprints().forEach(each -> lines.add("         " + each));
        reach.needs().forEach(each -> lines.add("needs:   " + each));
        return lines;
    }
}
