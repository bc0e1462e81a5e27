// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.block.LittleEndian;

/**
 * The superblock of ext2, ext3 and ext4 (Linux kernel documentation, filesystems/ext4/super). Numbers that later code
 * multiplies or divides by are bounded here.
 */
record ExtSuperblock(
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
        long incompatible,
        String label,
        String uuid) {
    static final int OFFSET = 1024;
    static final int MAGIC = 0xEF53;

    private static final int COMPAT_JOURNAL = 0x4;
    private static final int INCOMPAT_META_BG = 0x10;
    private static final int INCOMPAT_EXTENTS = 0x40;
    private static final int INCOMPAT_64BIT = 0x80;
    private static final int INCOMPAT_FLEX_BG = 0x200;
    /** Features whose presence changes where things are in a way not followed here. */
    private static final int RO_COMPAT_BIGALLOC = 0x200;

    static FileSystemKind kindOf(byte[] bytes, int at) {
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
        require((incompatible & INCOMPAT_META_BG) == 0, "feature meta_bg, which is not read", 96);
        long blocks = LittleEndian.u32(b, 4) | (wide ? LittleEndian.u32(b, 336) << 32 : 0);
        long free = LittleEndian.u32(b, 12) | (wide ? LittleEndian.u32(b, 344) << 32 : 0);
        long blocksPerGroup = LittleEndian.u32(b, 32);
        long inodesPerGroup = LittleEndian.u32(b, 40);
        boolean old = LittleEndian.u32(b, 76) == 0;
        int inodeSize = old ? 128 : LittleEndian.u16(b, 88);
        int descriptorSize = wide ? Math.max(64, LittleEndian.u16(b, 254)) : 32;
        require(blocks > 0 && blocks < 1L << 48 && free >= 0 && free <= blocks, "block counts", 4);
        require(blocksPerGroup > 0 && blocksPerGroup <= 8L * blockSize, "blocks per group", 32);
        require(inodesPerGroup > 0 && inodesPerGroup <= 8L * blockSize, "inodes per group", 40);
        require(inodeSize >= 128 && inodeSize <= blockSize && Integer.bitCount(inodeSize) == 1, "inode size", 88);
        require(descriptorSize <= 1024, "descriptor size", 254);
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
                incompatible,
                LittleEndian.text(b, 120, 16),
                Uuids.plain(b, 104));
    }

    private static void require(boolean holds, String what, int field) throws FileSystemException {
        if (!holds) {
            throw new FileSystemException("The ext superblock has an impossible " + what, OFFSET + field);
        }
    }
}
