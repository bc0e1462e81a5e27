// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import exordium.core.block.BlockDevice;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FatWriter;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystems;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.FileEdit;
import exordium.core.firststart.FirstStartPlan;
import exordium.core.firststart.Intents;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.ContentsReader;
import exordium.core.rehearsal.MediumContents;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** The first start of one board: its small partition edited as its user intends. */
public final class FirstStartJob {
    private static final JobRunner.Kind FIRST_START = new JobRunner.Kind(
            "first-start",
            Step.FIRST_START,
            "editing the start partition of",
            "may have its start partition edited in part; its journal brings it in order at the next look.");

    private final Workbench workbench;

    public FirstStartJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * Carries out the edits on a drive and reads each file back.
     *
     * @throws Refused when the plan has a stop that an edit does not mend
     * @throws UnreadableInput when a file does not read back as it was written
     */
    public FirstStartPlan apply(Workbench.BoardAtHand at, String drive, Intents intents) throws IOException {
        Optional<Media.Medium> medium = workbench.workspace().media().byFile(drive);
        Targets targets = workbench.targets();
        return apply(
                workbench,
                medium.isPresent() ? targets.of(medium.get()) : targets.at(workbench.driveFile(drive), ByteSize.ZERO),
                at.profile(),
                intents,
                Optional.of(at.register().id()));
    }

    /**
     * The same on any target. The edits are worked out whole, then carried out in one step that a journal ends if it is cut off:
     * a kernel line is the old one or the new one, never anything between.
     */
    public static FirstStartPlan apply(
            Workbench workbench, Targets.Target target, BoardProfile profile, Intents intents, Optional<String> board)
            throws IOException {
        String name = board.isPresent()
                ? workbench.workspace().boards().require(board.get()).name()
                : target.description().id();
        return new JobRunner(workbench).run(FIRST_START, target, board, TransferWatch.NONE, (device, keeping) -> {
            StagedDevice staged = new StagedDevice(device);
            FirstStartPlan plan = stage(staged, profile, intents);
            keeping.carryOut(device, staged);
            List<String> files = plan.edits().stream().map(FileEdit::file).toList();
            return new JobRunner.Outcome<>(
                    plan,
                    files.isEmpty() ? "" : "first-start-edited",
                    name + ": Changed " + String.join(", ", files)
                            + " on the start partition; read back and the same.");
        });
    }

    private static FirstStartPlan stage(BlockDevice device, BoardProfile profile, Intents intents) throws IOException {
        MediumContents contents = ContentsReader.read(device, profile.startFiles());
        if (contents.start().isEmpty()) {
            throw new UnreadableInput(device.name() + " has no start partition: no FAT partition that could be read."
                    + " Write an image to it first; nothing was changed.");
        }
        FirstStartPlan plan = FirstStartPlan.of(intents, contents.found(), profile);
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
}
