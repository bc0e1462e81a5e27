// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import exordium.core.block.TransferWatch;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;

/**
 * Finds the chunks of a pack without its index: frame after frame (RFC 8878), each unpacked and digested. Where a frame is broken, it goes
 * on at the next four bytes that could begin one. Memory: {@link #WINDOW} bytes. A pack of 1 GB takes some seconds.
 */
final class PackScan {
    private static final int WINDOW = 4 << 20;
    private static final byte[] MAGIC = {0x28, (byte) 0xB5, 0x2F, (byte) 0xFD};

    private final FileChannel channel;
    private final byte[] window = new byte[WINDOW];
    private final byte[] plain = new byte[Chunk.BYTES];
    private long from;
    private int filled;

    private PackScan(FileChannel channel) {
        this.channel = channel;
    }

    /** Is told of every chunk that is whole. */
    interface Sink {
        void chunk(Chunk chunk, long at, int bytes, int unpacked);
    }

    static void of(Path pack, TransferWatch watch, Sink sink) throws IOException {
        try (FileChannel channel = FileChannel.open(pack)) {
            new PackScan(channel).run(watch, sink);
        }
    }

    private void run(TransferWatch watch, Sink sink) throws IOException {
        long length = channel.size();
        long at = 0;
        while (at < length) {
            watch.goOnOrStop();
            fill(at);
            int offset = (int) (at - from);
            int frame = frame(offset);
            int unpacked = frame > 0 ? unpack(offset, frame) : -1;
            if (unpacked > 0) {
                sink.chunk(Chunk.of(plain, 0, unpacked), at, frame, unpacked);
                at += frame;
            } else {
                at = next(at + 1, length);
            }
        }
    }

    /** The window holds what stands at a place, as much as a frame may be long. */
    private void fill(long at) throws IOException {
        if (at >= from && at + ChunkPacks.LONGEST_FRAME <= from + filled) {
            return;
        }
        from = at;
        ByteBuffer buffer = ByteBuffer.wrap(window);
        int got = 0;
        while (buffer.hasRemaining() && got >= 0) {
            got = channel.read(buffer, from + buffer.position());
        }
        filled = buffer.position();
    }

    /** How long the frame is that begins there; 0 where none does. */
    private int frame(int offset) {
        int most = Math.min(ChunkPacks.LONGEST_FRAME, filled - offset);
        if (!isMagic(offset)) {
            return 0;
        }
        try {
            long bytes = Zstd.findFrameCompressedSize(window, offset, most);
            return Zstd.isError(bytes) || bytes > most ? 0 : (int) bytes;
        } catch (ZstdException e) {
            return 0;
        }
    }

    private int unpack(int offset, int frame) {
        try {
            return (int) Zstd.decompressByteArray(plain, 0, plain.length, window, offset, frame);
        } catch (ZstdException e) {
            return -1;
        }
    }

    private boolean isMagic(int offset) {
        for (int i = 0; i < MAGIC.length; i++) {
            if (offset + i >= filled || window[offset + i] != MAGIC[i]) {
                return false;
            }
        }
        return true;
    }

    private long next(long at, long length) throws IOException {
        long place = at;
        while (place < length) {
            fill(place);
            for (int offset = (int) (place - from); offset < filled; offset++) {
                if (isMagic(offset)) {
                    return from + offset;
                }
            }
            // The first bytes of a magic may stand at the window's end.
            place = Math.max(place + 1, from + filled - MAGIC.length + 1);
        }
        return length;
    }
}
