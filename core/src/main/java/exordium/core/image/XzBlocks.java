// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.Closing;
import exordium.core.block.LittleEndian;
import exordium.core.block.Machine;
import exordium.core.block.XzUnpacker;
import java.io.EOFException;
import java.io.IOException;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.CRC32;
import org.tukaani.xz.SeekableFileInputStream;
import org.tukaani.xz.SeekableXZInputStream;

/** The blocks of an .xz, which its index lists and which unpack on their own (The .xz File Format, 1.1.0). */
final class XzBlocks implements PieceStream.Unpacker {
    private static final int PIECE = 1 << 18;
    /** Dictionaries up to this are unpacked by the library in Java, on the heap: that of xz -6, which most images are made with. */
    private static final long LIGHT = 8L << 20;

    private static final int MOST_HEADERS = 4096;
    private static final int LONGEST_HEADER = 1024;
    private static final int LZMA2 = 0x21;

    private final Path path;
    private final SeekableXZInputStream xz;
    private XzUnpacker system;
    private ByteBuffer packed;
    private FileChannel channel;
    private Boolean light;

    XzBlocks(Path path) throws IOException {
        this.path = path;
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

    /**
     * Whether blocks are many and small enough to be taken one by one. Several dictionaries of xz -9 at once are more than the heap
     * holds: such blocks only where the system's library unpacks them.
     */
    boolean apart() throws IOException {
        return PieceStream.worthwhile(count(), largest())
                && (light() || Machine.here().xz().isPresent());
    }

    /** Whether no block's dictionary is a large one. */
    boolean light() throws IOException {
        if (light == null) {
            light = count() <= MOST_HEADERS && largestDictionary() <= LIGHT;
        }
        return light;
    }

    private long largestDictionary() throws IOException {
        long most = 0;
        ByteBuffer header = ByteBuffer.allocate(LONGEST_HEADER);
        try (FileChannel file = FileChannel.open(path)) {
            for (int index = 0; index < count(); index++) {
                header.clear();
                if (file.read(header, xz.getBlockCompPos(index)) > 0) {
                    most = Math.max(most, dictionary(header.flip()));
                }
            }
        }
        return most;
    }

    /** What a block's header (3.1) says of its dictionary (5.3.1); one that cannot be read counts as large. */
    private static long dictionary(ByteBuffer header) {
        try {
            header.get();
            int flags = header.get();
            for (int sizes = (flags >> 6 & 1) + (flags >> 7 & 1); sizes > 0; sizes--) {
                number(header);
            }
            for (int filters = (flags & 3) + 1; filters > 0; filters--) {
                long filter = number(header);
                int properties = (int) number(header);
                if (filter == LZMA2) {
                    int bits = header.get(header.position()) & 0x3F;
                    return (2L | (bits & 1)) << (bits / 2 + 11);
                }
                header.position(header.position() + properties);
            }
        } catch (BufferUnderflowException | IllegalArgumentException | IndexOutOfBoundsException e) {
            return Long.MAX_VALUE;
        }
        return Long.MAX_VALUE;
    }

    /** A number of one byte for each seven bits (1.2). */
    private static long number(ByteBuffer from) {
        long value = 0;
        for (int shift = 0; shift < Long.SIZE; shift += 7) {
            int next = from.get();
            value |= (long) (next & 0x7F) << shift;
            if (next >= 0) {
                return value;
            }
        }
        throw new IllegalArgumentException("no number");
    }

    /** By the system's library into a buffer outside the heap, by the one in Java into any other. */
    @Override
    public void piece(int index, ByteBuffer into) throws IOException {
        int length = (int) size(index);
        into.limit(length);
        if (into.isDirect()) {
            bySystem(index, into);
        } else {
            xz.seekToBlock(index);
            into.position(xz.readNBytes(into.array(), into.arrayOffset(), length));
        }
        if (into.hasRemaining()) {
            throw new EOFException("block " + index + " is short");
        }
    }

    /** The block is given to the library as the first one of a stream; it checks it when the last of its bytes has come. */
    private void bySystem(int index, ByteBuffer into) throws IOException {
        if (system == null) {
            system = Machine.here().xz().orElseThrow().make(ImageFile.XZ_MEMORY, false);
            packed = ByteBuffer.allocateDirect(PIECE);
            channel = FileChannel.open(path);
        }
        system.begin();
        packed.clear().put(header(xz.getBlockCheckType(index))).flip();
        long at = xz.getBlockCompPos(index);
        long end = at + xz.getBlockCompSize(index);
        while (packed.hasRemaining() || at < end) {
            if (!packed.hasRemaining()) {
                packed.clear().limit((int) Math.min(PIECE, end - at));
                int got = channel.read(packed, at);
                if (got <= 0) {
                    throw new EOFException("block " + index + " is short");
                }
                at += got;
                packed.flip();
            }
            int before = packed.remaining();
            system.unpack(packed, into, false);
            if (packed.remaining() == before) {
                throw new IOException("block " + index + " holds more than the index tells");
            }
        }
    }

    /** A stream header for blocks checked in this way (2.1.1). */
    private static byte[] header(int check) {
        byte[] header = {(byte) 0xFD, '7', 'z', 'X', 'Z', 0, 0, (byte) check, 0, 0, 0, 0};
        CRC32 crc = new CRC32();
        crc.update(header, 6, 2);
        LittleEndian.putU32(header, 8, crc.getValue());
        return header;
    }

    @Override
    public void close() throws IOException {
        Closing.all(system == null ? List.of(xz) : List.of(system, channel, xz));
    }
}
