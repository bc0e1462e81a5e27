// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.Waiting;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Reads a medium past the cache while what came before is being looked at. Two buffers take turns: what was handed out last
 * stays as it is until the next one is handed out.
 */
final class ReadAhead implements Closeable {
    private final BlockDevice target;
    private final ExecutorService worker = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "target-reader");
        thread.setDaemon(true);
        return thread;
    });
    private ByteBuffer handedOut;
    private ByteBuffer coming;
    private long comingPosition;
    private Future<Long> running;
    private long nanos;

    ReadAhead(BlockDevice target, int chunkBytes) {
        this.target = target;
        this.handedOut = AlignedBuffers.allocate(chunkBytes);
        this.coming = AlignedBuffers.allocate(chunkBytes);
    }

    /** The buffer that was handed out last, for whoever needs one between two chunks. */
    ByteBuffer spare() {
        return handedOut.clear();
    }

    /** Begins to read these parts of a chunk, each to its own place in the buffer. */
    void ask(long position, Pieces pieces) {
        comingPosition = position;
        ByteBuffer buffer = coming;
        running = worker.submit(() -> {
            long started = System.nanoTime();
            for (Pieces.Extent each : pieces.extents()) {
                // What follows in the buffer is room for a last block that is no whole one.
                ByteBuffer place = buffer.clear().position(each.from()).slice().limit(each.length());
                target.readBack(position + each.from(), place);
            }
            return System.nanoTime() - started;
        });
    }

    boolean asked(long position) {
        return running != null && comingPosition == position;
    }

    /** What was asked for; afterwards the next may be asked for. */
    ByteBuffer take() throws IOException {
        nanos = 0;
        Future<Long> reading = running;
        running = null;
        nanos = Waiting.on(reading);
        ByteBuffer taken = coming;
        coming = handedOut;
        handedOut = taken;
        return taken.clear();
    }

    /** How long the medium took for what was taken last. */
    long nanos() {
        return nanos;
    }

    /** What is under way is of no use any more; returns when nothing is. */
    void forget() throws IOException {
        if (running != null) {
            take();
        }
    }

    /** The medium is closed after this; a reading under way is not to meet that. */
    @Override
    public void close() {
        Waiting.forEnd(worker);
    }
}
