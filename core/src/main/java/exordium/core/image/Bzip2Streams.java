// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;

/**
 * Streams of .bz2 one after the other, as packers that use several cores write them. Those that hold nothing are counted
 * apart: each costs as much to begin as one that holds 900 kB.
 */
final class Bzip2Streams extends InputStream {
    private static final int MOST_EMPTY = 1000;
    private static final int SIGNATURE = 3;

    private final BufferedInputStream file;
    private final PartCount count;
    private InputStream stream;
    private boolean any;
    private int empty;

    Bzip2Streams(InputStream file, PartCount count) throws IOException {
        this.file = new BufferedInputStream(file);
        this.count = count;
        this.stream = open();
    }

    private InputStream open() throws IOException {
        count.another();
        any = false;
        return new BZip2CompressorInputStream(file, false);
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
        if (length == 0) {
            return 0;
        }
        while (true) {
            int got = stream.read(target, offset, length);
            if (got > 0) {
                any = true;
                return got;
            }
            empty = any ? 0 : empty + 1;
            if (empty > MOST_EMPTY) {
                throw new IOException("it is put together from streams that hold nothing");
            }
            if (!another()) {
                return -1;
            }
            stream = open();
        }
    }

    /** Whether another stream begins here; anything else at the end is not passed over in silence. */
    private boolean another() throws IOException {
        file.mark(SIGNATURE);
        byte[] next = file.readNBytes(SIGNATURE);
        file.reset();
        if (next.length == 0) {
            return false;
        }
        if (next.length < SIGNATURE || next[0] != 'B' || next[1] != 'Z' || next[2] != 'h') {
            throw new IOException("something else is stuck to its end");
        }
        return true;
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
