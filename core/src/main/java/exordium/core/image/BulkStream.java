// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.IOException;
import java.io.InputStream;

/** A stream that is made to be read many bytes at a time; a single byte is the smallest of those. */
abstract class BulkStream extends InputStream {
    @Override
    public final int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public abstract int read(byte[] target, int offset, int length) throws IOException;
}
