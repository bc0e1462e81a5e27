// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.image.PublishedChecksum;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.zip.CRC32C;

/**
 * Decodes an image on a thread of its own and hands out its chunks in order, each with a CRC-32C. Memory is fixed: a
 * few aligned buffers go round, whatever the image's size.
 */
final class ChunkSource implements Closeable {
    static final int CHUNK = 4 << 20;
    private static final int BUFFERS = 5;

    /** One chunk; its buffer is borrowed until {@link #release}. */
    record Chunk(long position, ByteBuffer buffer, int length, int crc) {}

    private record Delivery(Chunk chunk, IOException failure) {}

    private final BlockingQueue<ByteBuffer> free = new ArrayBlockingQueue<>(BUFFERS);
    private final BlockingQueue<Delivery> ready = new ArrayBlockingQueue<>(BUFFERS + 1);
    private final InputStream stream;
    private final Optional<MessageDigest> digest;
    private final Thread thread;

    ChunkSource(InputStream stream, boolean digest) {
        this.stream = stream;
        this.digest = digest ? Optional.of(PublishedChecksum.newSha256()) : Optional.empty();
        for (int i = 0; i < BUFFERS; i++) {
            free.add(AlignedBuffers.allocate(CHUNK));
        }
        this.thread = new Thread(this::decode, "image-decoder");
        thread.setDaemon(true);
        thread.start();
    }

    /** The next chunk, or null after the last. */
    Chunk next() throws IOException {
        try {
            Delivery delivery = ready.take();
            if (delivery.failure() != null) {
                throw delivery.failure();
            }
            return delivery.chunk();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new java.io.InterruptedIOException("interrupted while waiting for the image");
        }
    }

    void release(Chunk chunk) {
        free.add(chunk.buffer().clear());
    }

    /** Call after the last chunk. */
    Optional<String> sha256() {
        return digest.map(sum -> HexFormat.of().formatHex(sum.digest()));
    }

    @Override
    public void close() throws IOException {
        thread.interrupt();
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        stream.close();
    }

    private void decode() {
        try {
            byte[] heap = new byte[1 << 16];
            long position = 0;
            while (true) {
                ByteBuffer buffer = free.take().clear();
                buffer.limit(CHUNK);
                int length = fill(buffer, heap);
                if (length == 0) {
                    ready.put(new Delivery(null, null));
                    return;
                }
                buffer.flip();
                CRC32C crc = new CRC32C();
                crc.update(buffer.duplicate());
                digest.ifPresent(sum -> sum.update(buffer.duplicate()));
                ready.put(new Delivery(new Chunk(position, buffer, length, (int) crc.getValue()), null));
                position += length;
            }
        } catch (IOException e) {
            ready.add(new Delivery(null, e));
        } catch (InterruptedException e) {
            // The consumer went away; there is nobody left to tell.
            Thread.currentThread().interrupt();
        }
    }

    private int fill(ByteBuffer buffer, byte[] heap) throws IOException {
        while (buffer.hasRemaining()) {
            int got = stream.read(heap, 0, Math.min(heap.length, buffer.remaining()));
            if (got < 0) {
                break;
            }
            buffer.put(heap, 0, got);
        }
        return buffer.position();
    }
}
