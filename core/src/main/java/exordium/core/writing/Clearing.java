// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import exordium.core.finding.UnreadableInput;
import exordium.core.layout.Partition;
import exordium.core.layout.PartitionTables;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;

/**
 * Takes tables and signatures off a drive: both ends, where a table and its copy stand, and both ends of each partition,
 * where file systems say what they are. The data between stay until something is written over them.
 */
public final class Clearing {
    private static final long ENDS = 8L << 20;
    private static final long PARTITION_ENDS = 1L << 20;

    private Clearing() {}

    /** What was cleared, proven by reading it back. */
    public record Report(long clearedBytes, int partitions, boolean pastCache) {
        public String sentence(String drive) {
            return drive + " is cleared: " + ByteSize.of(clearedBytes).said() + " of tables and signatures"
                    + (partitions == 0
                            ? ""
                            : ", " + partitions + (partitions == 1 ? " partition" : " partitions") + " of them")
                    + ", read back as empty. What lay between can still be read by somebody who looks for it.";
        }
    }

    /**
     * Clears and reads back.
     *
     * @throws UnreadableInput when something is still there afterwards
     * @throws CancellationException when the watch says stop
     */
    public static Report run(BlockDevice device, TransferWatch watch) throws IOException {
        TreeMap<Long, Long> extents = new TreeMap<>();
        int partitions = 0;
        for (Partition partition : PartitionTables.read(device).partitions()) {
            ends(extents, device, partition.startByte(), partition.endByte(), PARTITION_ENDS);
            partitions++;
        }
        ends(extents, device, 0, device.size().bytes(), ENDS);
        long total = 0;
        for (long length : extents.values()) {
            total += length;
        }
        // The very first sectors go last: cut off half-way, the drive still says what it was.
        through(extents.descendingMap(), device, watch, total, true);
        device.flush();
        through(extents, device, watch, total, false);
        return new Report(total, partitions, device.readsPastCache());
    }

    private static void through(
            Map<Long, Long> extents, BlockDevice device, TransferWatch watch, long total, boolean writes)
            throws IOException {
        ByteBuffer buffer = AlignedBuffers.allocate(1 << 20);
        for (Map.Entry<Long, Long> each : extents.entrySet()) {
            for (long at = 0; at < each.getValue(); at += buffer.capacity()) {
                long length = Math.min(buffer.capacity(), each.getValue() - at);
                step(device, watch, buffer, each.getKey() + at, length, total, writes);
            }
        }
    }

    private static void ends(Map<Long, Long> extents, BlockDevice device, long from, long to, long length) {
        long end = Math.min(to, device.size().bytes());
        if (from < end) {
            long begin = from / AlignedBuffers.ALIGNMENT * AlignedBuffers.ALIGNMENT;
            put(extents, begin, Math.min(end, from + length));
            put(extents, Math.max(begin, end - length) / AlignedBuffers.ALIGNMENT * AlignedBuffers.ALIGNMENT, end);
        }
    }

    private static void put(Map<Long, Long> extents, long from, long to) {
        extents.merge(from, to - from, Math::max);
    }

    private static void step(
            BlockDevice device,
            TransferWatch watch,
            ByteBuffer buffer,
            long position,
            long length,
            long total,
            boolean writes)
            throws IOException {
        watch.goOnOrStop();
        long begin = System.nanoTime();
        buffer.clear().limit((int) length);
        if (writes) {
            while (buffer.hasRemaining()) {
                buffer.put((byte) 0);
            }
            device.write(position, buffer.flip());
        } else {
            device.readBack(position, buffer);
            buffer.flip();
            while (buffer.hasRemaining()) {
                if (buffer.get() != 0) {
                    throw new UnreadableInput(
                            device.name() + " kept something where it was cleared; it is worn or pretends to write",
                            position + buffer.position() - 1);
                }
            }
        }
        watch.moved(
                writes ? Phase.WRITING : Phase.READING_BACK, position, (int) length, System.nanoTime() - begin, total);
    }
}
