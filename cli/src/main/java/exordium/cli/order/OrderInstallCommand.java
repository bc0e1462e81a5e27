// SPDX-License-Identifier: Apache-2.0
package exordium.cli.order;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.BadArgument;
import exordium.core.rehearsal.NetworkInstall;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code order install}: what an install over the network needs. */
@Command(
        name = "install",
        description = "What an install over the network needs at a board, its two doors, and how it writes.")
public final class OrderInstallCommand implements Callable<Integer> {
    private record NeedOut(String state, String text) {}

    private record InstallOut(
            String board, boolean listed, String order, List<NeedOut> needs, List<String> steps, boolean ready) {}

    @Mixin
    private Common common;

    @Parameters(paramLabel = "BOARD")
    private String board;

    @Override
    public Integer call() throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        NetworkInstall install = NetworkInstall.of(house.benches().of(at))
                .orElseThrow(
                        () -> new BadArgument("A " + at.profile().id() + " has no install over the network.", board));
        List<String> lines = new ArrayList<>();
        install.needs().forEach(each -> lines.add(word(each.state()) + ": " + each.text()));
        lines.addAll(install.steps());
        lines.add((install.listed() ? "The order has it: " : "With it in the order: ") + install.inOrder());
        common.print(
                new InstallOut(
                        board,
                        install.listed(),
                        install.inOrder(),
                        install.needs().stream()
                                .map(each -> new NeedOut(word(each.state()), each.text()))
                                .toList(),
                        install.steps(),
                        !install.lacks()),
                lines);
        return ExitCode.DONE;
    }

    private static String word(NetworkInstall.State state) {
        return state.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
