// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Map;
import java.util.OptionalLong;
import java.util.TreeMap;

/**
 * What of an ext file system is taken: block bitmaps, inode bitmaps, and the counts of both in descriptors and superblock (Linux
 * kernel documentation, filesystems/ext4). Changes stay here until {@link #write}.
 */
final class ExtSpace {
    private static final int FREE_BLOCKS = 12;
    private static final int FREE_INODES = 14;
    private static final int FOLDERS = 16;
    private static final int FLAGS = 18;
    private static final int BLOCK_SUM = 24;
    private static final int INODE_SUM = 26;
    private static final int UNUSED_INODES = 28;
    private static final int UNINITIALISED = 0x3;
    private static final int WIDE = 64;

    private final BlockDevice slice;
    private final ExtSuperblock layout;
    private final byte[] superblock;
    private final ExtChecksums sums;
    private final int firstInode;
    private final Map<Long, Group> groups = new TreeMap<>();

    ExtSpace(BlockDevice slice, ExtSuperblock layout, byte[] superblock, ExtChecksums sums) throws FileSystemException {
        this.slice = slice;
        this.layout = layout;
        this.superblock = superblock;
        this.sums = sums;
        long first = LittleEndian.u32(superblock, 76) == 0 ? 11 : LittleEndian.u32(superblock, 84);
        if (first < 1 || first > layout.inodesPerGroup() || layout.inodesPerGroup() > layout.blockSize() * 8L) {
            throw new FileSystemException(
                    "The ext superblock has an impossible first inode", ExtSuperblock.OFFSET + 84);
        }
        this.firstInode = (int) first;
    }

    /** A group with its maps. */
    private final class Group {
        final long number;
        final byte[] descriptor;
        final byte[] blocks;
        final byte[] inodes;
        boolean changed;

        Group(long number) throws IOException {
            this.number = number;
            this.descriptor = slice.bytes(layout.descriptorPlace(number), layout.descriptorSize());
            this.blocks = map(0, 32);
            this.inodes = map(4, 36);
        }

        boolean whole() {
            return (LittleEndian.u16(descriptor, FLAGS) & UNINITIALISED) == 0;
        }

        private long place(int low, int high) throws FileSystemException {
            long block = LittleEndian.u32(descriptor, low)
                    | (descriptor.length >= WIDE ? LittleEndian.u32(descriptor, high) << 32 : 0);
            if (block <= 0 || block >= layout.blocks()) {
                throw new FileSystemException("Group " + number + " names no map", layout.descriptorPlace(number));
            }
            return block * layout.blockSize();
        }

        private byte[] map(int low, int high) throws IOException {
            return slice.bytes(place(low, high), layout.blockSize());
        }

        int count(int low, int high) {
            return LittleEndian.u16(descriptor, low)
                    | (descriptor.length >= WIDE ? LittleEndian.u16(descriptor, high) << 16 : 0);
        }

        void count(int low, int high, int value) {
            LittleEndian.putU16(descriptor, low, value & 0xFFFF);
            if (descriptor.length >= WIDE) {
                LittleEndian.putU16(descriptor, high, value >>> 16);
            }
            changed = true;
        }

        void add(int low, int by) {
            count(low, low + 32, count(low, low + 32) + by);
        }

        void write() throws IOException {
            sums.bitmap(descriptor, BLOCK_SUM, blocks, (int) (layout.blocksPerGroup() / 8));
            sums.bitmap(descriptor, INODE_SUM, inodes, (int) (layout.inodesPerGroup() / 8));
            sums.descriptor(descriptor, number);
            put(place(0, 32), blocks);
            put(place(4, 36), inodes);
            put(layout.descriptorPlace(number), descriptor);
        }
    }

    /** A map is one block. */
    private void requireMap(long bits) throws FileSystemException {
        if (bits > layout.blockSize() * 8L) {
            throw new FileSystemException("A group is larger than its map", ExtSuperblock.OFFSET + 32);
        }
    }

    private static boolean taken(byte[] map, long bit) {
        return (map[(int) (bit >> 3)] & 1 << (bit & 7)) != 0;
    }

    private static void flip(byte[] map, long bit) {
        map[(int) (bit >> 3)] ^= (byte) (1 << (bit & 7));
    }

    private Group group(long number) throws IOException {
        Group group = groups.get(number);
        if (group == null) {
            group = new Group(number);
            groups.put(number, group);
        }
        return group;
    }

    /**
     * Takes blocks that lie together.
     *
     * @throws FileSystemException when there is no such room; nothing is changed then
     */
    long takeBlocks(int count) throws IOException {
        return together(count)
                .orElseThrow(() -> new FileSystemException(
                        slice.name() + " has no room left for " + (long) count * layout.blockSize() + " bytes together",
                        -1));
    }

    /** The same; empty where there is no such room. */
    OptionalLong together(int count) throws IOException {
        for (long number = 0; number < layout.groups(); number++) {
            Group group = group(number);
            if (!group.whole() || group.count(FREE_BLOCKS, FREE_BLOCKS + 32) < count) {
                continue;
            }
            long first = layout.firstDataBlock() + number * layout.blocksPerGroup();
            requireMap(layout.blocksPerGroup());
            long most = Math.min(layout.blocksPerGroup(), layout.blocks() - first);
            int run = 0;
            for (long bit = 0; bit < most; bit++) {
                run = taken(group.blocks, bit) ? 0 : run + 1;
                if (run == count) {
                    for (long each = bit - count + 1; each <= bit; each++) {
                        flip(group.blocks, each);
                    }
                    group.add(FREE_BLOCKS, -count);
                    freeBlocks(-count);
                    return OptionalLong.of(first + bit - count + 1);
                }
            }
        }
        return OptionalLong.empty();
    }

    void giveBlocks(long block, int count) throws IOException {
        if (block <= layout.firstDataBlock() || block + count > layout.blocks()) {
            throw new FileSystemException("A file's block is past the end of the file system", block);
        }
        requireMap(layout.blocksPerGroup());
        for (long each = block; each < block + count; each++) {
            Group group = group((each - layout.firstDataBlock()) / layout.blocksPerGroup());
            long bit = (each - layout.firstDataBlock()) % layout.blocksPerGroup();
            if (!taken(group.blocks, bit)) {
                throw new FileSystemException("Block " + each + " of a file counts as free", each * layout.blockSize());
            }
            flip(group.blocks, bit);
            group.add(FREE_BLOCKS, 1);
        }
        freeBlocks(count);
    }

    private void freeBlocks(long by) {
        long high = layout.descriptorSize() >= WIDE ? LittleEndian.u32(superblock, 344) << 32 : 0;
        long free = (LittleEndian.u32(superblock, 12) | high) + by;
        LittleEndian.putU32(superblock, 12, free & 0xFFFF_FFFFL);
        if (layout.descriptorSize() >= WIDE) {
            LittleEndian.putU32(superblock, 344, free >>> 32);
        }
    }

    long takeInode(boolean folder) throws IOException {
        for (long number = 0; number < layout.groups(); number++) {
            Group group = group(number);
            if (!group.whole() || group.count(FREE_INODES, FREE_INODES + 32) < 1) {
                continue;
            }
            for (long bit = number == 0 ? firstInode - 1 : 0; bit < layout.inodesPerGroup(); bit++) {
                if (!taken(group.inodes, bit)) {
                    flip(group.inodes, bit);
                    countInode(group, -1, folder ? 1 : 0);
                    // A group tells how many inodes at its end were never used (lazy initialisation).
                    int unused = group.count(UNUSED_INODES, 50);
                    group.count(UNUSED_INODES, 50, (int) Math.min(unused, layout.inodesPerGroup() - bit - 1));
                    return number * layout.inodesPerGroup() + bit + 1;
                }
            }
        }
        throw new FileSystemException(slice.name() + " has no room left for another file", -1);
    }

    void giveInode(long inode, boolean folder) throws IOException {
        Group group = group((inode - 1) / layout.inodesPerGroup());
        flip(group.inodes, (inode - 1) % layout.inodesPerGroup());
        countInode(group, 1, folder ? -1 : 0);
    }

    private void countInode(Group group, int free, int folders) {
        group.add(FREE_INODES, free);
        group.add(FOLDERS, folders);
        LittleEndian.putU32(superblock, 16, LittleEndian.u32(superblock, 16) + free);
    }

    private void put(long position, byte[] bytes) throws IOException {
        slice.write(position, ByteBuffer.wrap(bytes));
    }

    void write() throws IOException {
        for (Group group : groups.values()) {
            if (group.changed) {
                group.write();
            }
        }
        sums.superblock(superblock);
        put(ExtSuperblock.OFFSET, superblock);
    }
}
