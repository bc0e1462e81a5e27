// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.writing;

import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultLock;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import exordium.core.writing.JournalFile;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Writes an image to a target: plan, run, report, logbook. */
public final class WriteJob {
    /** Each takes two buffers of 4 MiB beside what unpacking takes. */
    public static final int MOST_TARGETS = 8;

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
        return fromVault(workbench, orders, () -> new RunningWrites(workbench, orders, Optional.empty()).run());
    }

    /**
     * Goes on with a write that was cut off.
     *
     * @throws UnreadableInput when image or target is not what it was
     */
    public static WriteReport resume(Workbench workbench, Order order, Unfinished unfinished) throws IOException {
        List<Order> one = List.of(order);
        return fromVault(workbench, one, () -> new RunningWrites(workbench, one, Optional.of(unfinished)).run())
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
}
