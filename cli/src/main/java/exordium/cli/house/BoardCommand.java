// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.Workbench;
import exordium.jobs.shelf.Intake;
import exordium.store.Boards;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code board}: puts a board in the register, restarts it, or switches it off and on. */
@Command(
        name = "board",
        description = "Register, list, restart boards, or switch them off.",
        mixinStandardHelpOptions = true)
public final class BoardCommand {
    private record Out(String board, LocalDate firmware, String order, String outcome, String cause, double seconds) {}

    private record BoardOut(String board, String name, String place, String profile) {}

    @Command(name = "new", description = "Put a board in the register.")
    int add(
            @Mixin Common common,
            @Parameters(paramLabel = "NAME") String name,
            @Option(names = "--profile", required = true, paramLabel = "P") String profile,
            @Option(names = "--memory", required = true, paramLabel = "SIZE", description = "such as \"4 GB\"")
                    String memory,
            @Option(names = "--place", paramLabel = "PLACE", defaultValue = "") String place,
            @Option(names = "--firmware", paramLabel = "DATE", description = "as its start screen shows it")
                    LocalDate firmware,
            @Option(names = "--lightly-used") boolean light,
            @Option(names = "--slot-shut-in", description = "the card cannot be reached in its box") boolean shut)
            throws IOException {
        Boards.Board board = new Intake(common.workbench())
                .board(new Intake.NewBoard(
                        name, place, profile, memory, Optional.ofNullable(firmware), Optional.empty(), light, !shut));
        common.print(out(board), List.of(board.id() + " is in the register."));
        return ExitCode.DONE;
    }

    @Command(name = "list", description = "List the boards of the register.")
    int list(@Mixin Common common) throws IOException {
        List<Boards.Board> boards = common.records().boards();
        common.print(
                boards.stream().map(BoardCommand::out).toList(),
                boards.stream()
                        .map(each -> each.id() + "  " + each.name() + ", " + each.place() + ", " + each.profile())
                        .toList());
        return ExitCode.DONE;
    }

    private static BoardOut out(Boards.Board board) {
        return new BoardOut(board.id(), board.name(), board.place(), board.profile());
    }

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
