// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.BlockDevice;
import exordium.core.block.Waiting;
import java.io.IOException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/** Has a medium take in what was written while more is on its way, so that nothing is left to wait for at the end. */
final class Flusher {
    private static final long EVERY = 64L << 20;

    private final BlockDevice target;
    private final ExecutorService worker = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "target-flusher");
        thread.setDaemon(true);
        return thread;
    });
    private Future<Void> running;
    private long waiting;

    Flusher(BlockDevice target) {
        this.target = target;
    }

    /** So much was written; starts a flush beside it where it is time and none is under way. */
    void wrote(long bytes) throws IOException {
        waiting += bytes;
        if (waiting >= EVERY && (running == null || running.isDone())) {
            await();
            waiting = 0;
            running = worker.submit(() -> {
                target.flush();
                return null;
            });
        }
    }

    /** Returns when everything is on the medium. */
    void finish() throws IOException {
        await();
        target.flush();
    }

    private void await() throws IOException {
        if (running == null) {
            return;
        }
        try {
            Waiting.on(running);
        } finally {
            running = null;
        }
    }

    void close() {
        worker.shutdown();
    }
}
