// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.image.ImageFile;
import exordium.core.image.ImageReader;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import java.io.Closeable;
import java.io.IOException;
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
    private static final int BUFFERS = 5;

    /** One chunk; its buffer is borrowed until {@link #release}, and absent where nobody needs the chunk. */
    record Chunk(long position, Optional<ByteBuffer> held, int length, int crc) {
        ByteBuffer buffer() {
            return held.orElseThrow();
        }
    }

    /** Whether anybody needs the chunk at this position. */
    interface Needed {
        boolean at(long position);
    }

    private record Delivery(Chunk chunk, IOException failure) {}

    private final BlockingQueue<ByteBuffer> free = new ArrayBlockingQueue<>(BUFFERS);
    private final BlockingQueue<Delivery> ready = new ArrayBlockingQueue<>(BUFFERS + 1);
    private final ImageReader reader;
    private final int chunkBytes;
    private final long size;
    private final Needed needed;
    private final Optional<MessageDigest> digest;
    private final Thread thread;

    /** All chunks of an image. */
    ChunkSource(ImageFile image, int chunkBytes) throws IOException {
        this(image, chunkBytes, false, position -> true);
    }

    /** Chunks that are not needed are passed over where the container allows it, and come without a buffer. */
    ChunkSource(ImageFile image, int chunkBytes, boolean digest, Needed needed) throws IOException {
        this.chunkBytes = chunkBytes;
        this.size = image.uncompressedSize().map(ByteSize::bytes).orElse(0L);
        this.needed = digest ? position -> true : needed;
        this.reader = image.reader();
        this.digest = digest ? Optional.of(PublishedChecksum.newSha256()) : Optional.empty();
        for (int i = 0; i < BUFFERS; i++) {
            free.add(AlignedBuffers.allocate(chunkBytes));
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
        chunk.held().ifPresent(buffer -> free.add(buffer.clear()));
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
        reader.close();
    }

    private void decode() {
        try {
            long position = 0;
            while (true) {
                int beyond = (int) Math.min(chunkBytes, Math.max(0, size - position));
                Chunk chunk = beyond > 0 && !needed.at(position) && reader.passOver(beyond)
                        ? new Chunk(position, Optional.empty(), beyond, 0)
                        : read(position);
                if (chunk.length() == 0) {
                    ready.put(new Delivery(null, null));
                    return;
                }
                ready.put(new Delivery(chunk, null));
                position += chunk.length();
            }
        } catch (IOException e) {
            ready.add(new Delivery(null, e));
        } catch (OutOfMemoryError e) {
            ready.add(new Delivery(null, new IOException("there is not enough memory to unpack the image", e)));
        } catch (RuntimeException | Error e) {
            // Whatever it was, nobody waits for a thread that is gone.
            ready.add(new Delivery(null, new IOException("the image cannot be read: " + e, e)));
        } catch (InterruptedException e) {
            // The consumer went away; there is nobody left to tell.
            Thread.currentThread().interrupt();
        }
    }

    private Chunk read(long position) throws IOException, InterruptedException {
        ByteBuffer buffer = free.take().clear();
        buffer.limit(chunkBytes);
        reader.fill(buffer);
        buffer.flip();
        CRC32C crc = new CRC32C();
        crc.update(buffer.duplicate());
        digest.ifPresent(sum -> sum.update(buffer.duplicate()));
        return new Chunk(position, Optional.of(buffer), buffer.remaining(), (int) crc.getValue());
    }
}
