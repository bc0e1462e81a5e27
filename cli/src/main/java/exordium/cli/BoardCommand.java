// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.core.rehearsal.Trace;
import exordium.jobs.Workbench;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code board}: restarts a virtual board, or switches it off and on. */
@Command(name = "board", description = "Restart a virtual board, or switch it off.", mixinStandardHelpOptions = true)
final class BoardCommand {
    private record Out(String board, LocalDate firmware, String order, String outcome, String cause, double seconds) {}

    @Command(name = "restart", description = "Restart: what was staged takes effect.")
    int restart(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.Desk desk = common.desk();
        return show(common, desk, board, desk.boards().restart(desk.bench().board(board)));
    }

    @Command(name = "switch-off", description = "Switch off and on: what was staged is lost.")
    int switchOff(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.Desk desk = common.desk();
        return show(common, desk, board, desk.boards().switchOff(desk.bench().board(board)));
    }

    private static int show(Common common, Common.Desk desk, String board, Trace trace) throws IOException {
        Workbench.BoardAtHand at = desk.bench().board(board);
        common.print(
                new Out(
                        board,
                        at.board().firmware(),
                        at.order(),
                        trace.outcome().code(),
                        trace.cause().code(),
                        trace.seconds()),
                List.of(board + " runs firmware " + at.board().firmware() + " with order " + at.order() + ": "
                        + trace.outcome().code() + " after " + trace.seconds() + " s"));
        return ExitCode.DONE;
    }
}
