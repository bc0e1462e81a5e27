// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.Closeable;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** A stream out of an archive that closes the archive with itself. */
final class OwnedStream extends FilterInputStream {
    private final Closeable owner;

    OwnedStream(InputStream stream, Closeable owner) {
        super(stream);
        this.owner = owner;
    }

    @Override
    public void close() throws IOException {
        try {
            super.close();
        } finally {
            owner.close();
        }
    }
}
