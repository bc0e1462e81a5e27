// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * From an inode's 60 bytes to the blocks of its file: the extent tree of ext4 and the pointers of ext2 and ext3 (Linux
 * kernel documentation, filesystems/ext4, "The contents of inode.i_block"). Holes and unwritten extents read as zero.
 */
final class ExtBlockMap {
    private static final int EXTENT_MAGIC = 0xF30A;
    private static final int DEEPEST = 5;
    private static final int INITIALISED_MOST = 32_768;
    /** A tree of this many nodes maps far more than any file of such a medium. */
    private static final int MOST_NODES = 65_536;

    private static final int MOST_TOGETHER = 1 << 20;
    private static final int COPY_PIECE = 1 << 18;

    private final BlockDevice slice;
    private final int blockSize;
    private final long blocks;

    ExtBlockMap(BlockDevice slice, int blockSize, long blocks) {
        this.slice = slice;
        this.blockSize = blockSize;
        this.blocks = blocks;
    }

    /** How many nodes of a map were met, and which blocks they are. */
    private static final class Nodes {
        private final List<Long> own;
        private int left = MOST_NODES;

        Nodes(List<Long> own) {
            this.own = own;
        }

        boolean another() {
            left--;
            return left >= 0;
        }
    }

    /** A run of a file's blocks that lies together; holes are in none. */
    record Run(long logical, long block, int count) {}

    /** The runs of a file's first blocks, in the order of the tree; size: of the file, beyond which nothing is asked. */
    List<Run> runs(byte[] root, boolean extents, long size) throws IOException {
        return runs(root, extents, size, new ArrayList<>());
    }

    /** The same; the blocks that hold the map itself go to a list. */
    List<Run> runs(byte[] root, boolean extents, long size, List<Long> own) throws IOException {
        List<Run> runs = new ArrayList<>();
        Nodes nodes = new Nodes(own);
        if (extents) {
            walk(root, DEEPEST, nodes, runs);
        } else {
            long logical = 0;
            for (int i = 0; i < 12; i++) {
                add(runs, LittleEndian.u32(root, i * 4), logical++, 1);
            }
            for (int level = 1; level <= 3; level++) {
                logical = indirect(LittleEndian.u32(root, (11 + level) * 4), level, logical, size, nodes, runs);
            }
        }
        return runs;
    }

    /** All of it at once. */
    byte[] read(List<Run> runs, int size) throws IOException {
        byte[] content = new byte[size];
        for (Run run : runs) {
            long offset = run.logical() * blockSize;
            if (offset < size) {
                int length = (int) Math.min((long) run.count() * blockSize, size - offset);
                slice.read(inside(run, length), ByteBuffer.wrap(content, (int) offset, length));
            }
        }
        return content;
    }

    /** Puts content where the runs are; every byte of it must have a place. */
    void overwrite(List<Run> runs, byte[] content) throws IOException {
        long placed = 0;
        for (Run run : runs) {
            long offset = run.logical() * blockSize;
            if (offset < content.length) {
                placed += Math.min((long) run.count() * blockSize, content.length - offset);
            }
        }
        if (placed != content.length) {
            throw new FileSystemException("The file has holes and cannot be changed in place", -1);
        }
        for (Run run : runs) {
            long offset = run.logical() * blockSize;
            if (offset < content.length) {
                int length = (int) Math.min((long) run.count() * blockSize, content.length - offset);
                slice.write(inside(run, length), ByteBuffer.wrap(content, (int) offset, length));
            }
        }
    }

    /** Piece by piece, holes as zeros. */
    void copy(List<Run> runs, long size, OutputStream out) throws IOException {
        byte[] piece = new byte[COPY_PIECE];
        long at = 0;
        for (Run run :
                runs.stream().sorted(Comparator.comparingLong(Run::logical)).toList()) {
            long offset = run.logical() * blockSize;
            if (offset < at || offset >= size) {
                continue;
            }
            at = zeros(out, at, offset, piece);
            long length = Math.min((long) run.count() * blockSize, size - offset);
            long place = inside(run, length);
            for (long done = 0; done < length; done += piece.length) {
                int part = (int) Math.min(piece.length, length - done);
                slice.read(place + done, ByteBuffer.wrap(piece, 0, part));
                out.write(piece, 0, part);
            }
            at += length;
        }
        zeros(out, at, size, piece);
    }

    private static long zeros(OutputStream out, long from, long to, byte[] piece) throws IOException {
        Arrays.fill(piece, (byte) 0);
        for (long at = from; at < to; at += piece.length) {
            out.write(piece, 0, (int) Math.min(piece.length, to - at));
        }
        return Math.max(from, to);
    }

    private long inside(Run run, long length) throws FileSystemException {
        if (run.block() + run.count() > blocks
                || run.block() * blockSize > slice.size().bytes() - length) {
            throw new FileSystemException("A file's block is past the end of the file system", run.block() * blockSize);
        }
        return run.block() * blockSize;
    }

    private void walk(byte[] node, int levels, Nodes nodes, List<Run> runs) throws IOException {
        int entries = LittleEndian.u16(node, 2);
        int depth = LittleEndian.u16(node, 6);
        if (LittleEndian.u16(node, 0) != EXTENT_MAGIC
                || depth > levels
                || 12 + entries * 12 > node.length
                || !nodes.another()) {
            throw new FileSystemException("An extent tree is broken", -1);
        }
        for (int i = 0; i < entries; i++) {
            int at = 12 + i * 12;
            if (depth == 0) {
                int length = LittleEndian.u16(node, at + 4);
                if (length <= INITIALISED_MOST) {
                    long start = LittleEndian.u32(node, at + 8) | (long) LittleEndian.u16(node, at + 6) << 32;
                    add(runs, start, LittleEndian.u32(node, at), length);
                }
            } else {
                long child = LittleEndian.u32(node, at + 4) | (long) LittleEndian.u16(node, at + 8) << 32;
                nodes.own.add(child);
                walk(block(child), depth - 1, nodes, runs);
            }
        }
    }

    private long indirect(long pointer, int level, long logical, long size, Nodes nodes, List<Run> runs)
            throws IOException {
        int pointers = blockSize / 4;
        long span = 1;
        for (int i = 0; i < level; i++) {
            span *= pointers;
        }
        if (pointer == 0 || logical * blockSize >= size) {
            return logical + span;
        }
        if (!nodes.another()) {
            throw new FileSystemException("A block map is broken", -1);
        }
        nodes.own.add(pointer);
        byte[] table = block(pointer);
        long at = logical;
        for (int i = 0; i < pointers; i++) {
            long child = LittleEndian.u32(table, i * 4);
            if (level == 1) {
                add(runs, child, at++, 1);
            } else {
                at = indirect(child, level - 1, at, size, nodes, runs);
            }
        }
        return logical + span;
    }

    /** Single blocks that follow each other become one run. */
    private static void add(List<Run> runs, long block, long logical, int count) {
        if (block == 0) {
            return;
        }
        Run last = runs.isEmpty() ? null : runs.get(runs.size() - 1);
        if (last != null
                && last.block() + last.count() == block
                && last.logical() + last.count() == logical
                && last.count() < MOST_TOGETHER) {
            runs.set(runs.size() - 1, new Run(last.logical(), last.block(), last.count() + count));
        } else {
            runs.add(new Run(logical, block, count));
        }
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
