// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.TransferWatch;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;

/** Tells how far the writing of a root is, and stops it where that is wanted. */
final class WatchedStream extends FilterOutputStream {
    private static final int EVERY = 1 << 20;

    private final long total;
    private final TransferWatch watch;
    private long written;
    private int since;
    private long at = System.nanoTime();

    WatchedStream(OutputStream out, long total, TransferWatch watch) {
        super(out);
        this.total = total;
        this.watch = watch;
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
        out.write(bytes, from, length);
        written += length;
        since += length;
        if (since >= EVERY) {
            watch.goOnOrStop();
            long now = System.nanoTime();
            watch.moved(TransferWatch.Phase.COPYING, written - since, since, now - at, Math.max(total, written));
            at = now;
            since = 0;
        }
    }

    @Override
    public void write(int one) throws IOException {
        write(new byte[] {(byte) one}, 0, 1);
    }
}
