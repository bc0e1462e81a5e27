// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import exordium.core.block.BlockDevice;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.Surroundings;
import exordium.core.firststart.intents.Intents;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.Growth;
import exordium.core.layout.NewIdentifier;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.FilesOnMedium;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Logbook;
import exordium.store.Media;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The first start of one medium: its files edited as its user intends, and the same taken back. Edits are worked out whole, then
 * carried out in one step that a journal ends if it is cut off: a file is the old one or the new one, never anything between.
 */
public final class FirstStartJob {
    static final String EDITED = "first-start-edited";
    static final String UNDONE = "first-start-undone";

    private static final JobRunner.DeedKind FIRST_START = new JobRunner.DeedKind(
            "first-start",
            Step.FIRST_START,
            "setting up the first start of",
            "may have its files changed in part; its journal brings them in order at the next look.");

    private final Workbench workbench;
    private final Neighbours neighbours;

    public FirstStartJob(Workbench workbench) {
        this.workbench = workbench;
        this.neighbours = new Neighbours(workbench);
    }

    /**
     * What is to be set up.
     *
     * @param board whose first start it is, where that is known
     */
    public record Order(Targets.Target target, BoardProfile profile, Intents intents, Optional<String> board) {}

    /** The medium a board starts from. */
    public Order order(Workbench.BoardAtHand at, String drive, Intents intents) throws IOException {
        return new Order(
                target(drive), at.profile(), intents, Optional.of(at.register().id()));
    }

    private Targets.Target target(String drive) throws IOException {
        Optional<Media.Medium> medium = workbench.workspace().media().byFile(drive);
        Targets targets = workbench.targets();
        return medium.isPresent() ? targets.of(medium.get()) : targets.at(workbench.driveFile(drive), ByteSize.ZERO);
    }

    /** What would be done; nothing is. */
    public FirstStartPlan plan(Order order) throws IOException {
        try (BlockDevice device = order.target().opener().open(false)) {
            MediumContents contents =
                    ContentsReader.read(device, order.profile().startFiles());
            if (contents.start().isEmpty()) {
                return new FirstStartPlan(
                        List.of(),
                        List.of(Finding.stop(
                                        "no-start-partition",
                                        order.target().description().id()
                                                + " has no start partition: no FAT partition that could be read, so there is"
                                                + " nothing to set up. Write an image to it first.",
                                        Basis.computed("its tables and file systems"))
                                .mendAt(Step.IMAGE)),
                        Optional.empty(),
                        false);
            }
            return plan(
                    order, FilesOnMedium.read(device, contents, order.profile().startFiles()));
        }
    }

    /** All files a first start may change, as they stand on a medium now. */
    public FirstStartFiles found(Targets.Target target, BoardProfile profile) throws IOException {
        try (BlockDevice device = target.opener().open(false)) {
            MediumContents contents = ContentsReader.read(device, profile.startFiles());
            return FilesOnMedium.read(device, contents, profile.startFiles());
        }
    }

    private FirstStartPlan plan(Order order, FirstStartFiles found) throws IOException {
        Surroundings around = neighbours.around(order.board());
        FirstStartPlan plan =
                FirstStartPlan.of(order.intents(), found, order.profile(), around, fresh(order.intents()));
        Optional<Finding> tried = Optional.empty();
        if (order.intents().account().isPresent()) {
            tried = workbench
                    .triedPasswords()
                    .judge(
                            order.intents().account().get().name(),
                            order.intents().account().get().passwordHash());
        }
        return tried.map(plan::with).orElse(plan);
    }

    /** For a disk that is to be no other's twin. */
    private static Optional<DiskIdentifier> fresh(Intents intents) {
        return intents.ownIdentity()
                ? Optional.of(DiskIdentifier.ofMbr(new SecureRandom().nextInt() & 0xFFFFFFFFL))
                : Optional.empty();
    }

    public FirstStartPlan apply(Workbench.BoardAtHand at, String drive, Intents intents) throws IOException {
        return apply(order(at, drive, intents));
    }

    /**
     * Carries out the edits and reads each file back.
     *
     * @throws Refused when the plan has a stop that an edit does not mend
     * @throws NotPossible when a file does not read back as it was written
     */
    public FirstStartPlan apply(Order order) throws IOException {
        FirstStartPlan done = new JobRunner(workbench)
                .run(FIRST_START, order.target(), order.board(), TransferWatch.NONE, (device, keeping) -> {
                    StagedDevice staged = new StagedDevice(device);
                    Staged made = stage(staged, order);
                    pages().keep(keeping.row(), order.target(), staged);
                    keeping.carryOut(device, staged);
                    return outcome(order, made, keeping.row());
                });
        order.board().ifPresent(board -> neighbours.keep(board, order.intents()));
        return done;
    }

    private record Staged(FirstStartPlan plan, List<SetUpRecord.Raw> table) {}

    private JobRunner.Outcome<FirstStartPlan> outcome(Order order, Staged made, long row) throws IOException {
        FirstStartPlan plan = made.plan();
        List<String> files = plan.edits().stream().map(FileEdit::file).toList();
        String grown = plan.grows() && !made.table().isEmpty() ? " Its last partition reaches to the end." : "";
        String id = plan.identifier()
                .map(now -> " It has the disk identifier " + now.text() + ".")
                .orElse("");
        return new JobRunner.Outcome<>(
                plan,
                files.isEmpty() && made.table().isEmpty() ? "" : EDITED,
                name(order)
                        + (files.isEmpty()
                                ? ":"
                                : ": Changed " + String.join(", ", files) + "; read back and the same.")
                        + id
                        + grown,
                Optional.of(
                        SetUpRecord.of(order.target().key(), medium(order.target()), plan.edits(), made.table(), row)
                                .text()));
    }

    private ChangedPages pages() {
        return new ChangedPages(workbench.workspace().folder().resolve("undo"));
    }

    private Optional<String> medium(Targets.Target target) {
        return workbench.registered(target).map(Media.Medium::id);
    }

    private String name(Order order) throws IOException {
        return order.board().isPresent()
                ? workbench.workspace().boards().require(order.board().get()).name()
                : order.target().description().id();
    }

    private Staged stage(StagedDevice device, Order order) throws IOException {
        MediumContents contents = contents(device, order.profile());
        FirstStartFiles found =
                FilesOnMedium.read(device, contents, order.profile().startFiles());
        FirstStartPlan plan = plan(order, found);
        Refused.ifAnyStops(plan.stops());
        if (!plan.edits().isEmpty()) {
            put(device, contents, plan.edits());
        }
        if (plan.identifier().isPresent() && found.gpt()) {
            NewIdentifier.writeGpt(device, plan.identifier().get());
        } else if (plan.identifier().isPresent()) {
            NewIdentifier.write(device, plan.identifier().get());
        }
        if (plan.grows()) {
            Growth.plan(device, workbench.rules().freeTail()).apply();
        }
        return new Staged(plan, outside(device, contents));
    }

    /** What was changed outside all partitions. */
    private static List<SetUpRecord.Raw> outside(StagedDevice device, MediumContents contents) {
        List<SetUpRecord.Raw> raw = new ArrayList<>();
        for (StagedDevice.Page page : device.changes()) {
            boolean inside = contents.inspection().partitions().stream()
                    .map(PartitionContent::partition)
                    .anyMatch(each -> page.position() >= each.startByte() && page.position() < each.endByte());
            if (!inside) {
                raw.add(new SetUpRecord.Raw(page.position(), page.before(), page.after()));
            }
        }
        return raw;
    }

    private static MediumContents contents(BlockDevice device, BoardProfile profile) throws IOException {
        MediumContents contents = ContentsReader.read(device, profile.startFiles());
        if (contents.start().isEmpty()) {
            throw new UnreadableInput(device.name() + " has no start partition: no FAT partition that could be read."
                    + " Write an image to it first; nothing was changed.");
        }
        return contents;
    }

    private static void put(BlockDevice device, MediumContents contents, List<FileEdit> edits) throws IOException {
        if (contents.start()
                .map(MediumContents.StartPartition::number)
                .filter(each -> each == 0)
                .isPresent()) {
            throw new UnreadableInput(
                    device.name()
                            + " is a start partition without a table around it, which is not edited here; nothing was changed.");
        }
        FilesOnMedium.put(device, contents, edits);
    }

    /** A table is taken back only while it is what was written, and every file system still fits what it said before. */
    private static void putTable(BlockDevice device, List<SetUpRecord.Raw> table) throws IOException {
        for (SetUpRecord.Raw raw : table) {
            if (!Arrays.equals(device.bytes(raw.position(), raw.after().length), raw.after())) {
                throw new NotPossible(
                        "The partition table of " + device.name() + " was changed since; nothing is taken back.");
            }
        }
        for (SetUpRecord.Raw raw : table) {
            device.write(raw.position(), ByteBuffer.wrap(raw.before()));
        }
        for (PartitionContent content : Inspector.inspect(device).partitions()) {
            boolean fits = !content.fileSystem().kind().isExt()
                    || FileSystems.open(content.partition().on(device))
                            .filter(each ->
                                    each.extent().compareTo(content.partition().size()) <= 0)
                            .isPresent();
            if (!fits) {
                throw new NotPossible("The file system of partition "
                        + content.partition().number()
                        + " has grown since, or cannot be read any more; nothing is taken back.");
            }
        }
    }

    /** Edits somebody made by hand in the editor, or mends; kept and taken back like all others. */
    public List<FileEdit> edit(Order order, List<FileEdit> edits) throws IOException {
        return new JobRunner(workbench)
                .run(FIRST_START, order.target(), order.board(), TransferWatch.NONE, (device, keeping) -> {
                    StagedDevice staged = new StagedDevice(device);
                    put(staged, contents(staged, order.profile()), edits);
                    pages().keep(keeping.row(), order.target(), staged);
                    keeping.carryOut(device, staged);
                    FirstStartPlan plan = new FirstStartPlan(edits, List.of(), Optional.empty(), false);
                    JobRunner.Outcome<FirstStartPlan> told = outcome(order, new Staged(plan, List.of()), keeping.row());
                    return new JobRunner.Outcome<>(edits, told.logKind(), told.words(), told.details());
                });
    }

    /** What was set up last on a target and not taken back yet. */
    public Optional<Logbook.Entry> last(Targets.Target target) throws IOException {
        Set<String> undone = new HashSet<>();
        for (Logbook.Entry entry : workbench.workspace().log().of(UNDONE)) {
            entry.details().ifPresent(undone::add);
        }
        Optional<Logbook.Entry> last = Optional.empty();
        Optional<String> medium = medium(target);
        for (Logbook.Entry entry : workbench.workspace().log().of(EDITED)) {
            boolean ours = entry.details().isPresent()
                    && !undone.contains(Long.toString(entry.id()))
                    && SetUpRecord.parse(entry.details().get()).isOf(target.key(), medium);
            last = ours ? Optional.of(entry) : last;
        }
        return last;
    }

    public Optional<Logbook.Entry> last(String drive) throws IOException {
        return last(target(drive));
    }

    /**
     * Takes the last first start back: every file is again what it was, byte for byte.
     *
     * @throws NotPossible when nothing is left to take back, or a file was changed since; nothing is done then
     */
    public List<FileEdit> undo(Order order) throws IOException {
        Logbook.Entry entry = last(order.target())
                .orElseThrow(() -> new UnreadableInput("The logbook holds nothing set up on "
                        + order.target().description().id() + " that could be taken back."));
        SetUpRecord record = SetUpRecord.parse(entry.details().orElseThrow());
        List<FileEdit> back = record.back();
        new JobRunner(workbench)
                .run(FIRST_START, order.target(), order.board(), TransferWatch.NONE, (device, keeping) -> {
                    StagedDevice staged = new StagedDevice(device);
                    // Where nobody wrote to it since, not only the files but every byte is again what it was.
                    if (record.pages().isEmpty()
                            || !pages().takeBack(record.pages().get(), staged)) {
                        put(staged, contents(staged, order.profile()), back);
                        putTable(staged, record.table());
                    }
                    keeping.carryOut(device, staged);
                    return new JobRunner.Outcome<>(
                            back,
                            UNDONE,
                            name(order) + ": Took back what was set up before: "
                                    + String.join(
                                            ", ",
                                            back.stream().map(FileEdit::file).toList())
                                    + " as they were; read back and the same.",
                            Optional.of(Long.toString(entry.id())));
                });
        if (record.pages().isPresent()) {
            pages().forget(record.pages().get());
        }
        order.board().ifPresent(neighbours::forget);
        return back;
    }
}
