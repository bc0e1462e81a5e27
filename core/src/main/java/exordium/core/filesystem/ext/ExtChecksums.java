// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.LittleEndian;
import java.util.Arrays;

/**
 * The checksums ext4 keeps of its structures (Linux kernel documentation, filesystems/ext4, "Checksums"): CRC32C without the
 * last inversion under metadata_csum, CRC16 of group descriptors under the older uninit_bg, none on older file systems.
 */
final class ExtChecksums {
    private static final int[] CRC32C = table(0x82F63B78);
    private static final int[] CRC16 = table(0xA001);
    private static final int RO_COMPAT_GDT_CSUM = 0x10;
    private static final int RO_COMPAT_METADATA_CSUM = 0x400;
    private static final int INCOMPAT_CSUM_SEED = 0x2000;
    private static final int TAIL = 12;
    private static final int ALL_ONES = ~0;

    private final boolean full;
    private final boolean groups;
    private final byte[] uuid;
    private final int seed;

    ExtChecksums(byte[] superblock) {
        long features = LittleEndian.u32(superblock, 100);
        full = (features & RO_COMPAT_METADATA_CSUM) != 0;
        groups = (features & RO_COMPAT_GDT_CSUM) != 0;
        uuid = Arrays.copyOfRange(superblock, 104, 120);
        seed = (LittleEndian.u32(superblock, 96) & INCOMPAT_CSUM_SEED) != 0
                ? (int) LittleEndian.u32(superblock, 624)
                : crc32c(ALL_ONES, uuid, 0, uuid.length);
    }

    /** Whether folders end in a checksum. */
    boolean full() {
        return full;
    }

    private static int[] table(int polynomial) {
        int[] table = new int[256];
        for (int i = 0; i < 256; i++) {
            int value = i;
            for (int bit = 0; bit < 8; bit++) {
                value = (value & 1) != 0 ? value >>> 1 ^ polynomial : value >>> 1;
            }
            table[i] = value;
        }
        return table;
    }

    private static int crc32c(int start, byte[] bytes, int from, int to) {
        return crc(CRC32C, start, bytes, from, to);
    }

    private static int crc(int[] table, int start, byte[] bytes, int from, int to) {
        int crc = start;
        for (int i = from; i < to; i++) {
            crc = crc >>> 8 ^ table[(crc ^ bytes[i]) & 0xFF];
        }
        return crc;
    }

    private static byte[] le(long value) {
        byte[] bytes = new byte[4];
        LittleEndian.putU32(bytes, 0, value);
        return bytes;
    }

    void superblock(byte[] superblock) {
        if (full) {
            LittleEndian.putU32(superblock, 1020, crc32c(ALL_ONES, superblock, 0, 1020));
        }
    }

    void descriptor(byte[] descriptor, long group) {
        if (!full && !groups) {
            return;
        }
        LittleEndian.putU16(descriptor, 30, 0);
        int sum;
        if (full) {
            sum = crc32c(crc32c(seed, le(group), 0, 4), descriptor, 0, descriptor.length);
        } else {
            int head = crc(CRC16, crc(CRC16, 0xFFFF, uuid, 0, 16), le(group), 0, 4);
            sum = crc(CRC16, crc(CRC16, head, descriptor, 0, 30), descriptor, 32, Math.max(32, descriptor.length));
        }
        LittleEndian.putU16(descriptor, 30, sum & 0xFFFF);
    }

    /** Of a bitmap, into its group's descriptor; low: where its lower half stands, the upper 32 bytes on. */
    void bitmap(byte[] descriptor, int low, byte[] bitmap, int length) {
        if (full) {
            int sum = crc32c(seed, bitmap, 0, length);
            LittleEndian.putU16(descriptor, low, sum & 0xFFFF);
            if (descriptor.length >= 64) {
                LittleEndian.putU16(descriptor, low + 32, sum >>> 16);
            }
        }
    }

    private int ofInode(long number, byte[] inode) {
        return crc32c(crc32c(seed, le(number), 0, 4), inode, 100, 104);
    }

    void inode(long number, byte[] inode) {
        if (!full) {
            return;
        }
        boolean wide = inode.length > 128 && LittleEndian.u16(inode, 128) >= 4;
        LittleEndian.putU16(inode, 124, 0);
        if (wide) {
            LittleEndian.putU16(inode, 130, 0);
        }
        int sum = crc32c(ofInode(number, inode), inode, 0, inode.length);
        LittleEndian.putU16(inode, 124, sum & 0xFFFF);
        if (wide) {
            LittleEndian.putU16(inode, 130, sum >>> 16);
        }
    }

    /** Of a block of a folder, into the entry at its end that names no file. */
    void folder(long number, byte[] inode, byte[] block) {
        if (full) {
            int at = block.length - TAIL;
            Arrays.fill(block, at, block.length, (byte) 0);
            LittleEndian.putU16(block, at + 4, TAIL);
            block[at + 7] = (byte) 0xDE;
            LittleEndian.putU32(block, at + 8, crc32c(ofInode(number, inode), block, 0, at) & 0xFFFF_FFFFL);
        }
    }

    /** Bytes at the end of a folder's block that hold no entries. */
    int tail() {
        return full ? TAIL : 0;
    }
}
