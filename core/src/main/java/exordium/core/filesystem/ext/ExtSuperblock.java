// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.Uuids;

/**
 * The superblock of ext2, ext3 and ext4 (Linux kernel documentation, filesystems/ext4/super). Numbers that later code
 * multiplies or divides by are bounded here.
 */
public record ExtSuperblock(
        FileSystemKind kind,
        long blocks,
        long freeBlocks,
        int firstDataBlock,
        int blockSize,
        long blocksPerGroup,
        long inodesPerGroup,
        long inodes,
        int inodeSize,
        int descriptorSize,
        long compatible,
        long incompatible,
        long roCompatible,
        int reservedDescriptorBlocks,
        long firstMetaGroup,
        long[] backups,
        String label,
        String uuid) {
    public static final int OFFSET = 1024;
    public static final int MAGIC = 0xEF53;

    /** Of a volume, 1 EiB as for ext4 (kernel documentation). */
    private static final long LARGEST = 1L << 60;

    private static final int COMPAT_JOURNAL = 0x4;
    private static final int COMPAT_SPARSE_SUPER2 = 0x200;
    private static final int RO_COMPAT_SPARSE_SUPER = 0x1;
    /** Either of the features under which a group may have no bitmap yet. */
    private static final int RO_COMPAT_CHECKSUMS = 0x10 | 0x400;

    private static final int BLOCKS_UNINITIALISED = 0x2;
    private static final int INCOMPAT_RECOVER = 0x4;
    private static final int INCOMPAT_META_BG = 0x10;
    private static final int INCOMPAT_EXTENTS = 0x40;
    private static final int INCOMPAT_64BIT = 0x80;
    private static final int INCOMPAT_FLEX_BG = 0x200;
    /** Features whose presence changes where things are in a way not followed here. */
    private static final int RO_COMPAT_BIGALLOC = 0x200;

    public static FileSystemKind kindOf(byte[] bytes, int at) {
        long incompatible = LittleEndian.u32(bytes, at + 96);
        long roCompatible = LittleEndian.u32(bytes, at + 100);
        boolean modern = (incompatible & (INCOMPAT_EXTENTS | INCOMPAT_64BIT | INCOMPAT_FLEX_BG)) != 0
                || (roCompatible & ~7L) != 0;
        if (modern) {
            return FileSystemKind.EXT4;
        }
        return (LittleEndian.u32(bytes, at + 92) & COMPAT_JOURNAL) != 0 ? FileSystemKind.EXT3 : FileSystemKind.EXT2;
    }

    static ExtSuperblock parse(byte[] b) throws FileSystemException {
        if (LittleEndian.u16(b, 56) != MAGIC) {
            throw new FileSystemException("There is no ext superblock", OFFSET);
        }
        long logBlock = LittleEndian.u32(b, 24);
        require(logBlock <= 6, "block size", 24);
        int blockSize = 1024 << logBlock;
        long incompatible = LittleEndian.u32(b, 96);
        boolean wide = (incompatible & INCOMPAT_64BIT) != 0;
        require((LittleEndian.u32(b, 100) & RO_COMPAT_BIGALLOC) == 0, "feature bigalloc, which is not read", 100);
        long blocks = LittleEndian.u32(b, 4) | (wide ? LittleEndian.u32(b, 336) << 32 : 0);
        long free = LittleEndian.u32(b, 12) | (wide ? LittleEndian.u32(b, 344) << 32 : 0);
        long blocksPerGroup = LittleEndian.u32(b, 32);
        long inodesPerGroup = LittleEndian.u32(b, 40);
        boolean old = LittleEndian.u32(b, 76) == 0;
        int inodeSize = old ? 128 : LittleEndian.u16(b, 88);
        int descriptorSize = wide ? Math.max(64, LittleEndian.u16(b, 254)) : 32;
        require(blocks > 0 && blocks < 1L << 48 && free >= 0 && free <= blocks, "block counts", 4);
        require(blocks <= LARGEST / blockSize, "size, more than any medium has", 4);
        require(blocksPerGroup > 0 && blocksPerGroup <= 8L * blockSize, "blocks per group", 32);
        require(inodesPerGroup > 0 && inodesPerGroup <= 8L * blockSize, "inodes per group", 40);
        require(inodeSize >= 128 && inodeSize <= blockSize && Integer.bitCount(inodeSize) == 1, "inode size", 88);
        require(descriptorSize <= 1024 && Integer.bitCount(descriptorSize) == 1, "descriptor size", 254);
        return new ExtSuperblock(
                kindOf(b, 0),
                blocks,
                free,
                (int) LittleEndian.u32(b, 20) & 1,
                blockSize,
                blocksPerGroup,
                inodesPerGroup,
                LittleEndian.u32(b, 0),
                inodeSize,
                descriptorSize,
                LittleEndian.u32(b, 92),
                incompatible,
                LittleEndian.u32(b, 100),
                LittleEndian.u16(b, 206),
                (incompatible & INCOMPAT_META_BG) == 0 ? Long.MAX_VALUE : LittleEndian.u32(b, 260),
                new long[] {LittleEndian.u32(b, 588), LittleEndian.u32(b, 592)},
                LittleEndian.text(b, 120, 16),
                Uuids.plain(b, 104));
    }

    /** Pulled out while it was in use: what the journal holds has not reached its place yet. */
    boolean needsRecovery() {
        return (incompatible & INCOMPAT_RECOVER) != 0;
    }

    long groups() {
        return (blocks - firstDataBlock + blocksPerGroup - 1) / blocksPerGroup;
    }

    private long descriptorsInBlock() {
        return blockSize / descriptorSize;
    }

    /** Byte of a group's descriptor; with meta groups each descriptor block stands with the groups it describes. */
    long descriptorPlace(long group) {
        long index = group / descriptorsInBlock();
        long within = group % descriptorsInBlock() * descriptorSize;
        if (index < firstMetaGroup) {
            return (firstDataBlock + 1 + index) * blockSize + within;
        }
        long home = index * descriptorsInBlock();
        long block = firstDataBlock + home * blocksPerGroup + (hasSuperblock(home) ? 1 : 0);
        return block * blockSize + within;
    }

    /** Which groups carry a copy of the superblock (kernel documentation, "sparse_super" and "sparse_super2"). */
    private boolean hasSuperblock(long group) {
        if (group == 0) {
            return true;
        }
        if ((compatible & COMPAT_SPARSE_SUPER2) != 0) {
            return group == backups[0] || group == backups[1];
        }
        if ((roCompatible & RO_COMPAT_SPARSE_SUPER) == 0 || group == 1) {
            return true;
        }
        return isPower(group, 3) || isPower(group, 5) || isPower(group, 7);
    }

    private static boolean isPower(long number, int base) {
        long power = base;
        while (power < number) {
            power *= base;
        }
        return power == number;
    }

    /** A group whose bitmap was never written: nothing but structures is in it. */
    boolean bitmapMissing(byte[] descriptor) {
        return (roCompatible & RO_COMPAT_CHECKSUMS) != 0
                && (LittleEndian.u16(descriptor, 18) & BLOCKS_UNINITIALISED) != 0;
    }

    /** The bitmap such a group would have. */
    byte[] structuresOf(long group, byte[] descriptor) {
        byte[] bitmap = new byte[blockSize];
        long first = firstDataBlock + group * blocksPerGroup;
        if (hasSuperblock(group)) {
            take(bitmap, first, first, 1 + descriptorBlocks(group));
        } else {
            take(bitmap, first, first, metaDescriptorBlocks(group));
        }
        boolean large = descriptorSize >= 64;
        take(bitmap, first, wide(descriptor, 0, 32, large), 1);
        take(bitmap, first, wide(descriptor, 4, 36, large), 1);
        long tableBlocks = (inodesPerGroup * inodeSize + blockSize - 1) / blockSize;
        take(bitmap, first, wide(descriptor, 8, 40, large), tableBlocks);
        return bitmap;
    }

    private long descriptorBlocks(long group) {
        if (group / descriptorsInBlock() >= firstMetaGroup) {
            return metaDescriptorBlocks(group);
        }
        long all = (groups() + descriptorsInBlock() - 1) / descriptorsInBlock();
        return Math.min(all, firstMetaGroup) + reservedDescriptorBlocks;
    }

    /** The first, the second and the last group of a meta group carry its block of descriptors. */
    private long metaDescriptorBlocks(long group) {
        long within = group % descriptorsInBlock();
        boolean meta = group / descriptorsInBlock() >= firstMetaGroup;
        return meta && (within < 2 || within == descriptorsInBlock() - 1) ? 1 : 0;
    }

    private static long wide(byte[] descriptor, int low, int high, boolean large) {
        return LittleEndian.u32(descriptor, low) | (large ? LittleEndian.u32(descriptor, high) << 32 : 0);
    }

    private void take(byte[] bitmap, long first, long block, long count) {
        for (long at = Math.max(block, first); at < Math.min(block + count, first + blocksPerGroup); at++) {
            int bit = (int) (at - first);
            bitmap[bit >> 3] |= (byte) (1 << (bit & 7));
        }
    }

    private static void require(boolean holds, String what, int field) throws FileSystemException {
        if (!holds) {
            throw new FileSystemException("The ext superblock has an impossible " + what, OFFSET + field);
        }
    }
}
