// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;

/** A device from its first byte to its last as a stream, read past the page cache. The device stays open. */
public final class MediumStream extends InputStream {
    private static final int PIECE = 1 << 20;

    private final BlockDevice device;
    private final ByteBuffer buffer = AlignedBuffers.allocate(PIECE).limit(0);
    private long next;

    public MediumStream(BlockDevice device) {
        this.device = device;
    }

    @Override
    public int read() throws IOException {
        return fill() ? buffer.get() & 0xFF : -1;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        if (length == 0) {
            return 0;
        }
        if (!fill()) {
            return -1;
        }
        int got = Math.min(length, buffer.remaining());
        buffer.get(target, offset, got);
        return got;
    }

    private boolean fill() throws IOException {
        if (!buffer.hasRemaining()) {
            int length = (int) Math.min(PIECE, device.size().bytes() - next);
            if (length <= 0) {
                return false;
            }
            buffer.clear().limit(length);
            device.readBack(next, buffer);
            buffer.flip();
            next += length;
        }
        return true;
    }
}
