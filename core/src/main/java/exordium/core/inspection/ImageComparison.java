// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.zip.CRC32C;

/**
 * Two images, or an image and a drive, held against each other: layout, files, pieces of 64 KiB.
 *
 * @param layout what differs in table and partitions, one sentence each
 * @param files changed, gone and new ones, partition by partition; empty where no file system of both is read
 * @param pieces that differ, of those both have
 */
public record ImageComparison(
        List<String> layout, List<FileChange> files, long pieces, long piecesInBoth, boolean cutShort) {
    private static final int PIECE = UsedMap.PIECE;
    private static final int MOST_CHANGES = 5000;
    private static final int MOST_FILES = 200_000;
    private static final int DEEPEST = 64;

    /** One file that is not the same in both. */
    public record FileChange(int partition, String path, ChangeKind kind) {
        /** How it differs, seen from the first. */
        public enum ChangeKind {
            CHANGED,
            GONE,
            NEW
        }
    }

    public boolean same() {
        return layout.isEmpty() && pieces == 0;
    }

    /** Bytes that would have to be written to make the first into the second. */
    public ByteSize differing() {
        return ByteSize.of(pieces * PIECE);
    }

    /** @throws CancellationException when the watch says stop */
    public static ImageComparison of(BlockDevice first, BlockDevice second, TransferWatch watch) throws IOException {
        DriveInspection a = Inspector.inspect(first);
        DriveInspection b = Inspector.inspect(second);
        List<String> layout = layout(a, b);
        Files files = files(first, a, second, b, watch);
        long both = Math.min(first.size().bytes(), second.size().bytes());
        long pieces = pieces(first, second, both, watch);
        return new ImageComparison(layout, files.changes(), pieces, (both + PIECE - 1) / PIECE, files.cutShort());
    }

    /** Files alone; cutShort: whether there were more than are told, or a file system could not be read. */
    public record Files(List<FileChange> changes, boolean cutShort) {}

    /** The same for files alone: no byte is read that belongs to none. @throws CancellationException when the watch says stop */
    public static Files files(BlockDevice first, BlockDevice second, TransferWatch watch) throws IOException {
        return files(first, Inspector.inspect(first), second, Inspector.inspect(second), watch);
    }

    private static Files files(
            BlockDevice first, DriveInspection a, BlockDevice second, DriveInspection b, TransferWatch watch)
            throws IOException {
        Walk walk = new Walk();
        for (PartitionContent content : a.partitions()) {
            Optional<PartitionContent> other = b.partitions().stream()
                    .filter(each ->
                            each.partition().number() == content.partition().number())
                    .findFirst();
            if (other.isPresent() && !content.partition().holdsOthers()) {
                walk.compare(
                        content.partition().number(),
                        files(first, content.partition(), watch, walk),
                        files(second, other.get().partition(), watch, walk));
            }
        }
        return new Files(List.copyOf(walk.changes), walk.cutShort);
    }

    private static List<String> layout(DriveInspection a, DriveInspection b) {
        List<String> words = new ArrayList<>();
        if (!a.size().equals(b.size())) {
            words.add(
                    "One holds " + a.size().exact() + ", the other " + b.size().exact() + ".");
        }
        if (a.table().kind() != b.table().kind()) {
            words.add("One has the table " + a.table().kind().code() + ", the other "
                    + b.table().kind().code() + ".");
        }
        if (!a.table().diskId().equals(b.table().diskId())) {
            words.add("Their disk identifiers differ: "
                    + a.table().diskId().map(Object::toString).orElse("none") + " and "
                    + b.table().diskId().map(Object::toString).orElse("none") + ".");
        }
        Map<Integer, PartitionContent> others = new TreeMap<>();
        b.partitions().forEach(each -> others.put(each.partition().number(), each));
        for (PartitionContent each : a.partitions()) {
            int number = each.partition().number();
            PartitionContent other = others.remove(number);
            if (other == null) {
                words.add("Partition " + number + " is in the first alone.");
            } else if (!place(each.partition()).equals(place(other.partition()))) {
                words.add("Partition " + number + " is " + place(each.partition()) + " in the first, "
                        + place(other.partition()) + " in the second.");
            } else if (each.fileSystem().kind() != other.fileSystem().kind()) {
                words.add("Partition " + number + " holds "
                        + each.fileSystem().kind().code() + " in the first, "
                        + other.fileSystem().kind().code() + " in the second.");
            }
        }
        others.keySet().forEach(number -> words.add("Partition " + number + " is in the second alone."));
        return List.copyOf(words);
    }

    private static String place(Partition partition) {
        return partition.size().said() + " from byte " + partition.startByte();
    }

    /** What was found so far, within bounds. */
    private static final class Walk {
        private final List<FileChange> changes = new ArrayList<>();
        private boolean cutShort;
        private int files;

        void compare(int partition, Map<String, Long> first, Map<String, Long> second) {
            first.forEach((path, sum) -> {
                Long other = second.remove(path);
                if (other == null) {
                    add(partition, path, FileChange.ChangeKind.GONE);
                } else if (!other.equals(sum)) {
                    add(partition, path, FileChange.ChangeKind.CHANGED);
                }
            });
            second.keySet().forEach(path -> add(partition, path, FileChange.ChangeKind.NEW));
        }

        private void add(int partition, String path, FileChange.ChangeKind kind) {
            if (changes.size() < MOST_CHANGES) {
                changes.add(new FileChange(partition, path, kind));
            } else {
                cutShort = true;
            }
        }
    }

    private static Map<String, Long> files(BlockDevice device, Partition partition, TransferWatch watch, Walk walk)
            throws IOException {
        Map<String, Long> sums = new TreeMap<>();
        if (partition.endByte() > device.size().bytes()) {
            return sums;
        }
        try {
            Optional<FileSystemReader> reader = FileSystems.open(partition.on(device));
            if (reader.isPresent()) {
                folder(reader.get(), "", 0, sums, watch, walk);
            }
        } catch (UnreadableInput e) {
            // A broken file system is compared by its pieces alone.
            walk.cutShort = true;
        }
        return sums;
    }

    private static void folder(
            FileSystemReader reader, String path, int depth, Map<String, Long> sums, TransferWatch watch, Walk walk)
            throws IOException {
        for (FileEntry entry : reader.entries(path.isEmpty() ? "/" : path)) {
            watch.goOnOrStop();
            String own = path + "/" + entry.name();
            if (walk.files++ > MOST_FILES || depth > DEEPEST) {
                walk.cutShort = true;
                return;
            }
            if (entry.kind() == FileEntry.EntryKind.FOLDER) {
                folder(reader, own, depth + 1, sums, watch, walk);
            } else if (entry.kind() == FileEntry.EntryKind.FILE) {
                Summing sum = new Summing();
                reader.copy(own, sum);
                sums.put(own, sum.crc.getValue() ^ (entry.size() << 32));
            }
        }
    }

    /** Takes a file in and keeps its checksum alone. */
    private static final class Summing extends OutputStream {
        private final CRC32C crc = new CRC32C();

        @Override
        public void write(int one) {
            crc.update(one);
        }

        @Override
        public void write(byte[] bytes, int offset, int length) {
            crc.update(bytes, offset, length);
        }
    }

    private static long pieces(BlockDevice first, BlockDevice second, long both, TransferWatch watch)
            throws IOException {
        ByteBuffer a = ByteBuffer.allocate(16 * PIECE);
        ByteBuffer b = ByteBuffer.allocate(16 * PIECE);
        long differing = 0;
        for (long at = 0; at < both; at += a.capacity()) {
            watch.goOnOrStop();
            long begin = System.nanoTime();
            int length = (int) Math.min(a.capacity(), both - at);
            a.clear().limit(length);
            b.clear().limit(length);
            first.read(at, a);
            second.read(at, b);
            a.flip();
            b.flip();
            for (int from = 0; from < length; from += PIECE) {
                int piece = Math.min(PIECE, length - from);
                differing += a.slice(from, piece).equals(b.slice(from, piece)) ? 0 : 1;
            }
            watch.moved(TransferWatch.Phase.COMPARING, at, length, System.nanoTime() - begin, both);
        }
        return differing;
    }
}
