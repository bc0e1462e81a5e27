// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import java.io.IOException;
import java.nio.ByteBuffer;

/**
 * From an inode's 60 bytes to the blocks of its file: the extent tree of ext4 and the pointers of ext2 and ext3 (Linux
 * kernel documentation, filesystems/ext4, "The contents of inode.i_block"). Holes and unwritten extents read as zero.
 */
final class ExtBlockMap {
    private static final int EXTENT_MAGIC = 0xF30A;
    private static final int DEEPEST = 5;
    private static final int INITIALISED_MOST = 32_768;
    /** A tree of this many nodes maps far more than the largest file handed out. */
    private static final int MOST_NODES = 4096;

    private final BlockDevice slice;
    private final int blockSize;
    private final long blocks;

    ExtBlockMap(BlockDevice slice, int blockSize, long blocks) {
        this.slice = slice;
        this.blockSize = blockSize;
        this.blocks = blocks;
    }

    byte[] readExtents(byte[] root, int size) throws IOException {
        byte[] content = new byte[size];
        walk(root, content, DEEPEST, new int[] {MOST_NODES});
        return content;
    }

    byte[] readPointers(byte[] root, int size) throws IOException {
        byte[] content = new byte[size];
        int[] nodes = {MOST_NODES};
        long logical = 0;
        for (int i = 0; i < 12; i++) {
            place(LittleEndian.u32(root, i * 4), logical++, 1, content);
        }
        for (int level = 1; level <= 3; level++) {
            logical = indirect(LittleEndian.u32(root, (11 + level) * 4), level, logical, content, nodes);
        }
        return content;
    }

    private void walk(byte[] node, byte[] content, int levels, int[] nodes) throws IOException {
        int entries = LittleEndian.u16(node, 2);
        int depth = LittleEndian.u16(node, 6);
        if (LittleEndian.u16(node, 0) != EXTENT_MAGIC
                || depth > levels
                || 12 + entries * 12 > node.length
                || nodes[0]-- <= 0) {
            throw new FileSystemException("An extent tree is broken", -1);
        }
        for (int i = 0; i < entries; i++) {
            int at = 12 + i * 12;
            if (depth == 0) {
                int length = LittleEndian.u16(node, at + 4);
                if (length <= INITIALISED_MOST) {
                    long start = LittleEndian.u32(node, at + 8) | (long) LittleEndian.u16(node, at + 6) << 32;
                    place(start, LittleEndian.u32(node, at), length, content);
                }
            } else {
                long child = LittleEndian.u32(node, at + 4) | (long) LittleEndian.u16(node, at + 8) << 32;
                walk(block(child), content, depth - 1, nodes);
            }
        }
    }

    private long indirect(long pointer, int level, long logical, byte[] content, int[] nodes) throws IOException {
        int pointers = blockSize / 4;
        long span = 1;
        for (int i = 0; i < level; i++) {
            span *= pointers;
        }
        if (pointer == 0 || logical * blockSize >= content.length) {
            return logical + span;
        }
        if (nodes[0]-- <= 0) {
            throw new FileSystemException("A block map is broken", -1);
        }
        byte[] table = block(pointer);
        long at = logical;
        for (int i = 0; i < pointers; i++) {
            long child = LittleEndian.u32(table, i * 4);
            if (level == 1) {
                place(child, at++, 1, content);
            } else {
                at = indirect(child, level - 1, at, content, nodes);
            }
        }
        return logical + span;
    }

    private void place(long block, long logical, int count, byte[] content) throws IOException {
        long offset = logical * blockSize;
        if (block == 0 || offset >= content.length) {
            return;
        }
        long length = Math.min((long) count * blockSize, content.length - offset);
        if (block + count > blocks || block * blockSize > slice.size().bytes() - length) {
            throw new FileSystemException("A file's block is past the end of the file system", block * blockSize);
        }
        slice.read(block * blockSize, ByteBuffer.wrap(content, (int) offset, (int) length));
    }

    private byte[] block(long number) throws IOException {
        if (number <= 0
                || number >= blocks
                || (number + 1) * blockSize > slice.size().bytes()) {
            throw new FileSystemException("A block number is past the end of the file system", number * blockSize);
        }
        return slice.bytes(number * blockSize, blockSize);
    }
}
