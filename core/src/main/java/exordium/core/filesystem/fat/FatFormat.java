// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.zip.CRC32;

/** Makes an empty FAT32 volume (FAT specification, "Boot sector and BPB structure" and "FAT volume initialization"). */
public final class FatFormat {
    private static final int SECTOR = 512;
    private static final int RESERVED = 32;
    private static final int INFO = 1;
    private static final int BACKUP = 6;
    private static final int COPIES = 2;
    private static final int TOP = 2;
    private static final int FIXED_DISK = 0xF8;
    private static final long LEAST_CLUSTERS = 65_525;
    private static final int LABEL = 11;
    private static final int ZEROS = 1 << 20;
    private static final long FIRST_DAY = 0x0021_0000L;

    /** Sectors up to which a cluster has so many (the table for disk sizes to FAT32 cluster sizes). */
    private static final long[][] CLUSTERS = {
        {532_480, 1}, {16_777_216, 8}, {33_554_432, 16}, {67_108_864, 32}, {0xFFFF_FFFFL, 64}
    };

    private FatFormat() {}

    /**
     * Where label: up to eleven letters; identity: what no other volume has, such as its partition's identifier; its serial number is
     * made of it.
     *
     * @throws FileSystemException when it is smaller than a FAT32 volume may be, or larger
     */
    public static void fat32(BlockDevice slice, String label, String identity) throws IOException {
        long sectors = slice.size().bytes() / SECTOR;
        int perCluster = perCluster(slice, sectors);
        long perCopy = perCopy(sectors, perCluster);
        if ((sectors - RESERVED - COPIES * perCopy) / perCluster < LEAST_CLUSTERS) {
            throw new FileSystemException(
                    slice.name() + " is too small for FAT32: it has " + sectors * SECTOR + " bytes", -1);
        }
        clear(slice, (RESERVED + COPIES * perCopy + perCluster) * SECTOR);
        byte[] name = String.format("%-11s", label.toUpperCase(Locale.ROOT))
                .substring(0, LABEL)
                .getBytes(StandardCharsets.US_ASCII);
        byte[] boot = boot(sectors, perCluster, perCopy, name, serial(identity));
        byte[] info = info((sectors - RESERVED - COPIES * perCopy) / perCluster - 1);
        for (int at : new int[] {0, BACKUP}) {
            slice.write((long) at * SECTOR, ByteBuffer.wrap(boot));
            slice.write((long) (at + INFO) * SECTOR, ByteBuffer.wrap(info));
        }
        byte[] table = new byte[SECTOR];
        LittleEndian.putU32(table, 0, 0x0FFF_FF00L | FIXED_DISK);
        LittleEndian.putU32(table, 4, 0x0FFF_FFFFL);
        LittleEndian.putU32(table, TOP * 4, 0x0FFF_FFFFL);
        for (int copy = 0; copy < COPIES; copy++) {
            slice.write((RESERVED + copy * perCopy) * SECTOR, ByteBuffer.wrap(table));
        }
        byte[] top = new byte[SECTOR];
        FatEntry.putLabel(top, name, FIRST_DAY);
        slice.write((RESERVED + COPIES * perCopy) * SECTOR, ByteBuffer.wrap(top));
        slice.flush();
    }

    private static int perCluster(BlockDevice slice, long sectors) throws FileSystemException {
        for (long[] each : CLUSTERS) {
            if (sectors <= each[0]) {
                return (int) each[1];
            }
        }
        throw new FileSystemException(slice.name() + " is too large for FAT32", -1);
    }

    /** Sectors of one copy of the table ("FAT volume initialization"). */
    private static long perCopy(long sectors, int perCluster) {
        long each = (256L * perCluster + COPIES) / 2;
        return (sectors - RESERVED + each - 1) / each;
    }

    private static void clear(BlockDevice slice, long bytes) throws IOException {
        for (long at = 0; at < bytes; at += ZEROS) {
            slice.write(at, ByteBuffer.allocate((int) Math.min(ZEROS, bytes - at)));
        }
    }

    private static byte[] boot(long sectors, int perCluster, long perCopy, byte[] label, long serial) {
        byte[] boot = new byte[SECTOR];
        // A jump over the parameters to where a machine that starts it stops.
        put(boot, 0, new byte[] {(byte) 0xEB, 0x58, (byte) 0x90});
        put(boot, 3, "EXORDIUM".getBytes(StandardCharsets.US_ASCII));
        LittleEndian.putU16(boot, 11, SECTOR);
        boot[13] = (byte) perCluster;
        LittleEndian.putU16(boot, 14, RESERVED);
        boot[16] = COPIES;
        boot[21] = (byte) FIXED_DISK;
        LittleEndian.putU16(boot, 24, 32);
        LittleEndian.putU16(boot, 26, 64);
        LittleEndian.putU32(boot, 32, sectors);
        LittleEndian.putU32(boot, 36, perCopy);
        LittleEndian.putU32(boot, 44, TOP);
        LittleEndian.putU16(boot, 48, INFO);
        LittleEndian.putU16(boot, 50, BACKUP);
        boot[64] = (byte) 0x80;
        boot[66] = 0x29;
        LittleEndian.putU32(boot, 67, serial);
        put(boot, 71, label);
        put(boot, 82, "FAT32   ".getBytes(StandardCharsets.US_ASCII));
        put(boot, 90, new byte[] {(byte) 0xF4, (byte) 0xEB, (byte) 0xFD});
        LittleEndian.putU16(boot, 510, 0xAA55);
        return boot;
    }

    private static long serial(String identity) {
        CRC32 sum = new CRC32();
        sum.update(identity.getBytes(StandardCharsets.UTF_8));
        return sum.getValue();
    }

    private static byte[] info(long free) {
        byte[] info = new byte[SECTOR];
        LittleEndian.putU32(info, 0, 0x41615252L);
        LittleEndian.putU32(info, 484, 0x61417272L);
        LittleEndian.putU32(info, 488, free);
        LittleEndian.putU32(info, 492, TOP + 1L);
        LittleEndian.putU16(info, 510, 0xAA55);
        return info;
    }

    private static void put(byte[] sector, int at, byte[] bytes) {
        System.arraycopy(bytes, 0, sector, at, bytes.length);
    }
}
