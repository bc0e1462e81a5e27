// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.BoardAccess;
import exordium.core.access.BoardState;
import exordium.core.block.BlockDevice;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.filesystem.FatWriter;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystems;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.core.firststart.FileEdit;
import exordium.core.firststart.FirstStartPlan;
import exordium.core.firststart.Intents;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.ContentsReader;
import exordium.core.rehearsal.MediumContents;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.OnRecord;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Logbook;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** What is done to one board: firmware and order staged, restarted, switched off, its small partition edited. */
public final class BoardJobs {
    private static final JobRunner.Kind FIRST_START = new JobRunner.Kind(
            "first-start",
            Step.FIRST_START,
            "editing the start partition of",
            "may have its start partition edited in part; its journal brings it in order at the next look.");

    private static final JobRunner.Kind STAGE_FIRMWARE =
            JobRunner.Kind.reading("firmware", Step.FIRMWARE, "staging firmware for");
    private static final JobRunner.Kind STAGE_ORDER =
            JobRunner.Kind.reading("order", Step.ORDER, "staging an order for");
    private static final JobRunner.Kind RESTART = JobRunner.Kind.reading("restart", Step.REHEARSAL, "restarting");
    private static final JobRunner.Kind SWITCH_OFF =
            JobRunner.Kind.reading("switch-off", Step.REHEARSAL, "switching off");
    private static final JobRunner.Kind PLUG = JobRunner.Kind.reading("plug", Step.STORAGE, "plugging into");

    private final Workbench workbench;
    private final BenchReader benches;

    public BoardJobs(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** @throws UnreadableInput when no such release exists for the board */
    public FirmwareRelease release(Workbench.BoardAtHand at, LocalDate version) throws UnreadableInput {
        return workbench
                .firmware()
                .find(at.profile().id(), version)
                .orElseThrow(() -> new UnreadableInput("There is no release " + version + " for a "
                        + at.profile().id() + "."));
    }

    public List<Finding> planFirmware(Workbench.BoardAtHand at, FirmwareRelease release) {
        return FirmwareStatus.plan(
                at.profile(),
                at.board().chip(),
                release,
                at.register().channel(),
                at.board().overlay());
    }

    /** @throws Refused when the plan has a stop */
    public BoardState stageFirmware(Workbench.BoardAtHand at, FirmwareRelease release) throws IOException {
        Refused.ifAnyStops(planFirmware(at, release));
        return run(STAGE_FIRMWARE, at, () -> {
            BoardState staged = access(at).stage(release.version());
            return outcome(
                    at,
                    staged,
                    "firmware-staged",
                    "Release " + release.version() + " staged; it takes effect at the next restart.");
        });
    }

    /**
     * Stages a start order.
     *
     * @throws Refused when the value cannot be used, or this family's order is not a setting
     */
    public BoardState stageOrder(Workbench.BoardAtHand at, String value) throws IOException {
        BoardProfile profile = at.profile();
        DecodedOrder decoded = OrderDialect.of(profile).decode(value);
        Refused.ifAnyStops(decoded.findings());
        if (profile.order().fuse().isPresent()) {
            BoardProfile.Fuse fuse = profile.order().fuse().get();
            throw new Refused(Finding.stop(
                    "fuse-not-a-setting",
                    "This family keeps its order in one-time memory: bit " + fuse.bit()
                            + " of the register cannot be staged, and once set it can never be undone.",
                    Basis.practice()));
        }
        FirmwareChip chip = at.board().chip();
        Refused.ifAnyStops(tooNew(profile, decoded, chip.running()));
        return run(STAGE_ORDER, at, () -> {
            BoardState staged =
                    access(at).stage(chip.nextConfig().with(profile.order().key(), value));
            return outcome(
                    at,
                    staged,
                    "order-staged",
                    profile.order().key() + "=" + value + " staged; it takes effect at the next restart.");
        });
    }

    /** Places in the order that the firmware of this board does not know yet: it would pass them over, or stop there. */
    private static List<Finding> tooNew(BoardProfile profile, DecodedOrder order, LocalDate running) {
        List<Finding> findings = new ArrayList<>();
        for (StartSource source : order.sources()) {
            LocalDate needed = profile.firmware().needs().get(source);
            if (needed != null && running.isBefore(needed)) {
                findings.add(Finding.stop(
                                "order-needs-firmware",
                                "The order asks for " + source.code() + ", which firmware of " + needed
                                        + " or later knows; this board runs " + running
                                        + ". Update the firmware, restart, then set the order.",
                                Basis.practice())
                        .mendAt(Step.FIRMWARE));
            }
        }
        return findings;
    }

    /** Restarts: what was staged takes effect, and the board starts or does not, as rehearsed from the real bytes. */
    public Trace restart(Workbench.BoardAtHand at) throws IOException {
        return run(RESTART, at, () -> restarted(at));
    }

    private JobRunner.Outcome<Trace> restarted(Workbench.BoardAtHand at) throws IOException {
        FirmwareChip before = at.board().chip();
        access(at).restart();
        before.staged()
                .ifPresent(version -> log(
                        at,
                        Step.FIRMWARE,
                        "firmware-updated",
                        "Runs " + version + " since the restart, read back from the chip."));
        before.stagedConfig()
                .ifPresent(config -> log(
                        at,
                        Step.ORDER,
                        "order-changed",
                        config.value(at.profile().order().key())
                                        .map(value -> at.profile().order().key() + "=" + value)
                                        .orElse("The changed setting")
                                + " counts since the restart, read back from the chip."));
        return start(workbench.board(at.register().id()));
    }

    /** Switches off and on: what was staged is lost. */
    public Trace switchOff(Workbench.BoardAtHand at) throws IOException {
        return run(SWITCH_OFF, at, () -> switchedOff(at));
    }

    private JobRunner.Outcome<Trace> switchedOff(Workbench.BoardAtHand at) throws IOException {
        FirmwareChip before = at.board().chip();
        access(at).switchOff();
        if (before.anythingStaged()) {
            log(
                    at,
                    Step.FIRMWARE,
                    "staged-lost",
                    before.staged().map(version -> "Release " + version).orElse("The staged setting")
                            + " was lost: the board was switched off instead of restarted.");
        }
        return start(workbench.board(at.register().id()));
    }

    private JobRunner.Outcome<Trace> start(Workbench.BoardAtHand at) throws IOException {
        Trace trace = Rehearsal.of(benches.of(at));
        return trace.runs()
                ? outcome(
                        at,
                        trace,
                        OnRecord.START_SEEN,
                        "Started from " + trace.startedFrom().orElse("nothing") + ", root from "
                                + trace.rootFrom().orElse("nothing") + ", after " + trace.seconds() + " s.")
                : outcome(
                        at,
                        trace,
                        "start-failed",
                        "Did not start (" + trace.cause().code() + "): "
                                + trace.findings().stream()
                                        .findFirst()
                                        .map(Finding::text)
                                        .orElse(""));
    }

    private BoardAccess access(Workbench.BoardAtHand at) {
        return workbench.access(at.register().id());
    }

    private <T> T run(JobRunner.Kind kind, Workbench.BoardAtHand at, JobRunner.BoardWork<T> work) throws IOException {
        return new JobRunner(workbench).onBoard(kind, at.register().id(), work);
    }

    private static <T> JobRunner.Outcome<T> outcome(Workbench.BoardAtHand at, T value, String kind, String text) {
        return new JobRunner.Outcome<>(value, kind, at.register().name() + ": " + text);
    }

    public FirstStartPlan planFirstStart(Workbench.BoardAtHand at, String drive, Intents intents) throws IOException {
        return FirstStartPlan.of(
                intents,
                benches.contents(drive, at.profile()).found(),
                at.profile().startFiles());
    }

    /**
     * Carries out the edits on a drive and reads each file back.
     *
     * @throws Refused when the plan has a stop that an edit does not mend
     * @throws UnreadableInput when a file does not read back as it was written
     */
    public FirstStartPlan applyFirstStart(Workbench.BoardAtHand at, String drive, Intents intents) throws IOException {
        Targets targets = workbench.targets();
        Targets.Target target = targets.at(workbench.driveFile(drive), ByteSize.ZERO);
        return applyFirstStart(
                workbench,
                target,
                at.profile(),
                intents,
                Optional.of(at.register().id()));
    }

    /**
     * The same on any target. The edits are worked out whole, then carried out in one step that a journal ends if it is cut off:
     * a kernel line is the old one or the new one, never anything between.
     */
    public static FirstStartPlan applyFirstStart(
            Workbench workbench, Targets.Target target, BoardProfile profile, Intents intents, Optional<String> board)
            throws IOException {
        String name = board.isPresent()
                ? workbench.workspace().boards().require(board.get()).name()
                : target.description().id();
        return new JobRunner(workbench).run(FIRST_START, target, board, TransferWatch.NONE, (device, keeping) -> {
            StagedDevice staged = new StagedDevice(device);
            FirstStartPlan plan = stageFirstStart(staged, profile, intents);
            keeping.carryOut(device, staged);
            List<String> files = plan.edits().stream().map(FileEdit::file).toList();
            return new JobRunner.Outcome<>(
                    plan,
                    files.isEmpty() ? "" : "first-start-edited",
                    name + ": Changed " + String.join(", ", files)
                            + " on the start partition; read back and the same.");
        });
    }

    private static FirstStartPlan stageFirstStart(BlockDevice device, BoardProfile profile, Intents intents)
            throws IOException {
        MediumContents contents = ContentsReader.read(device, profile.startFiles());
        if (contents.start().isEmpty()) {
            throw new UnreadableInput(device.name() + " has no start partition: no FAT partition that could be read."
                    + " Write an image to it first; nothing was changed.");
        }
        FirstStartPlan plan = FirstStartPlan.of(intents, contents.found(), profile.startFiles());
        List<Finding> stops = new ArrayList<>(plan.findings());
        stops.removeIf(finding ->
                finding.code().startsWith("kernel-line") && !plan.edits().isEmpty());
        Refused.ifAnyStops(stops);
        if (plan.edits().isEmpty()) {
            return plan;
        }
        Partition partition = contents.inspection().partitions().stream()
                .map(content -> content.partition())
                .filter(each -> each.number() == contents.start().get().number())
                .findFirst()
                .orElseThrow(
                        () -> new UnreadableInput(
                                device.name()
                                        + " is a start partition without a table around it, which is not edited here; nothing was changed."));
        BlockDevice slice = partition.on(device);
        for (FileEdit edit : plan.edits()) {
            FatWriter.write(slice, edit.file(), edit.content());
            FileSystemReader reader = FileSystems.open(slice).orElseThrow();
            Optional<byte[]> back = reader.read("/" + edit.file());
            if (back.isEmpty() || !Arrays.equals(back.get(), edit.content())) {
                throw new UnreadableInput(edit.file() + " does not read back as it was written; check the medium.");
            }
        }
        return plan;
    }

    /** Plugs a drive of the workspace into a port, taking it out of wherever it was. */
    public void plug(Workbench.BoardAtHand at, BoardState.Plug plug) throws IOException {
        run(PLUG, at, () -> {
            Optional<Workbench.BoardAtHand> holder = workbench.holder(plug.drive());
            if (holder.isPresent()
                    && !holder.get().register().id().equals(at.register().id())) {
                access(holder.get()).unplug(plug.drive());
            }
            BoardState plugged = access(at).plug(plug);
            return outcome(at, plugged, "drive-plugged", plug.drive() + " plugged into " + plug.port() + ".");
        });
    }

    private void log(Workbench.BoardAtHand at, Step step, String kind, String text) {
        Logbook log = workbench.workspace().log();
        log.add(Optional.of(at.register().id()), step, kind, at.register().name() + ": " + text, Optional.empty());
    }
}
