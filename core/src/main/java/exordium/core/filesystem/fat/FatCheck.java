// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;

/**
 * Looks whether a FAT volume is whole before anything in it is changed: every chain ends, none crosses another, runs through
 * free clusters or past the end, and every file fits its chain (FAT specification, "FAT data structure" and "Directory
 * structure"). Changing a volume that is not would spoil what can still be saved.
 *
 * <p>Time and memory grow with the clusters that are taken: a bit each.
 */
final class FatCheck {
    /** Tables are not kept alike: one alone counts (BPB_ExtFlags). */
    private static final int APART = 0x80;

    private static final int PIECE = 1 << 16;
    private static final long MOST_FOLDERS = 65_536;

    private final BlockDevice slice;
    private final FatGeometry geometry;
    private final byte[] table;
    private final BitSet seen = new BitSet();
    private final Deque<Long> folders = new ArrayDeque<>();
    private long visited;

    private FatCheck(BlockDevice slice, FatGeometry geometry, byte[] table) {
        this.slice = slice;
        this.geometry = geometry;
        this.table = table;
    }

    /** A volume nothing is wrong with, and its table. */
    record Whole(FatGeometry geometry, byte[] table) {}

    /** @throws FileSystemException saying what is damaged, with the offset; nothing is changed by looking */
    static Whole requireWhole(BlockDevice slice) throws IOException {
        byte[] boot = slice.bytes(0, 512);
        FatGeometry geometry = FatGeometry.parse(boot)
                .orElseThrow(() -> new FileSystemException(slice.name() + " holds no FAT volume", 0));
        FatCheck check = new FatCheck(slice, geometry, geometry.table(slice));
        check.copies();
        if (geometry.isWide()) {
            if ((LittleEndian.u8(boot, 40) & APART) != 0) {
                throw new FileSystemException(
                        slice.name()
                                + " keeps its allocation tables apart, which is not written here; nothing was changed",
                        40);
            }
            check.folder(check.chain(geometry.topCluster(slice), "the top folder", -1));
        } else {
            long place = geometry.topStart();
            check.entries(slice.bytes(place, Math.toIntExact(geometry.dataStart() - place)), place);
        }
        while (!check.folders.isEmpty()) {
            check.visited++;
            if (check.visited > MOST_FOLDERS) {
                throw new FileSystemException(slice.name() + " has more folders than are looked through", -1);
            }
            check.folder(check.chain(check.folders.pop(), "a folder", -1));
        }
        return new Whole(geometry, check.table);
    }

    /** Readers go by the first table; a system that repairs may go by another. The first two entries belong to no cluster: marks of the volume. */
    private void copies() throws IOException {
        int marks = (2 * geometry.bits() + 7) / 8;
        for (int copy = 1; copy < geometry.fats(); copy++) {
            long start = geometry.tableStart() + copy * geometry.sectorsPerFat() * geometry.bytesPerSector();
            for (int at = marks; at < table.length; at += PIECE) {
                int part = Math.min(PIECE, table.length - at);
                if (!Arrays.equals(slice.bytes(start + at, part), 0, part, table, at, at + part)) {
                    throw damaged("its allocation tables differ", 0);
                }
            }
        }
    }

    private FileSystemException damaged(String what, long cluster) {
        return new FileSystemException(
                slice.name() + " has a damaged FAT: " + what
                        + ". Have it repaired first (fsck.fat); nothing was changed",
                cluster < 2 ? 0 : geometry.place(cluster));
    }

    /** The clusters of a chain, each of which is nobody else's; bytes: what it has to hold, -1 where it does not say. */
    private long[] chain(long first, String whose, long bytes) throws IOException {
        long[] clusters = new long[16];
        int count = 0;
        long at = first;
        while (true) {
            if (!geometry.holds(at)) {
                throw damaged(whose + (at < 2 ? " runs through free clusters" : " runs past its end"), at < 2 ? at : 0);
            }
            if (seen.get((int) at)) {
                throw damaged(whose + " runs into a chain that was there before, or round in itself", at);
            }
            seen.set((int) at);
            if (count == clusters.length) {
                clusters = Arrays.copyOf(clusters, count * 2);
            }
            clusters[count++] = at;
            long next = geometry.entry(table, at);
            if (geometry.isEnd(next)) {
                break;
            }
            at = next;
        }
        if (bytes >= 0 && (bytes > count * geometry.clusterBytes() || bytes <= (count - 1) * geometry.clusterBytes())) {
            throw damaged(whose + " is said to hold " + bytes + " bytes in " + count + " clusters", first);
        }
        return Arrays.copyOf(clusters, count);
    }

    private void folder(long[] clusters) throws IOException {
        for (long cluster : clusters) {
            if (!entries(
                    slice.bytes(geometry.place(cluster), Math.toIntExact(geometry.clusterBytes())),
                    geometry.place(cluster))) {
                return;
            }
        }
    }

    /** False behind the last entry. */
    private boolean entries(byte[] folder, long place) throws IOException {
        for (int at = 0; at + FatEntry.BYTES <= folder.length; at += FatEntry.BYTES) {
            FatEntry entry = new FatEntry(folder, at);
            if (entry.isEnd()) {
                return false;
            }
            if (!entry.counts()) {
                continue;
            }
            long cluster = entry.cluster(geometry.isWide());
            long bytes = entry.bytes();
            String name =
                    "\"" + LittleEndian.text(folder, at, FatEntry.SHORT_NAME).replaceAll("[^\\x20-\\x7E]", "?") + "\"";
            if (entry.isFolder()) {
                if (!geometry.holds(cluster)) {
                    throw damaged("the folder " + name + " begins nowhere", 0);
                }
                folders.push(cluster);
            } else if (cluster != 0) {
                if (bytes == 0) {
                    throw damaged("the empty file " + name + " has clusters all the same", cluster);
                }
                chain(cluster, "the file " + name, bytes);
            } else if (bytes != 0) {
                throw damaged("the file " + name + " holds " + bytes + " bytes and begins nowhere", place);
            }
        }
        return true;
    }
}
