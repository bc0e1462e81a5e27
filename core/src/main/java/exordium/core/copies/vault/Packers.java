// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.Waiting;
import exordium.core.image.ChunkPacks;
import java.io.Closeable;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/** As many threads that make chunks as there are processors. */
final class Packers implements Closeable {
    private final ExecutorService workers;
    private final Queue<ChunkPacking> idle = new ConcurrentLinkedQueue<>();

    /** Where known: what the vault has. */
    Packers(ChunkPacks known) {
        int threads = Math.max(1, Runtime.getRuntime().availableProcessors());
        this.workers = Executors.newFixedThreadPool(threads);
        for (int i = 0; i < threads; i++) {
            idle.add(new ChunkPacking(known));
        }
    }

    /** The chunks of a batch, once it is read. */
    Future<List<ChunkPacking.Piece>> pieces(BatchReader reader, CompletableFuture<BatchReader.Batch> read) {
        return read.thenApplyAsync(
                batch -> {
                    // There is one for every thread, and each thread has one at a time.
                    ChunkPacking packing = idle.remove();
                    try {
                        return packing.pieces(reader, batch);
                    } finally {
                        idle.add(packing);
                    }
                },
                workers);
    }

    /** What is under way is waited for. */
    @Override
    public void close() {
        Waiting.forEnd(workers);
        idle.forEach(ChunkPacking::close);
    }
}
