// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.access.HandSteps;
import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.RecoveryJob;
import exordium.jobs.multiboot.SetsJob;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** What is done to one board: restarted, switched off, a drive plugged into it. */
public final class BoardJobs {
    private static final JobRunner.DeedKind RESTART =
            JobRunner.DeedKind.reading("restart", Step.REHEARSAL, "restarting");
    private static final JobRunner.DeedKind SWITCH_OFF =
            JobRunner.DeedKind.reading("switch-off", Step.REHEARSAL, "switching off");
    private static final JobRunner.DeedKind UNPLUG =
            JobRunner.DeedKind.reading(Operations.UNPLUG, Step.STORAGE, "taking a drive out of");
    private static final JobRunner.DeedKind PLUG =
            JobRunner.DeedKind.reading(Operations.PLUG, Step.STORAGE, "plugging into");

    private final Workbench workbench;
    private final BenchReader benches;

    public BoardJobs(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /**
     * What came of it: the start of a board the program plays, or, for a board by hand, what its user is to do.
     *
     * @param trace empty for a board by hand
     */
    public record Carried(Optional<Trace> trace, List<String> steps) {
        private static Carried out(Trace trace) {
            return new Carried(Optional.of(trace), List.of());
        }

        private static Carried byHand(List<String> steps) {
            return new Carried(Optional.empty(), steps);
        }
    }

    /** Restarts: what was staged takes effect, and the board starts or does not, as rehearsed from the real bytes. */
    public Carried restart(Workbench.BoardAtHand at) throws IOException {
        BoardDeed board = new BoardDeed(workbench, at);
        if (!at.register().can(Ability.RESTART)) {
            return Carried.byHand(HandSteps.restart(
                    at.register().way(), at.profile(), at.board().chip()));
        }
        Carried carried = Carried.out(board.run(RESTART, this::restarted));
        new SetsJob(workbench, benches).restarted(workbench.board(at.register().id()));
        return carried;
    }

    private JobRunner.Outcome<Trace> restarted(BoardDeed board) throws IOException {
        return restarted(board, board.deeds()::restart);
    }

    /** How a restart goes. */
    private interface Restart {
        BoardState carryOut() throws IOException;
    }

    /**
     * Restarts a virtual board and has its power fail when so many bytes have gone to its firmware chip.
     *
     * @throws NotPossible for a board by hand
     */
    public Carried powerCut(Workbench.BoardAtHand at, long after) throws IOException {
        if (!at.register().can(Ability.CUT_POWER)) {
            throw new NotPossible("The power is cut only at virtual boards; never do that to a real one.");
        }
        BoardDeed board = new BoardDeed(workbench, at);
        return Carried.out(
                board.run(RESTART, now -> restarted(now, () -> now.deeds().powerCut(after))));
    }

    private JobRunner.Outcome<Trace> restarted(BoardDeed board, Restart restart) throws IOException {
        FirmwareChip before = board.at().board().chip();
        FirmwareChip now = restart.carryOut().chip();
        boolean cut = before.staged().filter(now.running()::equals).isEmpty()
                && before.staged().isPresent();
        if (cut) {
            board.log(
                    Step.FIRMWARE,
                    "firmware-cut",
                    "The power failed while " + before.staged().get() + " was written: the chip holds "
                            + FirmwareChip.said(now.running()) + ", read back from it.");
            return start(new BoardDeed(
                    workbench, workbench.board(board.at().register().id())));
        }
        before.staged()
                .ifPresent(version -> board.log(
                        Step.FIRMWARE,
                        "firmware-updated",
                        "Runs " + version + " since the restart, read back from the chip."));
        before.stagedConfig()
                .filter(now.config()::equals)
                .ifPresent(config -> board.log(
                        Step.ORDER,
                        "order-changed",
                        config.value(board.at().profile().order().key())
                                        .map(value ->
                                                board.at().profile().order().key() + "=" + value)
                                        .orElse("The changed setting")
                                + " counts since the restart, read back from the chip."));
        return start(
                new BoardDeed(workbench, workbench.board(board.at().register().id())));
    }

    /** Switches off and on: what was staged is lost. */
    public Carried switchOff(Workbench.BoardAtHand at) throws IOException {
        BoardDeed board = new BoardDeed(workbench, at);
        return at.register().can(Ability.SWITCH_OFF)
                ? Carried.out(board.run(SWITCH_OFF, this::switchedOff))
                : Carried.byHand(HandSteps.switchOff(
                        at.register().way(), at.profile(), at.board().chip()));
    }

    private JobRunner.Outcome<Trace> switchedOff(BoardDeed board) throws IOException {
        FirmwareChip before = board.at().board().chip();
        board.deeds().switchOff();
        if (before.anythingStaged()) {
            board.log(
                    Step.FIRMWARE,
                    "staged-lost",
                    before.staged().map(version -> "Release " + version).orElse("The staged setting")
                            + " was lost: the board was switched off instead of restarted.");
        }
        return start(
                new BoardDeed(workbench, workbench.board(board.at().register().id())));
    }

    private JobRunner.Outcome<Trace> start(BoardDeed board) throws IOException {
        Optional<RecoveryJob.CameOf> recovered = new RecoveryJob(workbench).powerOn(board.at());
        if (recovered.isPresent()) {
            board.log(Step.FIRMWARE, recovered.get().kind(), recovered.get().words());
            return started(new BoardDeed(
                    workbench, workbench.board(board.at().register().id())));
        }
        return started(board);
    }

    private JobRunner.Outcome<Trace> started(BoardDeed board) throws IOException {
        Trace trace = Rehearsal.of(benches.of(board.at()));
        return trace.runs()
                ? board.outcome(
                        trace,
                        RegisterSnapshot.START_SEEN,
                        "Started from " + trace.startedFrom().orElse("nothing") + ", root from "
                                + trace.rootFrom().orElse("nothing") + ", after " + trace.seconds() + " s.")
                : board.outcome(
                        trace,
                        "start-failed",
                        "Did not start (" + trace.cause().code() + "): "
                                + trace.findings().stream()
                                        .findFirst()
                                        .map(Finding::text)
                                        .orElse(""));
    }

    /** Plugs a drive of the workspace into a port, taking it out of wherever it was. */
    public BoardState plug(Workbench.BoardAtHand at, BoardState.Plug plug) throws IOException {
        BoardDeed board = new BoardDeed(workbench, at);
        Optional<Media.Medium> medium = workbench.workspace().media().byFile(plug.drive());
        Optional<String> id = medium.map(Media.Medium::id);
        Optional<Workbench.BoardAtHand> holder = workbench.holder(plug.drive());
        if (holder.isPresent()
                && !holder.get().register().id().equals(at.register().id())) {
            new BoardDeed(workbench, holder.get())
                    .run(UNPLUG, id, now -> now.outcome(now.deeds().unplug(plug.drive()), "", ""));
        }
        return board.run(PLUG, id, now -> {
            BoardState plugged = now.deeds().plug(plug);
            String name = medium.map(Media.Medium::name).orElse(plug.drive());
            return now.outcome(
                    plugged,
                    "drive-plugged",
                    name + " plugged into " + plug.port()
                            + plug.enclosure()
                                    .flatMap(workbench.media()::enclosure)
                                    .map(box -> ", in a " + box.title())
                                    .orElse("")
                            + ".");
        });
    }

    /**
     * The same for a medium of the register, in the port a person names.
     *
     * @throws BadArgument when the family has no such port
     */
    public BoardState plug(Workbench.BoardAtHand at, String port, Media.Medium medium, CarrierKind carrier)
            throws IOException {
        return plug(at, port, medium, carrier, Optional.empty());
    }

    /**
     * The same in an enclosure.
     *
     * @throws BadArgument when there is no such enclosure, or it does not take the medium, or is not plugged into such a port
     */
    public BoardState plug(
            Workbench.BoardAtHand at, String port, Media.Medium medium, CarrierKind carrier, Optional<String> enclosure)
            throws IOException {
        BoardChecks.requirePort(at.profile(), port);
        if (enclosure.isPresent()) {
            BoardChecks.requireEnclosure(workbench, at.profile(), port, medium, enclosure.get());
        }
        return plug(at, new BoardState.Plug(port, medium.file(), medium.kind(), carrier, true, enclosure));
    }

    /** What a medium has to stand in to go into a port; empty where it goes in as it is, or into nothing that there is. */
    public Optional<String> enclosureFor(BoardProfile.Port port, MediumKind kind) {
        return port.buses().contains(kind.bus())
                ? Optional.empty()
                : workbench.media().enclosures().stream()
                        .filter(box -> box.leads(kind, port.buses()))
                        .map(Enclosure::id)
                        .findFirst();
    }

    /** Ports of a board that take this kind of medium, those with nothing in them first; what is soldered on takes none. */
    public List<BoardProfile.Port> portsFor(Workbench.BoardAtHand at, MediumKind kind) {
        return at.profile().ports().stream()
                .filter(port -> port.soldered().isEmpty() && port.buses().contains(kind.bus()))
                .sorted(Comparator.comparing((BoardProfile.Port port) -> at.board().attached().stream()
                        .anyMatch(plug -> plug.port().equals(port.id()))))
                .toList();
    }

    /**
     * Takes a medium out of a board.
     *
     * @throws UnreadableInput when it is not in it
     */
    public BoardState unplug(Workbench.BoardAtHand at, Media.Medium medium) throws IOException {
        if (at.board().attached().stream().noneMatch(plug -> plug.drive().equals(medium.file()))) {
            throw new UnreadableInput(
                    medium.name() + " is not in " + at.register().name() + "; nothing was changed.");
        }
        BoardDeed board = new BoardDeed(workbench, at);
        return board.run(
                UNPLUG,
                Optional.of(medium.id()),
                now -> now.outcome(
                        now.deeds().unplug(medium.file()), "drive-unplugged", medium.name() + " taken out."));
    }
}
