// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.KnownOut;
import exordium.cli.common.PlugOut;
import exordium.core.access.BoardWays;
import exordium.core.access.CarrierKind;
import exordium.core.access.Knowledge;
import exordium.core.access.Sighting;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareChip;
import exordium.core.quantity.Coded;
import exordium.core.reading.BoardScript;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.board.SightingJob;
import exordium.jobs.paper.ScriptSheet;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code board}: what is known of a board, what is in it, what was seen at it; restarts it, or switches it off and on. */
@Command(
        name = "board",
        description = "Register, list, restart boards, or switch them off.",
        mixinStandardHelpOptions = true)
public final class BoardCommand {
    private record BoardPrinted(
            String board,
            String reach,
            Optional<LocalDate> firmware,
            @JsonUnwrapped(prefix = "firmware") KnownOut firmwareKnown,
            String order,
            @JsonUnwrapped(prefix = "order") KnownOut orderKnown,
            Optional<String> outcome,
            Optional<String> cause,
            Optional<Double> seconds,
            List<String> steps) {}

    /** What can be said of a board, new or known. */
    static final class Words {
        @Option(names = "--place", paramLabel = "PLACE")
        private Optional<String> place = Optional.empty();

        @Option(
                names = "--reach",
                paramLabel = "simulated|by-hand",
                description = "the program plays it, or you act at it")
        private Optional<String> reach = Optional.empty();

        @Option(names = "--supply", paramLabel = "S", description = "such as \"5 V 3 A\", or poe-af, poe-at, poe-bt")
        private Optional<String> supply = Optional.empty();

        @Option(names = "--serial", paramLabel = "S")
        private Optional<String> serial = Optional.empty();

        @Option(names = "--mac", paramLabel = "M", description = "hardware address of its network socket")
        private Optional<String> mac = Optional.empty();

        @Option(names = "--firmware", paramLabel = "DATE", description = "as its start screen shows it")
        private Optional<LocalDate> firmware = Optional.empty();

        @Option(names = "--channel", paramLabel = "default|latest|beta")
        private Optional<String> channel = Optional.empty();

        @Option(names = "--order", paramLabel = "VALUE", description = "its start order, as it is stored")
        private Optional<String> order = Optional.empty();

        @Option(names = "--overlay", paramLabel = "on|off", description = "whether its read-only overlay is on")
        private Optional<String> overlay = Optional.empty();

        @Option(
                names = "--carrier",
                paramLabel = "C",
                description = "such as \"silent 2230,2242\", \"announcing\", or usual")
        private Optional<String> carrier = Optional.empty();

        @Option(names = "--lightly-used", negatable = true, description = "copies are due less often")
        private Boolean light;

        @Option(names = "--slot-shut-in", negatable = true, description = "the card cannot be reached in its box")
        private Boolean shut;

        @Option(names = "--note", paramLabel = "TEXT")
        private Optional<String> note = Optional.empty();

        private BoardRegister.Description description(
                Optional<String> name, Optional<String> profile, Optional<String> memory) throws BadArgument {
            return new BoardRegister.Description(
                    name,
                    place,
                    profile,
                    memory,
                    coded(reach, BoardWays::of),
                    supply,
                    serial,
                    mac,
                    firmware,
                    coded(channel, word -> Coded.of(Channel.class, word)),
                    order,
                    overlay.isPresent() ? Optional.of(isOn(overlay.get())) : Optional.empty(),
                    carrier,
                    Optional.ofNullable(light),
                    Optional.ofNullable(shut).map(each -> !each),
                    note);
        }

        private static boolean isOn(String word) throws BadArgument {
            if (!List.of("on", "off").contains(word)) {
                throw new BadArgument("The overlay is on or off, not \"" + word + "\".", word);
            }
            return word.equals("on");
        }

        /** Asked for by its code. @throws BadArgument naming those there are */
        private static <T> Optional<T> coded(Optional<String> word, Function<String, T> of) throws BadArgument {
            try {
                return word.map(of);
            } catch (IllegalArgumentException e) {
                throw new BadArgument(e.getMessage(), word.orElseThrow());
            }
        }
    }

    @Command(name = "new", description = "Put a board in the register.")
    int add(
            @Mixin Common common,
            @Parameters(paramLabel = "NAME") String name,
            @Option(names = "--profile", required = true, paramLabel = "P") String profile,
            @Option(names = "--memory", required = true, paramLabel = "SIZE", description = "such as \"4 GB\"")
                    String memory,
            @Mixin Words words)
            throws IOException {
        Common.House house = common.house();
        Boards.Board board = new BoardRegister(house.bench())
                .add(words.description(Optional.of(name), Optional.of(profile), Optional.of(memory)));
        common.print(
                BoardOut.of(house, house.bench().board(board.id()), List.of()),
                List.of(board.id() + " is in the register, " + board.way().meaning() + "."));
        return ExitCode.DONE;
    }

    @Command(name = "edit", description = "Change what is known of a board; what is not named stays.")
    int edit(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--name", paramLabel = "NAME") Optional<String> name,
            @Option(names = "--profile", paramLabel = "P") Optional<String> profile,
            @Option(names = "--memory", paramLabel = "SIZE") Optional<String> memory,
            @Mixin Words words)
            throws IOException {
        Common.House house = common.house();
        new BoardRegister(house.bench()).edit(house.bench().board(board), words.description(name, profile, memory));
        return known(common, house, board, List.of());
    }

    @Command(name = "told", description = "Put down what you saw at a board by hand.")
    int told(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--firmware", paramLabel = "DATE") Optional<LocalDate> firmware,
            @Option(names = "--order", paramLabel = "VALUE") Optional<String> order,
            @Option(names = "--root", paramLabel = "DEVICE", description = "what holds /, such as /dev/nvme0n1p2")
                    Optional<String> root,
            @Option(names = "--started", paramLabel = "PORT", description = "what it started from")
                    Optional<String> started,
            @Option(names = "--trouble", paramLabel = "TEXT", description = "what went wrong, when it did not start")
                    Optional<String> trouble)
            throws IOException {
        Common.House house = common.house();
        SightingJob.Outcome outcome = new SightingJob(house.bench(), house.benches())
                .told(house.bench().board(board), new Sighting(firmware, order, root, started, trouble));
        return known(common, house, board, Common.out(outcome.findings()));
    }

    private record ScriptOut(String script, List<String> commands, Optional<String> file) {}

    @Command(
            name = "script",
            description = "Print the script that asks a board what it is; run there, what it prints is pasted.")
    int script(
            @Mixin Common common,
            @Option(names = "--out", paramLabel = "FILE", description = "write it there; as a page to print for a .pdf")
                    Optional<Path> out)
            throws IOException {
        boolean paper = out.filter(file -> file.toString().endsWith(".pdf")).isPresent();
        if (paper && !Files.exists(out.get())) {
            ScriptSheet.save(out.get());
        } else if (out.isPresent()) {
            if (Files.exists(out.get())) {
                throw new UnreadableInput("There is a file " + out.get() + " already; nothing was written.");
            }
            Files.writeString(out.get(), BoardScript.text());
        }
        common.print(
                new ScriptOut(BoardScript.text(), BoardScript.commands(), out.map(Path::toString)),
                out.isPresent()
                        ? List.of("It is in " + out.get() + ". At the board: sh "
                                + out.get().getFileName() + "; then paste what it prints.")
                        : BoardScript.text().lines().toList());
        return ExitCode.DONE;
    }

    @Command(name = "show", description = "Say what is known of a board, and how.")
    int show(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        return known(common, common.house(), board, List.of());
    }

    private static int known(Common common, Common.House house, String board, List<Common.FindingOut> findings)
            throws IOException {
        BoardOut out = BoardOut.of(house, house.bench().board(board), findings);
        common.print(out, out.lines());
        return ExitCode.DONE;
    }

    @Command(name = "list", description = "List the boards of the register.")
    int list(@Mixin Common common) throws IOException {
        Common.House house = common.house();
        PlugOut.Plugs plugs = new PlugOut.Plugs(house);
        List<BoardOut> boards = new ArrayList<>();
        for (Boards.Board each : house.bench().records().boards()) {
            boards.add(BoardOut.of(plugs, house.bench().atHand(each), List.of()));
        }
        common.print(
                boards,
                boards.stream()
                        .map(each -> each.board() + "  " + each.name() + ", " + each.place() + ", " + each.profile()
                                + ", " + each.reach())
                        .toList());
        return ExitCode.DONE;
    }

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
                    String carrier,
            @Option(
                            names = "--enclosure",
                            paramLabel = "ID",
                            description = "what it stands in, where it does not go in as it is")
                    String enclosure)
            throws IOException {
        Common.House house = common.house();
        Media.Medium found = house.bench().records().medium(medium);
        house.boards()
                .plug(
                        house.bench().board(board),
                        port,
                        found,
                        CarrierKind.require(carrier),
                        Optional.ofNullable(enclosure));
        return attached(common, house, board);
    }

    @Command(name = "detach", description = "Say that a medium was taken out of a board.")
    int detach(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "MEDIUM") String medium)
            throws IOException {
        Common.House house = common.house();
        Media.Medium found = house.bench().records().medium(medium);
        house.boards().unplug(house.bench().board(board), found);
        return attached(common, house, board);
    }

    private static int attached(Common common, Common.House house, String board) throws IOException {
        List<PlugOut> plugs = PlugOut.of(house, house.bench().board(board));
        common.print(
                new AttachedOut(board, plugs),
                plugs.isEmpty()
                        ? List.of("Nothing is in " + board + " now.")
                        : plugs.stream()
                                .map(each -> board + "  " + each.port() + "  " + each.medium())
                                .toList());
        return ExitCode.DONE;
    }

    @Command(name = "read", description = "Have a board looked at and keep what it shows, where its way can.")
    int read(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.House house = common.house();
        SightingJob.Outcome outcome = new SightingJob(house.bench(), house.benches())
                .looked(house.bench().board(board));
        return known(common, house, board, Common.out(outcome.findings()));
    }

    @Command(name = "restart", description = "Restart: what was staged takes effect.")
    int restart(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(
                            names = "--cut-after",
                            paramLabel = "BYTES",
                            description =
                                    "of a virtual board: the power fails when so many bytes have gone to its firmware chip")
                    Long cutAfter)
            throws IOException {
        Common.House house = common.house();
        if (cutAfter != null) {
            if (cutAfter < 0) {
                throw new BadArgument(
                        "The power fails after 0 bytes or more, not " + cutAfter + ".", cutAfter.toString());
            }
            return came(
                    common, house, board, house.boards().powerCut(house.bench().board(board), cutAfter));
        }
        return came(common, house, board, house.boards().restart(house.bench().board(board)));
    }

    @Command(name = "switch-off", description = "Switch off and on: what was staged is lost.")
    int switchOff(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.House house = common.house();
        return came(common, house, board, house.boards().switchOff(house.bench().board(board)));
    }

    private static int came(Common common, Common.House house, String board, BoardJobs.Carried carried)
            throws IOException {
        Workbench.BoardAtHand at = house.bench().board(board);
        Knowledge told = at.board().known();
        List<String> lines = new ArrayList<>(carried.steps());
        carried.trace()
                .ifPresent(trace -> lines.add(
                        board + " runs firmware " + FirmwareChip.said(at.board().firmware()) + " with order "
                                + at.order() + ": " + trace.outcome().code() + " after " + trace.seconds() + " s"));
        common.print(
                new BoardPrinted(
                        board,
                        at.register().way().code(),
                        FirmwareChip.known(at.board().firmware()),
                        KnownOut.of(told.firmware()),
                        at.order(),
                        KnownOut.of(told.order()),
                        carried.trace().map(trace -> trace.outcome().code()),
                        carried.trace().map(trace -> trace.cause().code()),
                        carried.trace().map(Trace::seconds),
                        carried.steps()),
                lines);
        return ExitCode.DONE;
    }
}
