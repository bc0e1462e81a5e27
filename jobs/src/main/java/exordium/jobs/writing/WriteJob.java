// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.writing;

import exordium.core.block.BlockDevice;
import exordium.core.block.SameBytes;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultLock;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import exordium.core.writing.Ending;
import exordium.core.writing.JournalFile;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.core.writing.WriteRun;
import exordium.jobs.bench.MachineTools;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Signs;
import exordium.store.Workspace;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Writes an image to a target: plan, run, report, logbook. */
public final class WriteJob {
    /** Each takes two buffers of 4 MiB beside what unpacking takes. */
    public static final int MOST_TARGETS = 8;
    /** Under this a rate says more of the start than of the medium. */
    private static final long LEAST_TO_MEASURE = 32 << 20;

    private WriteJob() {}

    /** Which places of an image count, for mode used; unpacks it where its container allows no reading anywhere. */
    public static UsedMap usedIn(ImageFile image, TransferWatch watch) throws IOException {
        try (UnpackedImage unpacked = UnpackedImage.open(image, false, watch)) {
            return UsedMap.of(unpacked.device());
        }
    }

    /**
     * The image held to the room of the largest of its targets, so that a container that unpacks to more ends with a sentence
     * and not with a full disk. Of a file that is not there yet, the room of its disk counts.
     *
     * @throws Refused when it announces more than any of them holds
     */
    public static ImageFile bounded(ImageFile image, Targets reach, List<Path> targets) throws IOException {
        ByteSize most = ByteSize.ZERO;
        String whose = "";
        for (Path path : targets) {
            ByteSize room = reach.at(path, ByteSize.ZERO).description().size();
            if (room.bytes() == 0) {
                Path folder = path.toAbsolutePath().getParent();
                room = ByteSize.of(Files.getFileStore(folder).getUsableSpace());
            }
            if (room.compareTo(most) >= 0) {
                most = room;
                whose = String.valueOf(path.getFileName());
            }
        }
        if (image.uncompressedSize().isPresent()) {
            // Announced sizes are held against the target by the plan, with its own words.
            return image;
        }
        return image.within(most, whose);
    }

    /** The image's size: from its container, or by reading it through once. */
    public static ByteSize sizeOf(ImageFile image, TransferWatch watch) throws IOException {
        if (image.uncompressedSize().isPresent()) {
            return image.uncompressedSize().get();
        }
        byte[] buffer = new byte[1 << 16];
        long size = 0;
        try (InputStream stream = image.stream()) {
            for (int got = stream.read(buffer); got >= 0; got = stream.read(buffer)) {
                watch.goOnOrStop();
                watch.moved(TransferWatch.Phase.UNPACKING, size, got, 0, -1);
                size += got;
            }
        }
        return ByteSize.of(size);
    }

    /** A target with the plan that is to be carried out on it. */
    public record Planned(WritePlan plan, Targets.Target target) {}

    /** One target of a write: its plan, itself, the board it is for, who is told how far it is. */
    public record Order(WritePlan plan, Targets.Target target, Optional<String> board, TransferWatch watch) {}

    /**
     * Runs a plan and puts it down, the beginning before the first byte moves.
     *
     * @throws Refused when the plan has a stop; nothing was touched
     */
    public static WriteReport run(
            Workbench workbench, WritePlan plan, Targets.Target target, Optional<String> board, TransferWatch watch)
            throws IOException {
        return runAll(workbench, List.of(new Order(plan, target, board, watch))).get(0);
    }

    /**
     * Runs plans of one image from one reading of it; their reports come in the same order.
     *
     * @throws Refused when any plan has a stop; nothing was touched
     */
    public static List<WriteReport> runAll(Workbench workbench, List<Order> orders) throws IOException {
        return fromVault(workbench, orders, () -> new Running(workbench, orders, Optional.empty()).run());
    }

    /**
     * Goes on with a write that was cut off.
     *
     * @throws UnreadableInput when image or target is not what it was
     */
    public static WriteReport resume(Workbench workbench, Order order, Unfinished unfinished) throws IOException {
        List<Order> one = List.of(order);
        return fromVault(workbench, one, () -> new Running(workbench, one, Optional.of(unfinished)).run())
                .get(0);
    }

    /** Nobody takes a copy out of the vault while it is read. */
    private static List<WriteReport> fromVault(
            Workbench workbench, List<Order> orders, VaultLock.Work<List<WriteReport>> run) throws IOException {
        Path vault = workbench.vault().toAbsolutePath().normalize();
        boolean copy = orders.stream()
                .anyMatch(each ->
                        each.plan().image().path().toAbsolutePath().normalize().startsWith(vault));
        return copy ? VaultLock.reading(vault, run) : run.run();
    }

    /** A write that was cut off and can go on; newest first, and of each target the newest alone. */
    public static List<Unfinished> unfinished(Workbench workbench) throws IOException {
        Map<String, Unfinished> newest = new LinkedHashMap<>();
        Workspace workspace = workbench.workspace();
        List<Operations.Operation> writes = workspace.operations().writes();
        for (int i = writes.size() - 1; i >= 0; i--) {
            Operations.Operation write = writes.get(i);
            Path journal = workspace.writeJournal(write.id());
            if (newest.containsKey(identity(write))) {
                continue;
            }
            boolean cutOff = write.ending().canGoOn() && Files.isRegularFile(journal);
            newest.put(identity(write), cutOff ? stand(write, journal).orElse(null) : null);
        }
        return newest.values().stream().filter(java.util.Objects::nonNull).toList();
    }

    /** What a target is; rows of older versions only know what it was called. */
    private static String identity(Operations.Operation write) {
        return write.deed().key().isEmpty()
                ? write.deed().target()
                : write.deed().key();
    }

    /** A journal that cannot be read, as after a broken disk, is none; the others still count. */
    private static Optional<Unfinished> stand(Operations.Operation write, Path journal) throws IOException {
        try {
            return Optional.of(new Unfinished(write, journal, JournalFile.read(journal)));
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** Where a write that was cut off stands. */
    public record Unfinished(Operations.Operation write, Path journal, JournalFile.Progress stand) {
        public Path image() {
            return stand.head().imagePath();
        }

        public Path target() {
            return stand.head().targetPath();
        }

        public WriteMode mode() {
            return Coded.of(WriteMode.class, stand.head().mode());
        }

        public String sentence() {
            long share = stand.head().imageBytes() == 0
                    ? 0
                    : 100 * stand.bytes() / stand.head().imageBytes();
            return write.image() + " to " + write.deed().target() + ": cut off at " + share + " %, "
                    + ByteSize.of(stand.bytes()).said() + " of "
                    + ByteSize.of(stand.head().imageBytes()).said() + " are on it. It can go on from there.";
        }
    }

    /** The order that goes on with a write as it was begun; its plan stops unless the target's name was typed. */
    public static Order again(
            Workbench workbench,
            Targets targets,
            Unfinished unfinished,
            Optional<String> board,
            String typed,
            TransferWatch watch)
            throws IOException {
        ImageFile image = ImageFile.open(unfinished.image());
        ByteSize size = ByteSize.of(unfinished.stand().head().imageBytes());
        Targets.Target target = new TargetHistory(workbench).known(targets.at(unfinished.target(), size));
        Optional<UsedMap> used =
                unfinished.mode() == WriteMode.USED ? Optional.of(usedIn(image, watch)) : Optional.empty();
        WritePlan.Options options = new WritePlan.Options(unfinished.mode(), true, false, used);
        return new Order(WritePlan.of(image, size, target.description(), options, typed), target, board, watch);
    }

    /** Rows are put down, targets opened, all written, everything put down again. */
    private static final class Running {
        private final Workbench workbench;
        private final Workspace workspace;
        private final List<Order> orders;
        private final Optional<Unfinished> before;
        private final Deque<Closeable> open = new ArrayDeque<>();

        Running(Workbench workbench, List<Order> orders, Optional<Unfinished> before) {
            this.workbench = workbench;
            this.workspace = workbench.workspace();
            this.orders = orders;
            this.before = before;
        }

        List<WriteReport> run() throws IOException {
            if (orders.size() > MOST_TARGETS) {
                throw new UnreadableInput("At most " + MOST_TARGETS + " targets are written at once, not "
                        + orders.size() + "; nothing was touched.");
            }
            for (Order order : orders) {
                Refused.ifAnyStops(order.plan().findings());
            }
            requireApart();
            List<WriteReport> reports;
            try {
                reports = written();
            } finally {
                closeAll();
            }
            for (int i = 0; i < orders.size(); i++) {
                Verdict verdict = reports.get(i).verdict();
                if (verdict.good() || verdict == Verdict.DIFFERENT) {
                    // One that failed or was stopped may hang; asking it for its table would hang as well.
                    MachineTools.rereadTable(orders.get(i).target());
                }
            }
            return reports;
        }

        /** By whatever names: one and the same thing is no two targets, and the image is none. */
        private void requireApart() throws IOException {
            List<SameBytes> all = new ArrayList<>();
            all.add(SameBytes.at(orders.get(0).plan().image().path()));
            for (Order order : orders) {
                SameBytes target = SameBytes.at(order.plan().target().path());
                for (int i = 0; i < all.size(); i++) {
                    if (target.overlaps(all.get(i))) {
                        String name = String.valueOf(target.path().getFileName());
                        throw new Refused(Finding.stop(
                                i == 0 ? "target-is-image" : "target-twice",
                                name + " has the same bytes as "
                                        + (i == 0 ? "the image " : "another of the targets, ")
                                        + all.get(i).path().getFileName() + "; nothing was touched.",
                                Basis.computed("what the paths lead to")));
                    }
                }
                all.add(target);
            }
        }

        /** A target that went away may not close well any more; what became of the write was told by its report. */
        private void closeAll() {
            while (!open.isEmpty()) {
                try {
                    open.pop().close();
                } catch (IOException e) {
                    workspace
                            .log()
                            .add(
                                    Optional.empty(),
                                    Step.IMAGE,
                                    "target-not-closed",
                                    "A target did not close well: " + Sentence.of(e),
                                    Optional.empty());
                }
            }
        }

        private List<WriteReport> written() throws IOException {
            List<BlockDevice> devices = new ArrayList<>();
            // Opening touches nothing; a target that cannot be opened leaves no trace in the register.
            for (Order order : orders) {
                BlockDevice device = new JobRunner(workbench).claim(order.target(), order.watch());
                open.push(device);
                devices.add(device);
            }
            List<Long> rows = new ArrayList<>();
            try {
                return written(devices, rows);
            } catch (IOException | RuntimeException e) {
                // Nothing was written yet, or an error of the machine ended all: no row stays open; what was told
                // stays.
                for (long row : rows) {
                    workspace.operations().end(row, Ending.FAILED, true, "");
                    Files.deleteIfExists(workspace.writeJournal(row).resolveSibling(row + ".journal.new"));
                }
                throw e;
            }
        }

        private List<WriteReport> written(List<BlockDevice> devices, List<Long> rows) throws IOException {
            List<WriteRun.Lane> lanes = new ArrayList<>();
            for (int i = 0; i < orders.size(); i++) {
                Order order = orders.get(i);
                JournalFile.Head head =
                        JournalFile.Head.of(order.plan(), order.target().serial());
                if (before.isPresent()) {
                    // Refused before the row is put down, so that the old one stays the newest.
                    String changed = head.changedSince(before.get().stand().head());
                    if (!changed.isEmpty()) {
                        throw new UnreadableInput("This write cannot go on: " + changed + ". Begin it anew.");
                    }
                }
                long row = workspace
                        .operations()
                        .beginWrite(
                                order.board(),
                                workbench.registered(order.target()).map(Media.Medium::id),
                                order.plan().target().id(),
                                order.target().key(),
                                order.plan().image().name());
                rows.add(row);
                forgetOlder(order.target().key(), row);
                lanes.add(new WriteRun.Lane(order.plan(), devices.get(i), order.watch(), journal(row, head)));
            }
            List<WriteReport> reports = new WriteRun(lanes).executeAll();
            for (int i = 0; i < orders.size(); i++) {
                long row = rows.get(0);
                end(row, orders.get(i), reports.get(i));
                rows.remove(0);
                Optional<Media.Medium> medium =
                        workbench.registered(orders.get(i).target());
                if (medium.isPresent() && !orders.get(i).target().simulated()) {
                    workbench
                            .readings()
                            .afterDeed(
                                    medium.get(),
                                    devices.get(i),
                                    reports.get(i).verdict().good());
                }
                if (reports.get(i).verdict().good() || reports.get(i).verdict() == Verdict.DIFFERENT) {
                    Files.deleteIfExists(workspace.writeJournal(row));
                }
            }
            return reports;
        }

        /** A target that is written anew is no unfinished one any more; that which is gone on with is kept. */
        private void forgetOlder(String key, long row) throws IOException {
            for (Operations.Operation write : workspace.operations().writes()) {
                Path older = workspace.writeJournal(write.id());
                boolean kept = before.filter(cut -> cut.journal().equals(older)).isPresent();
                if (write.id() != row && write.deed().key().equals(key) && !kept) {
                    Files.deleteIfExists(older);
                }
            }
        }

        private JournalFile journal(long row, JournalFile.Head head) throws IOException {
            Path file = workspace.writeJournal(row);
            Files.createDirectories(file.getParent());
            if (before.isPresent()) {
                Files.move(before.get().journal(), file, StandardCopyOption.REPLACE_EXISTING);
            }
            JournalFile journal = JournalFile.open(file, head, JournalFile.USUAL);
            open.push(journal);
            return journal;
        }

        /** The row closed, the medium's register and the logbook told: all or nothing. */
        private void end(long row, Order order, WriteReport report) {
            workspace.inTransaction(() -> {
                workspace.operations().end(row, report);
                remember(order, report);
                return null;
            });
        }

        private void remember(Order order, WriteReport report) {
            Optional<Media.Medium> medium = workbench.registered(order.target());
            medium.ifPresent(each -> WriteJob.remember(workspace, each.id(), report));
            String name =
                    medium.map(Media.Medium::name).orElse(order.plan().target().id());
            workspace
                    .log()
                    .add(
                            order.board(),
                            Step.IMAGE,
                            "write-" + report.verdict().code(),
                            order.plan().image().name() + " to " + name + ": " + report.sentence(),
                            Optional.empty());
        }
    }

    /** What the write told of the medium itself: its wear, its pace, its faults. */
    private static void remember(Workspace workspace, String medium, WriteReport report) {
        Signs signs = workspace.signs();
        Instant now = workspace.clock().instant();
        workspace.media().addWritten(medium, ByteSize.of(report.writtenBytes()));
        if (report.writtenBytes() >= LEAST_TO_MEASURE && report.writeRate().bytesPerSecond() > 0) {
            signs.measured(medium, now, "write", report.writeRate());
        }
        if (report.readRate().bytesPerSecond() > 0 && report.plannedBytes() >= LEAST_TO_MEASURE) {
            signs.measured(medium, now, "read", report.readRate());
        }
        if (report.verdict() == Verdict.DIFFERENT || report.verdict() == Verdict.FAILED) {
            signs.fault(medium, now, report.sentence());
        }
    }
}
