// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.IOException;
import java.nio.file.Path;
import org.tukaani.xz.SeekableFileInputStream;
import org.tukaani.xz.SeekableXZInputStream;

/** The blocks of an .xz, which its index lists and which unpack on their own (The .xz File Format, 1.1.0). */
final class XzBlocks implements PieceStream.Unpacker {
    private final SeekableXZInputStream xz;

    XzBlocks(Path path) throws IOException {
        SeekableFileInputStream file = new SeekableFileInputStream(path.toFile());
        try {
            this.xz = new SeekableXZInputStream(file, ImageFile.XZ_MEMORY_KIB);
        } catch (IOException | RuntimeException e) {
            file.close();
            throw e;
        }
    }

    int count() {
        return xz.getBlockCount();
    }

    long length() {
        return xz.length();
    }

    long largest() {
        return xz.getLargestBlockSize();
    }

    long start(int index) {
        return xz.getBlockPos(index);
    }

    long size(int index) {
        return xz.getBlockSize(index);
    }

    int holding(long position) {
        return xz.getBlockNumber(position);
    }

    /** Whether blocks are many and small enough to be taken one by one. */
    boolean apart() {
        return PieceStream.worthwhile(count(), largest());
    }

    @Override
    public int piece(int index, byte[] into) throws IOException {
        int length = (int) size(index);
        xz.seekToBlock(index);
        if (xz.readNBytes(into, 0, length) != length) {
            throw new java.io.EOFException("block " + index + " is short");
        }
        return length;
    }

    @Override
    public void close() throws IOException {
        xz.close();
    }
}
