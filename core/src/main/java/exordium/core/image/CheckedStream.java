// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.Closing;
import exordium.core.finding.OverBound;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.List;
import org.apache.commons.io.input.BoundedInputStream;

/** Turns whatever a decoder throws at broken data into one typed error, and holds the container to the size it told. */
final class CheckedStream extends InputStream implements PackedStream {
    private static final int PIECE = 1 << 16;

    private final InputStream decoder;
    private final BoundedInputStream file;
    private final ImageFile image;
    private final byte[] heap = new byte[PIECE];
    private long count;

    CheckedStream(InputStream decoder, BoundedInputStream file, ImageFile image) {
        this.decoder = decoder;
        this.file = file;
        this.image = image;
    }

    @Override
    public long packedRead() {
        return file.getCount();
    }

    private interface Reading {
        int run() throws IOException;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        return checked(() -> decoder.read(target, offset, length));
    }

    /** Fills a buffer outside the heap, or as much of it as there is. */
    void fill(ByteBuffer target) throws IOException {
        int got = 0;
        while (target.hasRemaining() && got >= 0) {
            got = decoder instanceof BulkStream bulk ? checked(() -> bulk.unpack(target)) : throughHeap(target);
        }
    }

    private int throughHeap(ByteBuffer target) throws IOException {
        int got = read(heap, 0, Math.min(heap.length, target.remaining()));
        if (got > 0) {
            target.put(heap, 0, got);
        }
        return got;
    }

    private int checked(Reading reading) throws IOException {
        int got;
        try {
            got = reading.run();
        } catch (OverBound e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw image.broken(e, file.getCount());
        }
        if (got > 0) {
            count += got;
            image.bound().require(image.name(), count);
        } else if (got < 0
                && image.uncompressedSize().filter(size -> size.bytes() > count).isPresent()) {
            throw image.broken(new EOFException(), file.getCount());
        }
        return got;
    }

    @Override
    public void close() throws IOException {
        Closing.all(List.of(decoder, file));
    }
}
