// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;

/** A stream that is made to be read many bytes at a time, best of all into a buffer outside the heap. */
abstract class BulkStream extends InputStream {
    private static final int PIECE = 1 << 16;

    private ByteBuffer between;

    /** Puts at least one byte into a buffer outside the heap that has room; says how many, or -1 at the end. */
    abstract int unpack(ByteBuffer target) throws IOException;

    @Override
    public final int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public final int read(byte[] target, int offset, int length) throws IOException {
        if (length == 0) {
            return 0;
        }
        if (between == null) {
            between = ByteBuffer.allocateDirect(PIECE).limit(0);
        }
        if (!between.hasRemaining()) {
            between.clear();
            int got = unpack(between);
            between.flip();
            if (got < 0) {
                return -1;
            }
        }
        int got = Math.min(length, between.remaining());
        between.get(target, offset, got);
        return got;
    }
}
