// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.access.BoardState;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.Workbench;
import exordium.jobs.shelf.Intake;
import exordium.store.Boards;
import exordium.store.Media;
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

    private record PlugOut(String board, String port, String medium, String carrier) {}

    private record AttachedOut(String board, List<PlugOut> attached) {}

    @Command(name = "attach", description = "Say that a medium of the register is in a port of a board.")
    int attach(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "PORT") String port,
            @Parameters(paramLabel = "MEDIUM") String medium,
            @Option(
                            names = "--carrier",
                            paramLabel = "announcing|silent",
                            defaultValue = "announcing",
                            description = "whether the carrier it sits in announces itself")
                    String carrier)
            throws IOException {
        Common.Desk desk = common.desk();
        Media.Medium found = desk.bench().records().medium(medium);
        return attached(common, desk, board, desk.boards().plug(desk.bench().board(board), port, found, carrier));
    }

    @Command(name = "detach", description = "Say that a medium was taken out of a board.")
    int detach(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "MEDIUM") String medium)
            throws IOException {
        Common.Desk desk = common.desk();
        Media.Medium found = desk.bench().records().medium(medium);
        return attached(common, desk, board, desk.boards().unplug(desk.bench().board(board), found));
    }

    private static int attached(Common common, Common.Desk desk, String board, BoardState state) {
        List<Media.Medium> media = desk.bench().records().media();
        List<PlugOut> plugs = state.attached().stream()
                .map(plug -> new PlugOut(
                        board,
                        plug.port(),
                        media.stream()
                                .filter(each -> each.file().equals(plug.drive()))
                                .map(Media.Medium::id)
                                .findFirst()
                                .orElse(plug.drive()),
                        plug.carrier()))
                .toList();
        common.print(
                new AttachedOut(board, plugs),
                plugs.isEmpty()
                        ? List.of("Nothing is in " + board + " now.")
                        : plugs.stream()
                                .map(each -> board + "  " + each.port() + "  " + each.medium())
                                .toList());
        return ExitCode.DONE;
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
