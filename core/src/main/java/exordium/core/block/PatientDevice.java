// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.nio.ByteBuffer;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;

/**
 * Waits for a drive as long as its user does. A drive that hangs keeps the thread that waits for it; so each transfer is on a
 * thread of its own, and once the user wants to stop, an answer that is a second late is not waited for any more. The drive
 * is closed when the answer comes, if it ever does.
 */
public final class PatientDevice extends DelegatingDevice {
    private static final long LOOK_MILLIS = 100;
    private static final long GRACE_NANOS = 1_000_000_000L;
    /** For what is begun when a stop was asked for already, such as putting back what was there: cards take seconds at times. */
    private static final long GRACE_AFTER_STOP_NANOS = 10_000_000_000L;

    private final BooleanSupplier stop;
    private final ExecutorService transfers = Executors.newCachedThreadPool(work -> {
        Thread thread = new Thread(work, "transfer");
        thread.setDaemon(true);
        return thread;
    });
    private volatile boolean abandoned;

    /** Where stop: asked while an answer is waited for. */
    public PatientDevice(BlockDevice inner, BooleanSupplier stop) {
        super(inner);
        this.stop = stop;
    }

    private interface Transfer {
        void run() throws IOException;
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        await(() -> super.read(position, target));
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        await(() -> super.readBack(position, target));
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        await(() -> super.write(position, source));
    }

    @Override
    public void flush() throws IOException {
        await(super::flush);
    }

    private void await(Transfer transfer) throws IOException {
        if (abandoned) {
            throw notAnswering();
        }
        long grace = stop.getAsBoolean() ? GRACE_AFTER_STOP_NANOS : GRACE_NANOS;
        Future<?> answer = transfers.submit(() -> {
            transfer.run();
            return null;
        });
        long stoppedAt = 0;
        while (true) {
            try {
                answer.get(LOOK_MILLIS, TimeUnit.MILLISECONDS);
                return;
            } catch (TimeoutException e) {
                long now = System.nanoTime();
                if (abandoned) {
                    throw notAnswering();
                }
                if (stop.getAsBoolean()) {
                    stoppedAt = stoppedAt == 0 ? now : stoppedAt;
                    if (now - stoppedAt >= grace) {
                        abandoned = true;
                        tellNobodyWaits();
                        throw notAnswering();
                    }
                }
            } catch (ExecutionException e) {
                throw Waiting.failure(e);
            } catch (InterruptedException e) {
                abandoned = true;
                Thread.currentThread().interrupt();
                throw new InterruptedIOException("interrupted while waiting for " + name());
            }
        }
    }

    /** Nobody wants the answer any more. On a thread of its own: a channel that is interrupted waits for what it is at. */
    private void tellNobodyWaits() {
        Thread teller = new Thread(transfers::shutdownNow, "tells-nobody-waits");
        teller.setDaemon(true);
        teller.start();
    }

    private CancellationException notAnswering() {
        return new CancellationException(name() + " did not answer and is not waited for any more");
    }

    /** Whether it was left while it did not answer. */
    public boolean isAbandoned() {
        return abandoned;
    }

    @Override
    public void close() throws IOException {
        if (!abandoned) {
            transfers.shutdown();
            super.close();
            return;
        }
        Thread later = new Thread(this::closeOnceAnswered, "closes-later");
        later.setDaemon(true);
        later.start();
    }

    private void closeOnceAnswered() {
        // Waits as well, for whoever tells the drive that nobody waits.
        Waiting.forEnd(transfers);
        try {
            super.close();
        } catch (IOException e) {
            // Nobody is left to be told; what became of the deed was said when it was left.
            assert abandoned;
        }
    }
}
