// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.BlockDevice;
import exordium.core.block.Waiting;
import java.io.Closeable;
import java.io.IOException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Has a medium take in what was written while more is on its way, so that nothing is left to wait for at the end; what is in is
 * put down in the journal.
 */
final class Flusher implements Closeable {
    private final BlockDevice target;
    private final WriteJournal journal;
    private final long every;
    private final ExecutorService worker = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "target-flusher");
        thread.setDaemon(true);
        return thread;
    });
    private Future<Void> running;
    private long waiting;

    Flusher(BlockDevice target, WriteJournal journal, long every) {
        this.target = target;
        this.journal = journal;
        this.every = every;
    }

    /** So much was written; starts a flush beside it where it is time and none is under way. */
    void wrote(long bytes) throws IOException {
        waiting += bytes;
        boolean due = journal.due();
        if ((due || waiting >= every) && (running == null || running.isDone())) {
            await();
            waiting = 0;
            int told = journal.told();
            running = worker.submit(() -> {
                target.flush();
                if (due) {
                    journal.settle(told);
                }
                return null;
            });
        }
    }

    /** Returns when everything is on the medium. */
    void finish() throws IOException {
        await();
        target.flush();
        journal.settle(journal.told());
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

    @Override
    public void close() {
        Waiting.forEnd(worker);
    }
}
