// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.StagedDevice;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.Partition;
import exordium.core.rehearsal.contents.MediumContents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;

/** A copy of what firmware looks at on a drive: tables at both ends, the start partition, the head of every other one. */
final class DriveCopy {
    private static final int PIECE = 64 << 10;
    private static final long HEAD = 1 << 20;
    private static final long MOST = 4L << 30;

    private DriveCopy() {}

    /**
     * Makes it, as long as the drive, with holes where nothing is.
     *
     * @param inPlace files of the start partition with what stands there instead
     * @throws UnreadableInput when the start partition is too large to copy
     */
    static void make(BlockDevice drive, MediumContents contents, Map<String, byte[]> inPlace, Path to)
            throws IOException {
        long size = drive.size().bytes();
        Optional<PartitionContent> start = contents.start()
                .flatMap(partition -> contents.inspection().partitions().stream()
                        .filter(each -> each.partition().number() == partition.number())
                        .findFirst());
        try (FileChannel out = FileChannel.open(
                to, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
            copy(drive, 0, Math.min(size, HEAD), out);
            copy(drive, Math.max(0, size - HEAD), size, out);
            for (PartitionContent each : contents.inspection().partitions()) {
                Partition partition = each.partition();
                boolean whole = start.filter(each::equals).isPresent();
                long end = whole ? partition.endByte() : Math.min(partition.endByte(), partition.startByte() + HEAD);
                if (whole && partition.size().bytes() > MOST) {
                    throw new UnreadableInput("The start partition of " + drive.name() + " is too large to be copied.");
                }
                copy(drive, partition.startByte(), Math.min(size, end), out);
            }
            if (start.isPresent() && !inPlace.isEmpty()) {
                StagedDevice staged = new StagedDevice(drive);
                BlockDevice slice = start.get().partition().on(staged);
                for (Map.Entry<String, byte[]> file : inPlace.entrySet()) {
                    FatWriter.write(slice, file.getKey(), file.getValue());
                }
                for (StagedDevice.Page page : staged.changes()) {
                    out.write(ByteBuffer.wrap(page.after()), page.position());
                }
            }
            if (out.size() < size) {
                out.write(ByteBuffer.allocate(1), size - 1);
            }
        }
    }

    /** Everything that is on a drive. */
    static void whole(BlockDevice drive, Path to) throws IOException {
        try (FileChannel out = FileChannel.open(
                to, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
            long size = drive.size().bytes();
            copy(drive, 0, size, out);
            if (out.size() < size) {
                out.write(ByteBuffer.allocate(1), size - 1);
            }
        }
    }

    private static void copy(BlockDevice drive, long from, long to, FileChannel out) throws IOException {
        byte[] blank = new byte[PIECE];
        long at = from / PIECE * PIECE;
        while (at < to) {
            int length = (int) Math.min(PIECE, drive.size().bytes() - at);
            byte[] piece = readable(drive, at, length);
            if (!Arrays.equals(piece, 0, length, blank, 0, length)) {
                out.write(ByteBuffer.wrap(piece), at);
            }
            at += length;
        }
    }

    /** What cannot be read of it is blank in the copy, as firmware finds nothing there either. */
    private static byte[] readable(BlockDevice drive, long at, int length) throws IOException {
        try {
            return drive.bytes(at, length);
        } catch (MediumException e) {
            return new byte[length];
        }
    }
}
