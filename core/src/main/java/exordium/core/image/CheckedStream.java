// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.EOFException;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Turns whatever a decoder throws at broken data into one typed error, and holds the container to the size it told. */
final class CheckedStream extends FilterInputStream {
    private final CountedStream file;
    private final ImageFile image;
    private long count;

    CheckedStream(InputStream decoder, CountedStream file, ImageFile image) {
        super(decoder);
        this.file = file;
        this.image = image;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        int got;
        try {
            got = super.read(target, offset, length);
        } catch (IOException | RuntimeException e) {
            throw image.broken(e, file.count());
        }
        if (got > 0) {
            count += got;
        } else if (got < 0
                && image.uncompressedSize().filter(size -> size.bytes() > count).isPresent()) {
            throw image.broken(new EOFException(), file.count());
        }
        return got;
    }

    @Override
    public void close() throws IOException {
        try {
            super.close();
        } finally {
            file.close();
        }
    }
}
