// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * The parameter block of a FAT volume. The type follows from the count of clusters alone (FAT specification, "FAT type
 * determination"): under 4085 FAT12, under 65525 FAT16, else FAT32.
 */
public record FatGeometry(
        int bytesPerSector,
        int sectorsPerCluster,
        int reservedSectors,
        int fats,
        long sectorsPerFat,
        long rootSectors,
        long clusters,
        FileSystemKind kind,
        String label,
        String serial) {
    /** What of an entry of 32 bits is its value. */
    private static final long VALUE = 0x0FFF_FFFFL;

    private static final long MOST_TABLE = 256L << 20;
    /** A multiple of three and of four bytes, so that no entry of any width straddles two pieces. */
    private static final int PIECE = 12 * 5461;

    private static final byte[] ZEROS = new byte[PIECE];

    public static Optional<FatGeometry> parse(byte[] boot) {
        int bytesPerSector = LittleEndian.u16(boot, 11);
        int perCluster = LittleEndian.u8(boot, 13);
        int reserved = LittleEndian.u16(boot, 14);
        int fats = LittleEndian.u8(boot, 16);
        int jump = LittleEndian.u8(boot, 0);
        if (LittleEndian.u16(boot, 510) != 0xAA55
                || (jump != 0xEB && jump != 0xE9)
                || bytesPerSector < 512
                || bytesPerSector > 4096
                || Integer.bitCount(bytesPerSector) != 1
                || perCluster == 0
                || Integer.bitCount(perCluster) != 1
                || reserved == 0
                || fats == 0
                || fats > 4) {
            return Optional.empty();
        }
        int rootEntries = LittleEndian.u16(boot, 17);
        long total = LittleEndian.u16(boot, 19) != 0 ? LittleEndian.u16(boot, 19) : LittleEndian.u32(boot, 32);
        long perFat = LittleEndian.u16(boot, 22) != 0 ? LittleEndian.u16(boot, 22) : LittleEndian.u32(boot, 36);
        long rootSectors = (rootEntries * 32L + bytesPerSector - 1) / bytesPerSector;
        long data = total - reserved - fats * perFat - rootSectors;
        if (data <= 0 || perFat == 0) {
            return Optional.empty();
        }
        long clusters = data / perCluster;
        FileSystemKind kind = clusters < 4085
                ? FileSystemKind.FAT12
                : clusters < 65_525 ? FileSystemKind.FAT16 : FileSystemKind.FAT32;
        int extended = kind == FileSystemKind.FAT32 ? 64 : 36;
        boolean hasExtended = LittleEndian.u8(boot, extended + 2) == 0x29;
        String label = hasExtended ? LittleEndian.text(boot, extended + 7, 11) : "";
        return Optional.of(new FatGeometry(
                bytesPerSector,
                perCluster,
                reserved,
                fats,
                perFat,
                rootSectors,
                clusters,
                kind,
                label.equals("NO NAME") ? "" : label,
                hasExtended ? serial(LittleEndian.u32(boot, extended + 3)) : ""));
    }

    public static String serial(long value) {
        return String.format(Locale.ROOT, "%04X-%04X", value >>> 16, value & 0xFFFF);
    }

    long clusterBytes() {
        return (long) bytesPerSector * sectorsPerCluster;
    }

    /** Told of every cluster that is taken, in rising order. */
    interface Taken {
        void cluster(long number);
    }

    /** Clusters whose entry in the first table is not zero, times their size. */
    ByteSize used(BlockDevice slice) throws IOException {
        long[] taken = {0};
        eachTaken(slice, cluster -> taken[0]++);
        return ByteSize.of(taken[0] * clusterBytes());
    }

    /** Where the first cluster, number 2, begins; before it stand the boot sectors, the tables and an old root folder. */
    long dataStart() {
        return (reservedSectors + fats * sectorsPerFat + rootSectors) * bytesPerSector;
    }

    /** Whether there is a cluster of this number. */
    boolean holds(long cluster) {
        return cluster >= 2 && cluster < clusters + 2;
    }

    /** Where the bytes of a cluster there is begin. */
    long place(long cluster) {
        return dataStart() + (cluster - 2) * clusterBytes();
    }

    /** Where the first table begins. */
    long tableStart() {
        return (long) reservedSectors * bytesPerSector;
    }

    /** Of an entry in the table. */
    int bits() {
        return kind == FileSystemKind.FAT12 ? 12 : kind == FileSystemKind.FAT16 ? 16 : 32;
    }

    /** The first table whole: at most 4 bytes a cluster. */
    byte[] table(BlockDevice slice) throws IOException {
        long position = tableStart();
        long needed = ((clusters + 2) * bits() + 7) / 8;
        if (needed > sectorsPerFat * bytesPerSector
                || needed > slice.size().bytes() - position
                || needed > MOST_TABLE) {
            throw new FileSystemException("The allocation table is smaller than its clusters need", position);
        }
        return slice.bytes(position, (int) needed);
    }

    /** Whether numbers of clusters have 32 bits. */
    boolean isWide() {
        return kind == FileSystemKind.FAT32;
    }

    /** The first cluster of the top folder, which FAT32 keeps among the others. */
    long topCluster(BlockDevice slice) throws IOException {
        return LittleEndian.u32(slice.bytes(0, 512), 44) & VALUE;
    }

    /** Where the top folder begins that stands before the clusters. */
    long topStart() {
        return dataStart() - rootSectors * bytesPerSector;
    }

    /** The value that is written where a chain ends. */
    long end() {
        return kind == FileSystemKind.FAT12 ? 0xFFF : kind == FileSystemKind.FAT16 ? 0xFFFF : VALUE;
    }

    /** Says something of a cluster in the table, as {@link #table} gives it; of 32 bits, the upper four are kept. */
    void put(byte[] table, long cluster, long value) {
        int bits = bits();
        int at = (int) (cluster * bits / 8);
        if (bits == 32) {
            LittleEndian.putU32(table, at, (LittleEndian.u32(table, at) & ~VALUE & 0xFFFF_FFFFL) | value);
        } else if (bits == 16) {
            LittleEndian.putU16(table, at, (int) value);
        } else if (cluster % 2 == 0) {
            table[at] = (byte) value;
            table[at + 1] = (byte) ((table[at + 1] & 0xF0) | ((int) value >>> 8));
        } else {
            table[at] = (byte) ((table[at] & 0x0F) | (((int) value & 0xF) << 4));
            table[at + 1] = (byte) (value >>> 4);
        }
    }

    /** What the table, as {@link #table} gives it, says of a cluster. */
    long entry(byte[] table, long cluster) {
        return entry(table, (int) cluster, bits());
    }

    /** Whether this value ends a chain. */
    boolean isEnd(long value) {
        return value >= (kind == FileSystemKind.FAT12 ? 0xFF8 : kind == FileSystemKind.FAT16 ? 0xFFF8 : 0x0FFF_FFF8L);
    }

    /** Reads the first table in pieces of 64 KiB. */
    void eachTaken(BlockDevice slice, Taken taken) throws IOException {
        int bits = bits();
        long needed = (clusters + 2) * bits / 8 + 1;
        long position = tableStart();
        long available = Math.min(sectorsPerFat * bytesPerSector, slice.size().bytes() - position);
        if (available < needed - 1) {
            throw new FileSystemException("The allocation table is smaller than its clusters need", position);
        }
        long cluster = 0;
        for (long done = 0; done < needed && cluster < clusters + 2; done += PIECE) {
            byte[] table = slice.bytes(position + done, (int) Math.min(PIECE, available - done));
            long here = table.length * 8L / bits;
            for (int i = 0; i < here && cluster < clusters + 2; i++, cluster++) {
                int free = freeFrom(table, i, bits);
                i += free;
                cluster += free;
                if (i < here && cluster >= 2 && cluster < clusters + 2 && entry(table, i, bits) != 0) {
                    taken.cluster(cluster);
                }
            }
        }
    }

    /** How many entries from this one on are zero for sure: most of a table is, and whole bytes are quicker looked at. */
    private static int freeFrom(byte[] table, int index, int bits) {
        int from = index * bits / 8;
        int taken = Arrays.mismatch(table, from, table.length, ZEROS, 0, table.length - from);
        int until = taken < 0 ? table.length : from + taken;
        return Math.max(0, until * 8 / bits - index);
    }

    private static long entry(byte[] table, int index, int bits) {
        if (bits == 32) {
            return LittleEndian.u32(table, index * 4) & 0x0FFF_FFFFL;
        }
        if (bits == 16) {
            return LittleEndian.u16(table, index * 2);
        }
        // The very last entry of 12 bits may end in the middle of the last byte that was read.
        int at = index * 3 / 2;
        int pair = at + 1 < table.length ? LittleEndian.u16(table, at) : LittleEndian.u8(table, at);
        return index % 2 == 0 ? pair & 0xFFF : pair >>> 4;
    }
}
