// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import exordium.core.block.LittleEndian;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The frames of a .zst, found by walking from block header to block header without unpacking (RFC 8878, 3.1). What follows
 * the last whole frame is told with its offset.
 */
final class ZstdFrames implements PieceStream.Unpacker {
    private static final long FRAME = 0xFD2FB528L;
    private static final long SKIPPABLE = 0x184D2A50L;
    private static final int[] DICTIONARY_BYTES = {0, 1, 2, 4};
    private static final long UNKNOWN = -1;

    private final FileChannel channel;
    private final List<Frame> frames;

    /** Where a frame stands and how much it holds; size -1 where it does not say. */
    record Frame(long offset, long length, long size) {}

    ZstdFrames(Path path, List<Frame> frames) throws IOException {
        this.channel = FileChannel.open(path, StandardOpenOption.READ);
        this.frames = frames;
    }

    /** @throws UnreadableInput with the offset where a frame is broken off or something else is stuck to the end */
    static List<Frame> walk(Path path) throws IOException {
        List<Frame> frames = new ArrayList<>();
        PartCount count = new PartCount(path, "frames");
        try (FileChannel file = FileChannel.open(path, StandardOpenOption.READ)) {
            Window channel = new Window(file);
            long position = 0;
            while (position < channel.size()) {
                byte[] magic = bytes(channel, path, position, 4);
                long number = LittleEndian.u32(magic, 0);
                count.another();
                if ((number & 0xFFFFFFF0L) == SKIPPABLE) {
                    position += 8 + LittleEndian.u32(bytes(channel, path, position + 4, 4), 0);
                    if (position > channel.size()) {
                        throw cut(path, channel.size());
                    }
                    continue;
                }
                if (number != FRAME) {
                    throw new UnreadableInput(
                            path.getFileName() + " is not a whole zstd file: something else is stuck to its end.",
                            position);
                }
                Frame frame = frame(channel, path, position);
                frames.add(frame);
                position += frame.length();
            }
        }
        return frames;
    }

    /** What all frames hold together, where every one says so. */
    static Optional<Long> total(List<Frame> frames) {
        long total = 0;
        for (Frame frame : frames) {
            if (frame.size() == UNKNOWN) {
                return Optional.empty();
            }
            total = total > Long.MAX_VALUE - frame.size() ? Long.MAX_VALUE : total + frame.size();
        }
        return Optional.of(total);
    }

    static long largest(List<Frame> frames) {
        return frames.stream()
                .mapToLong(frame -> frame.size() == UNKNOWN ? Long.MAX_VALUE : frame.size() + frame.length())
                .max()
                .orElse(0);
    }

    private static Frame frame(Window channel, Path path, long start) throws IOException {
        int descriptor = LittleEndian.u8(bytes(channel, path, start + 4, 1), 0);
        boolean single = (descriptor & 0x20) != 0;
        int sizeFlag = descriptor >>> 6;
        int sizeBytes = sizeFlag == 0 ? (single ? 1 : 0) : 1 << sizeFlag;
        long position = start + 5 + (single ? 0 : 1) + DICTIONARY_BYTES[descriptor & 3];
        long size = UNKNOWN;
        if (sizeBytes > 0) {
            byte[] field = java.util.Arrays.copyOf(bytes(channel, path, position, sizeBytes), 8);
            size = LittleEndian.i64(field, 0) + (sizeBytes == 2 ? 256 : 0);
            if (size < 0) {
                throw new UnreadableInput(
                        path.getFileName() + " is not a whole zstd file: a frame announces an impossible size.", start);
            }
        }
        position += sizeBytes;
        boolean last = false;
        while (!last) {
            byte[] header = bytes(channel, path, position, 3);
            int word = LittleEndian.u16(header, 0) | LittleEndian.u8(header, 2) << 16;
            last = (word & 1) != 0;
            int type = word >>> 1 & 3;
            if (type == 3) {
                throw new UnreadableInput(
                        path.getFileName() + " is not a whole zstd file: a block is broken.", position);
            }
            position += 3 + (type == 1 ? 1 : word >>> 3);
        }
        position += (descriptor & 4) != 0 ? 4 : 0;
        if (position > channel.size()) {
            throw cut(path, channel.size());
        }
        return new Frame(start, position - start, size);
    }

    private static byte[] bytes(Window channel, Path path, long position, int length) throws IOException {
        byte[] bytes = new byte[length];
        if (!channel.get(position, bytes)) {
            throw cut(path, channel.size());
        }
        return bytes;
    }

    /** Small fields one near the other are read from one piece of the file. */
    private static final class Window {
        private static final int PIECE = 1 << 16;

        private final FileChannel file;
        private final long size;
        private final ByteBuffer piece = ByteBuffer.allocate(PIECE);
        private long from;

        Window(FileChannel file) throws IOException {
            this.file = file;
            this.size = file.size();
            piece.limit(0);
        }

        long size() {
            return size;
        }

        /** False where the file ends before. */
        boolean get(long position, byte[] bytes) throws IOException {
            if (position < from || position + bytes.length > from + piece.limit()) {
                piece.clear();
                from = position;
                int got = 0;
                while (piece.hasRemaining() && got >= 0) {
                    got = file.read(piece, from + piece.position());
                }
                piece.flip();
            }
            if (position + bytes.length > from + piece.limit()) {
                return false;
            }
            piece.get((int) (position - from), bytes);
            return true;
        }
    }

    private static UnreadableInput cut(Path path, long at) {
        return new UnreadableInput(path.getFileName() + " is not a whole zstd file: it ends too early.", at);
    }

    @Override
    public void piece(int index, ByteBuffer into) throws IOException {
        Frame frame = frames.get(index);
        ByteBuffer packed = ByteBuffer.allocate((int) frame.length());
        while (packed.hasRemaining()) {
            if (channel.read(packed, frame.offset() + packed.position()) < 0) {
                throw new java.io.EOFException("frame " + index + " is short");
            }
        }
        try {
            long got = Zstd.decompressByteArray(
                    into.array(), into.arrayOffset(), (int) frame.size(), packed.array(), 0, packed.array().length);
            if (got != frame.size()) {
                throw new IOException("the frame at byte " + frame.offset() + " holds less than it announces");
            }
            into.position((int) frame.size());
        } catch (ZstdException e) {
            throw new IOException("the frame at byte " + frame.offset() + " is broken: " + e.getMessage(), e);
        }
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
