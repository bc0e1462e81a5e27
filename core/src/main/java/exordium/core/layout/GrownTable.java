// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.block.ReadOnlyDevice;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * The bytes in which a medium differs from its image when its last partition was made larger after the write, and in nothing
 * else: those of the one entry in an MBR; of a GPT both copies, the second of which stood at the image's end.
 */
public final class GrownTable {
    private static final int ENTRIES = 446;
    private static final int ENTRY = 16;
    private static final int PRIMARY = 4;
    /** UEFI specification 5.3.1: a header and 32 sectors of entries. */
    private static final int GPT_SECTORS = 33;

    private GrownTable() {}

    /** From a byte to before another. */
    public record Extent(long from, long to) {
        public boolean holds(long offset, long bytes) {
            return offset >= from && offset + bytes <= to;
        }
    }

    /** Where they may differ; empty where the tables differ in anything else, or not at all. */
    public static List<Extent> expected(InputStream image, ByteSize imageSize, BlockDevice target) throws IOException {
        PartitionTable planned = PartitionTables.read(new Head(image, imageSize, target.sectorSize()));
        PartitionTable now = PartitionTables.read(target);
        Optional<Partition> last = planned.partitions().stream()
                .filter(each -> !each.holdsOthers())
                .max(Comparator.comparingLong(Partition::endByte));
        if (last.isEmpty()
                || planned.kind() != now.kind()
                || planned.partitions().size() != now.partitions().size()) {
            return List.of();
        }
        for (Partition each : planned.partitions()) {
            Optional<Partition> same = now.number(each.number());
            boolean grown = same.isPresent()
                    && each.equals(last.get())
                    && same.get().startByte() == each.startByte()
                    && same.get().endByte() > each.endByte()
                    && same.get().partUuid().equals(each.partUuid());
            if (same.isEmpty() || (!grown && !same.get().equals(each))) {
                return List.of();
            }
        }
        return now.number(last.get().number()).orElseThrow().equals(last.get())
                ? List.of()
                : places(planned, last.get().number(), imageSize);
    }

    private static List<Extent> places(PartitionTable table, int number, ByteSize imageSize) {
        List<Extent> places = new ArrayList<>();
        int sector = table.sectorSize();
        if (table.kind() == PartitionTable.TableKind.GPT) {
            places.add(new Extent(sector, (1L + GPT_SECTORS) * sector));
            places.add(new Extent(imageSize.bytes() - (long) GPT_SECTORS * sector, imageSize.bytes()));
        } else if (number <= PRIMARY) {
            long entry = ENTRIES + (number - 1L) * ENTRY;
            places.add(new Extent(entry + 5, entry + 8));
            places.add(new Extent(entry + 12, entry + 16));
        }
        return places;
    }

    /** The first piece of an image, as large as the image; what lies behind reads as zero. */
    private static final class Head extends ReadOnlyDevice {
        private static final int BYTES = 1 << 16;

        private final byte[] bytes;

        Head(InputStream image, ByteSize size, int sectorSize) throws IOException {
            super("image", size, sectorSize);
            this.bytes = image.readNBytes(BYTES);
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            requireInside(position, target.remaining());
            for (long at = position; target.hasRemaining(); at++) {
                target.put(at < bytes.length ? bytes[(int) at] : 0);
            }
        }
    }
}
