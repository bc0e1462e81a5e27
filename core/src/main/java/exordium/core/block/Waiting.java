// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;

/** Waits for work on another thread as if it had been done on this one. */
public final class Waiting {
    private Waiting() {}

    /**
     * What the work came to.
     *
     * @throws IOException what the work threw, or that this thread was interrupted
     */
    public static <T> T on(Future<T> work) throws IOException {
        try {
            return work.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new InterruptedIOException("interrupted");
        } catch (ExecutionException e) {
            throw failure(e);
        }
    }

    /** What the work threw: an IOException is given back to be thrown, anything unchecked is thrown here. */
    public static IOException failure(ExecutionException e) {
        if (e.getCause() instanceof IOException failure) {
            return failure;
        }
        if (e.getCause() instanceof RuntimeException failure) {
            throw failure;
        }
        if (e.getCause() instanceof Error failure) {
            throw failure;
        }
        return new IOException(e.getCause());
    }

    /** Lets work under way come to its end; nothing new is taken on. */
    public static void forEnd(ExecutorService workers) {
        workers.shutdown();
        try {
            // A medium that hangs is waited for: closing it under a transfer would do worse.
            boolean ended = false;
            while (!ended) {
                ended = workers.awaitTermination(1, TimeUnit.MINUTES);
            }
        } catch (InterruptedException e) {
            workers.shutdownNow();
            Thread.currentThread().interrupt();
        }
    }
}
