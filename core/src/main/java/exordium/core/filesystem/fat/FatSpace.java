// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Which clusters of a whole volume are whose, as they are to be: chains taken, made longer and given back in memory, then put into every
 * copy of the table, with the count of free clusters that FAT32 keeps (FAT specification, "FAT data structure" and "FSInfo").
 */
final class FatSpace {
    private static final long LEAD = 0x41615252L;
    private static final long SIGNATURE = 0x61417272L;
    private static final long NOT_COUNTED = 0xFFFF_FFFFL;

    private final BlockDevice slice;
    private final FatGeometry geometry;
    private final byte[] table;
    private final BitSet changed = new BitSet();
    private final long free;
    private long searchedTo = 2;

    /** Where table: the first one, of a volume that was found whole. */
    FatSpace(BlockDevice slice, FatGeometry geometry, byte[] table) {
        this.slice = slice;
        this.geometry = geometry;
        this.table = table;
        this.free = counted();
    }

    private long counted() {
        long count = 0;
        for (long cluster = 2; geometry.holds(cluster); cluster++) {
            count += geometry.entry(table, cluster) == 0 ? 1 : 0;
        }
        return count;
    }

    /** The clusters of a chain, in its order; none for a file that begins nowhere. */
    long[] chain(long first) {
        long[] clusters = new long[16];
        int count = 0;
        for (long at = first; geometry.holds(at); at = geometry.entry(table, at)) {
            if (count == clusters.length) {
                clusters = Arrays.copyOf(clusters, count * 2);
            }
            clusters[count++] = at;
        }
        return Arrays.copyOf(clusters, count);
    }

    /**
     * A chain of so many clusters, of which the first are those there are: what is more is taken, what is less given back.
     *
     * @param what it is needed for, as it is called when there is no room
     */
    long[] resized(long[] clusters, int count, String what) throws FileSystemException {
        long[] all = Arrays.copyOf(clusters, count);
        for (int i = clusters.length; i < count; i++) {
            all[i] = nextFree(what, (long) (count - clusters.length) * geometry.clusterBytes());
            entry(all[i], geometry.end());
            if (i > 0) {
                entry(all[i - 1], all[i]);
            }
        }
        if (count > 0 && count < clusters.length) {
            entry(all[count - 1], geometry.end());
        }
        for (int i = count; i < clusters.length; i++) {
            entry(clusters[i], 0);
            searchedTo = Math.min(searchedTo, clusters[i]);
        }
        return all;
    }

    private long nextFree(String what, long needed) throws FileSystemException {
        while (geometry.holds(searchedTo)) {
            if (geometry.entry(table, searchedTo) == 0) {
                return searchedTo++;
            }
            searchedTo++;
        }
        throw new FileSystemException(
                slice.name() + " has " + free * geometry.clusterBytes() + " bytes left, and " + what + " needs "
                        + needed,
                -1);
    }

    private void entry(long cluster, long value) {
        geometry.put(table, cluster, value);
        long first = cluster * geometry.bits() / 8;
        long last = (cluster * geometry.bits() + geometry.bits() - 1) / 8;
        changed.set((int) (first / geometry.bytesPerSector()), (int) (last / geometry.bytesPerSector()) + 1);
    }

    /** Puts down what changed. */
    void put() throws IOException {
        for (int copy = 0; copy < geometry.fats(); copy++) {
            long start = geometry.tableStart() + copy * geometry.sectorsPerFat() * geometry.bytesPerSector();
            for (int from = changed.nextSetBit(0); from >= 0; ) {
                int to = changed.nextClearBit(from);
                int at = from * geometry.bytesPerSector();
                int until = Math.min(table.length, to * geometry.bytesPerSector());
                slice.write(start + at, ByteBuffer.wrap(table, at, until - at));
                from = changed.nextSetBit(to);
            }
        }
        if (geometry.kind() == FileSystemKind.FAT32) {
            putCount();
        }
    }

    private void putCount() throws IOException {
        int sector = LittleEndian.u16(slice.bytes(0, 512), 48);
        if (sector == 0 || sector >= geometry.reservedSectors()) {
            return;
        }
        long place = (long) sector * geometry.bytesPerSector();
        byte[] info = slice.bytes(place, 512);
        if (LittleEndian.u32(info, 0) != LEAD
                || LittleEndian.u32(info, 484) != SIGNATURE
                || LittleEndian.u32(info, 488) == NOT_COUNTED) {
            return;
        }
        LittleEndian.putU32(info, 488, counted());
        LittleEndian.putU32(info, 492, geometry.holds(searchedTo) ? searchedTo : 2);
        slice.write(place, ByteBuffer.wrap(info));
    }
}
