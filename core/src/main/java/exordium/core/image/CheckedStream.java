// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import org.apache.commons.io.input.BoundedInputStream;

/** Turns whatever a decoder throws at broken data into one typed error, and holds the container to the size it told. */
final class CheckedStream extends BulkStream {
    private final InputStream decoder;
    private final BoundedInputStream file;
    private final ImageFile image;
    private long count;

    CheckedStream(InputStream decoder, BoundedInputStream file, ImageFile image) {
        this.decoder = decoder;
        this.file = file;
        this.image = image;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        int got;
        try {
            got = decoder.read(target, offset, length);
        } catch (IOException | RuntimeException e) {
            throw image.broken(e, file.getCount());
        }
        if (got > 0) {
            count += got;
        } else if (got < 0
                && image.uncompressedSize().filter(size -> size.bytes() > count).isPresent()) {
            throw image.broken(new EOFException(), file.getCount());
        }
        return got;
    }

    @Override
    public void close() throws IOException {
        try {
            decoder.close();
        } finally {
            file.close();
        }
    }
}
