// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.layout.Partition;
import exordium.core.layout.PartitionTable;
import exordium.core.layout.PartitionTables;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.util.BitSet;
import java.util.Optional;

/**
 * Which places of an image or a drive count: tables, the gap before the first partition, and what file systems count as taken.
 * A file system that is not read counts whole. Kept in pieces of 64 KiB, so that 2 TB take 4 MB of memory.
 */
public final class UsedMap {
    public static final int PIECE = 1 << 16;

    /** A backup GPT: 32 sectors of entries and one of header (UEFI specification 5.3.1). */
    private static final int BACKUP_SECTORS = 33;

    private final ByteSize size;
    private final BitSet pieces = new BitSet();

    private UsedMap(ByteSize size) {
        this.size = size;
    }

    public static UsedMap of(BlockDevice device) throws IOException {
        UsedMap map = new UsedMap(device.size());
        PartitionTable table = PartitionTables.read(device);
        if (table.kind() == PartitionTable.TableKind.NONE) {
            map.fileSystem(device, 0);
            return map;
        }
        long first = device.size().bytes();
        for (Partition partition : table.partitions()) {
            first = Math.min(first, partition.startByte());
            if (partition.endByte() > device.size().bytes()) {
                map.take(partition.startByte(), device.size().bytes() - partition.startByte());
            } else if (!partition.holdsOthers()) {
                map.fileSystem(partition.on(device), partition.startByte());
            }
        }
        map.take(0, first);
        map.tables(table);
        return map;
    }

    /** What lies in an extended partition and in no logical one: the links of its chain. And a backup at the end. */
    private void tables(PartitionTable table) {
        for (Partition holder : table.partitions()) {
            if (holder.holdsOthers()) {
                long at = holder.startByte();
                for (Partition inner : table.partitions().stream()
                        .filter(each -> !each.holdsOthers()
                                && each.startByte() >= holder.startByte()
                                && each.endByte() <= holder.endByte())
                        .sorted(java.util.Comparator.comparingLong(Partition::startByte))
                        .toList()) {
                    take(at, inner.startByte() - at);
                    at = Math.max(at, inner.endByte());
                }
            }
        }
        if (table.kind() == PartitionTable.TableKind.GPT) {
            long backup = (long) BACKUP_SECTORS * table.sectorSize();
            take(size.bytes() - backup, backup);
            table.backupByte().ifPresent(header -> take(header + table.sectorSize() - backup, backup));
        }
    }

    private void fileSystem(BlockDevice slice, long start) throws IOException {
        BitSet before = (BitSet) pieces.clone();
        try {
            Optional<FileSystemReader> reader = FileSystems.open(slice);
            if (reader.isPresent()) {
                reader.get().allocated((from, length) -> take(start + from, length));
                return;
            }
        } catch (FileSystemException e) {
            // Maps that contradict themselves are not trusted: then all of it counts.
            pieces.clear();
            pieces.or(before);
        }
        take(start, slice.size().bytes());
    }

    private void take(long from, long length) {
        long begin = Math.max(0, from);
        long end = Math.min(size.bytes(), from + length);
        if (begin < end) {
            pieces.set((int) (begin / PIECE), (int) ((end - 1) / PIECE) + 1);
        }
    }

    /** Whether anything of this stretch counts. */
    public boolean holds(long from, long length) {
        int next = pieces.nextSetBit((int) (from / PIECE));
        return next >= 0 && (long) next * PIECE < from + length;
    }

    /** All pieces that count, together. */
    public ByteSize bytes() {
        long sum = (long) pieces.cardinality() * PIECE;
        long lastPiece = (size.bytes() - 1) / PIECE;
        if (size.bytes() > 0 && pieces.get((int) lastPiece)) {
            sum -= (lastPiece + 1) * PIECE - size.bytes();
        }
        return ByteSize.of(sum);
    }

    public ByteSize size() {
        return size;
    }
}
