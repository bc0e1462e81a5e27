// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.access.BoardWay;
import exordium.core.access.Knowledge;
import exordium.core.access.Known;
import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.finding.BadArgument;
import exordium.core.finding.NameTaken;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.Supply;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import exordium.jobs.shelf.Intake;
import exordium.store.Boards;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The boards of the workspace as their owner describes them. */
public final class BoardRegister {
    private static final JobRunner.DeedKind ADD = JobRunner.DeedKind.keyed(
            "board-add", Step.STORAGE, "putting in the register", "It is not in the register.");
    private static final JobRunner.DeedKind EDIT = JobRunner.DeedKind.reading("board-edit", Step.STORAGE, "changing");

    private final Workbench workbench;

    public BoardRegister(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * What a board has, as a person says it. What is empty is left as it is, or for a new board as its family usually has it.
     *
     * @param supply such as {@code 5 V 3 A} or {@code poe-at}
     * @param firmware the release it runs, as its start screen shows it
     * @param carrier such as {@code silent 2230,2242}, or {@code usual}
     */
    public record Description(
            Optional<String> name,
            Optional<String> place,
            Optional<String> profile,
            Optional<String> memory,
            Optional<BoardWay> way,
            Optional<String> supply,
            Optional<String> serial,
            Optional<String> mac,
            Optional<LocalDate> firmware,
            Optional<Channel> channel,
            Optional<String> order,
            Optional<Boolean> overlay,
            Optional<String> carrier,
            Optional<Boolean> lightlyUsed,
            Optional<Boolean> slotReachable,
            Optional<String> note) {

        /** Nothing is said. */
        public static final Description NOTHING = new Description(
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());

        /** The same with a serial and a hardware address. */
        public Description with(Optional<String> ownSerial, Optional<String> ownMac) {
            return new Description(
                    name,
                    place,
                    profile,
                    memory,
                    way,
                    supply,
                    ownSerial,
                    ownMac,
                    firmware,
                    channel,
                    order,
                    overlay,
                    carrier,
                    lightlyUsed,
                    slotReachable,
                    note);
        }

        /** What a new board cannot do without. */
        public static Description of(String name, String profile, String memory) {
            return NOTHING.of(Optional.of(name), Optional.of(profile), Optional.of(memory));
        }

        private Description of(Optional<String> called, Optional<String> family, Optional<String> size) {
            return new Description(
                    called,
                    place,
                    family,
                    size,
                    way,
                    supply,
                    serial,
                    mac,
                    firmware,
                    channel,
                    order,
                    overlay,
                    carrier,
                    lightlyUsed,
                    slotReachable,
                    note);
        }

        boolean isEmpty() {
            return List.of(
                            name,
                            place,
                            profile,
                            memory,
                            way,
                            supply,
                            serial,
                            mac,
                            firmware,
                            channel,
                            order,
                            overlay,
                            carrier,
                            lightlyUsed,
                            slotReachable,
                            note)
                    .stream()
                    .allMatch(Optional::isEmpty);
        }
    }

    /** @throws UnreadableInput when the name is missing or taken, or something is none there is */
    public Boards.Board add(Description wanted) throws IOException {
        String name = required(wanted.name(), "a name");
        BoardProfile profile = workbench.profiles().require(required(wanted.profile(), "a family"));
        String id = Intake.identifier(name, "board");
        if (workbench.workspace().boards().all().stream()
                .anyMatch(board -> board.id().equals(id))) {
            throw taken(id);
        }
        Boards.Board plain = new Boards.Board(
                id, name, "Workbench", profile.id(), workbench.rules().channel(), false, true, ByteSize.ZERO);
        LocalDate firmware = wanted.firmware().orElseGet(() -> workbench.firmware().of(profile.id()).stream()
                .findFirst()
                .map(FirmwareRelease::version)
                .orElse(FirmwareChip.NOT_KNOWN));
        BoardState fresh = new BoardState(
                profile.id(),
                required(wanted.memory(), "its memory"),
                "",
                "",
                profile.power().supply(),
                FirmwareChip.running(
                        firmware, profile.order().key() + "=" + profile.order().usual()),
                false,
                List.of());
        Boards.Board board = entry(plain, wanted);
        BoardState state = described(board, profile, fresh, wanted, true);
        String words = "a " + profile.id() + " with " + state.memory() + ", "
                + board.way().said() + ", put in the register"
                + (wanted.firmware().isPresent() || !profile.firmware().updatable()
                        ? "."
                        : firmware.equals(FirmwareChip.NOT_KNOWN)
                                ? "; which firmware it runs is not known."
                                : "; its firmware is not known and taken as the oldest, " + firmware + ".");
        return new JobRunner(workbench).keyed(ADD, Key.board(id), Optional.empty(), () -> {
            if (workbench.workspace().boards().all().stream()
                    .anyMatch(each -> each.id().equals(id))) {
                throw taken(id);
            }
            workbench.boards().create(id, state);
            workbench.workspace().inTransaction(() -> {
                workbench.workspace().boards().add(board);
                workbench
                        .workspace()
                        .log()
                        .add(Optional.of(id), Step.STORAGE, "board-added", name + ": " + words, Optional.empty());
                return null;
            });
            return new JobRunner.Outcome<>(board, "", "");
        });
    }

    private static NameTaken taken(String id) {
        return new NameTaken("There is a board \"" + id + "\" already; give this one another name.", id);
    }

    /** Changes what is said of a board; the rest stays. @throws UnreadableInput when nothing or something impossible is said */
    public Boards.Board edit(Workbench.BoardAtHand at, Description wanted) throws IOException {
        if (wanted.isEmpty()) {
            throw new UnreadableInput(
                    "Say what is to be changed of " + at.register().name() + "; nothing was changed.");
        }
        BoardProfile profile = wanted.profile().isPresent()
                ? workbench.profiles().require(wanted.profile().get())
                : at.profile();
        return new BoardDeed(workbench, at).run(EDIT, now -> {
            Boards.Board board = entry(now.at().register(), wanted);
            workbench
                    .boards()
                    .change(
                            board.id(),
                            before -> described(
                                    board,
                                    wanted.profile().isPresent()
                                            ? profile
                                            : now.at().profile(),
                                    before,
                                    wanted,
                                    false));
            workbench.workspace().boards().change(board);
            return now.outcome(board, "board-edited", "What is known of it was changed by its owner.");
        });
    }

    /** Its system was made read-only, or is so no more. */
    public void overlay(Workbench.BoardAtHand at, boolean on) throws IOException {
        new BoardDeed(workbench, at).run(EDIT, now -> {
            workbench.boards().change(now.at().register().id(), before -> before.withOverlay(on));
            return now.outcome(
                    on, "board-edited", on ? "Its system is read-only." : "Its system is read-only no more.");
        });
    }

    private static String required(Optional<String> text, String what) throws UnreadableInput {
        return text.map(String::strip)
                .filter(each -> !each.isEmpty())
                .orElseThrow(() -> new UnreadableInput("A board needs " + what + "."));
    }

    private static Boards.Board entry(Boards.Board before, Description wanted) throws UnreadableInput {
        return new Boards.Board(
                before.id(),
                wanted.name().isPresent() ? required(wanted.name(), "a name") : before.name(),
                wanted.place()
                        .map(String::strip)
                        .filter(each -> !each.isEmpty())
                        .orElse(before.place()),
                wanted.profile().orElse(before.profile()),
                wanted.channel().orElse(before.channel()),
                wanted.lightlyUsed().orElse(before.lightlyUsed()),
                wanted.slotReachable().orElse(before.slotReachable()),
                before.dailyWrites(),
                wanted.way().orElse(before.way()),
                wanted.note().map(String::strip).orElse(before.note()));
    }

    private BoardState described(
            Boards.Board board, BoardProfile profile, BoardState before, Description wanted, boolean fresh)
            throws IOException {
        String memory = memory(profile, wanted.memory().orElse(before.memory()));
        requirePorts(profile, before);
        FirmwareChip chip = before.chip();
        if (wanted.firmware().isPresent()) {
            LocalDate release = BoardChecks.notLater(wanted.firmware().get(), workbench.today());
            chip = new FirmwareChip(
                    release, chip.config(), chip.staged().filter(each -> !each.equals(release)), chip.stagedConfig());
        }
        if (wanted.order().isPresent()) {
            chip = BoardChecks.ordered(profile, chip, wanted.order().get());
        } else if (!before.profile().equals(profile.id())) {
            chip = BoardChecks.ordered(profile, chip, profile.order().usual());
        }
        if (board.can(Ability.ALWAYS_READ) && !before.known().equals(Knowledge.NOTHING)) {
            // What was to be set at it by hand was never set in the board the program plays from now on.
            chip = chip.switchOff();
        }
        String serial =
                wanted.serial().isPresent() ? serial(board, wanted.serial().get()) : before.serial();
        String mac = wanted.mac().isPresent() ? mac(board, wanted.mac().get()) : before.mac();
        Supply supply = wanted.supply().isPresent()
                ? Supply.parse(wanted.supply().get(), profile.power().supply())
                : before.supply();
        Optional<BoardState.Carrier> carrier = wanted.carrier().isPresent()
                ? BoardState.Carrier.parse(wanted.carrier().get())
                : before.carrier();
        return new BoardState(
                profile.id(),
                memory,
                serial,
                mac,
                supply,
                chip,
                wanted.overlay().orElse(before.overlay()),
                before.attached(),
                carrier,
                told(board, before, wanted, fresh));
    }

    /** As its family calls it: "4GB" is its "4 GB". */
    private static String memory(BoardProfile profile, String said) throws BadArgument {
        String plain = said.replaceAll("\\s", "");
        boolean guessed = profile.from().guessed(FamilyField.MEMORY).isPresent();
        if (guessed && plain.toUpperCase(java.util.Locale.ROOT).matches("[1-9][0-9]{0,5}[MG]B")) {
            // Nobody looked at what such a family comes with.
            return plain.toUpperCase(java.util.Locale.ROOT).replaceFirst("([MG]B)$", " $1");
        }
        return profile.memory().stream()
                .filter(each -> each.replaceAll("\\s", "").equalsIgnoreCase(plain))
                .findFirst()
                .orElseThrow(() -> new BadArgument(
                        "A " + profile.id() + " comes with " + String.join(", ", profile.memory()) + "; \"" + said
                                + "\" is none of them.",
                        said));
    }

    /** A board that was read till now and is by hand from now on is known as it was read last. */
    private Knowledge told(Boards.Board board, BoardState before, Description wanted, boolean fresh) {
        if (board.can(Ability.ALWAYS_READ)) {
            return Knowledge.NOTHING;
        }
        Instant now = workbench.clock().instant();
        if (fresh) {
            return Knowledge.fresh(wanted.firmware().isPresent(), wanted.order().isPresent(), now);
        }
        Known read = Known.read(now);
        Knowledge so = before.known();
        return new Knowledge(
                Optional.of(
                        wanted.firmware().isPresent()
                                ? Known.told(now)
                                : so.firmware().orElse(read)),
                Optional.of(
                        wanted.order().isPresent()
                                ? Known.told(now)
                                : so.order().orElse(read)),
                so.root(),
                so.started(),
                so.trouble());
    }

    private static void requirePorts(BoardProfile profile, BoardState before) throws UnreadableInput {
        for (BoardState.Plug plug : before.attached()) {
            if (profile.port(plug.port()).isEmpty()) {
                throw new UnreadableInput("A " + profile.id() + " has no port \"" + plug.port() + "\", and "
                        + plug.drive() + " is in it: take that out first.");
            }
        }
    }

    private String serial(Boards.Board board, String typed) throws IOException {
        String serial = typed.strip();
        if (!serial.matches("[0-9A-Za-z-]{0,64}")) {
            throw new BadArgument("\"" + typed + "\" is no serial: letters and digits only.", typed);
        }
        requireOwn(board, serial, "serial", BoardState::serial);
        return serial;
    }

    private String mac(Boards.Board board, String typed) throws IOException {
        String mac = typed.strip().toLowerCase(Locale.ROOT).replace('-', ':');
        if (!mac.isEmpty() && !mac.matches("([0-9a-f]{2}:){5}[0-9a-f]{2}")) {
            throw new BadArgument("\"" + typed + "\" is no hardware address such as 02:47:50:00:00:06.", typed);
        }
        requireOwn(board, mac, "hardware address", BoardState::mac);
        return mac;
    }

    private void requireOwn(
            Boards.Board board, String value, String what, java.util.function.Function<BoardState, String> of)
            throws IOException {
        if (value.isEmpty()) {
            return;
        }
        for (Boards.Board other : workbench.workspace().boards().all()) {
            if (!other.id().equals(board.id())
                    && of.apply(workbench.atHand(other).board()).equalsIgnoreCase(value)) {
                throw new NameTaken(
                        other.name() + " has the " + what + " " + value + " already; no two boards have the same.",
                        value);
            }
        }
    }
}
