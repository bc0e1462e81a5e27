// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.block.Waiting;
import exordium.core.inspection.UsedMap;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;

/**
 * Reads a drive for a copy, what counts as taken of it. Two reads are under way at any time, so that the drive never waits for what
 * is done with its bytes. Memory: six batches of 2 MiB, whoever wants more waits.
 */
final class BatchReader implements Closeable {
    static final int BATCH = 2 << 20;
    private static final int READS = 2;
    private static final int BUFFERS = READS + 4;
    private static final int LOOK_MILLIS = 50;
    private static final byte[] ZEROS = new byte[BATCH];

    private final BlockDevice drive;
    private final UsedMap used;
    private final long toMove;
    private final TransferWatch watch;
    private final ExecutorService readers = Executors.newFixedThreadPool(READS);
    private final BlockingQueue<ByteBuffer> free = new ArrayBlockingQueue<>(BUFFERS);
    private final AtomicBoolean abandoned = new AtomicBoolean();
    private long lastRead = System.nanoTime();

    /** Bytes of the drive from at on; borrowed until they are taken. */
    record Batch(long at, ByteBuffer bytes) {}

    /**
     * @param toMove what the watch hears as the whole
     * @param watch told of every read
     */
    BatchReader(BlockDevice drive, UsedMap used, long toMove, TransferWatch watch) {
        this.drive = drive;
        this.used = used;
        this.toMove = toMove;
        this.watch = watch;
        for (int i = 0; i < BUFFERS; i++) {
            free.add(AlignedBuffers.allocate(BATCH));
        }
    }

    /** What lies in a stretch of at most {@link #BATCH} bytes; zeros where nothing counts as taken. */
    CompletableFuture<Batch> read(long at, int length) {
        CompletableFuture<Batch> read = new CompletableFuture<>();
        readers.execute(() -> {
            try {
                ByteBuffer buffer = awaited();
                long started = System.nanoTime();
                moved(at, fill(at, length, buffer), started);
                read.complete(new Batch(at, buffer.rewind()));
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                read.completeExceptionally(e);
            } catch (IOException | RuntimeException | Error e) {
                read.completeExceptionally(e);
            }
        });
        return read;
    }

    /** Puts a batch's bytes at the beginning of an array and lets the batch go; gives their number. */
    int take(Batch batch, byte[] into) {
        try {
            int length = batch.bytes().remaining();
            batch.bytes().get(into, 0, length);
            return length;
        } finally {
            free.add(batch.bytes());
        }
    }

    /** Waits for a buffer; once nobody reads any more nobody gives one back. */
    private ByteBuffer awaited() throws InterruptedException {
        ByteBuffer buffer = null;
        while (buffer == null) {
            if (abandoned.get()) {
                throw new CancellationException();
            }
            buffer = free.poll(LOOK_MILLIS, TimeUnit.MILLISECONDS);
        }
        return buffer;
    }

    /** A drive does one after the other: the time of a read begins where the one before ended. */
    private synchronized void moved(long at, int bytes, long started) {
        long now = System.nanoTime();
        long begun = Math.max(started, lastRead);
        lastRead = now;
        watch.moved(TransferWatch.Phase.COPYING, at, bytes, now - begun, toMove);
    }

    /** Runs that belong together come in one go. */
    private int fill(long at, int length, ByteBuffer buffer) throws IOException {
        int moved = 0;
        for (int from = 0; from < length; ) {
            boolean counts = used.holds(at + from, Math.min(UsedMap.PIECE, length - from));
            int until = from;
            while (until < length && used.holds(at + until, Math.min(UsedMap.PIECE, length - until)) == counts) {
                until = Math.min(length, until + UsedMap.PIECE);
            }
            buffer.limit(until).position(from);
            if (counts) {
                drive.readBack(at + from, buffer);
                moved += until - from;
            } else {
                buffer.put(ZEROS, 0, until - from);
            }
            from = until;
        }
        buffer.limit(length);
        return moved;
    }

    /** What has not begun does not begin; what is being read is waited for, since the drive is closed next. */
    @Override
    public void close() {
        abandoned.set(true);
        Waiting.forEnd(readers);
    }
}
