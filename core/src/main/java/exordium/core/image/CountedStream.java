// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Knows how far a container's file was read, so that an error can name the place. */
final class CountedStream extends FilterInputStream {
    private long count;

    CountedStream(InputStream stream) {
        super(stream);
    }

    long count() {
        return count;
    }

    @Override
    public int read() throws IOException {
        int one = super.read();
        if (one >= 0) {
            count++;
        }
        return one;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        int got = super.read(target, offset, length);
        count += Math.max(0, got);
        return got;
    }
}
