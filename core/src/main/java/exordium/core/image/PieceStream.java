// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.Closing;
import exordium.core.block.Waiting;
import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;

/**
 * A container whose pieces unpack on their own, such as the blocks of an .xz: unpacked side by side, handed out in order.
 * Memory: at most {@link #BUDGET} of unpacked pieces, whatever the container holds.
 */
final class PieceStream extends BulkStream {
    /** What all pieces in hand may take together. */
    static final long BUDGET = 96L << 20;

    private static final long CLOSING_SECONDS = 10;

    /** Unpacks single pieces; one for each thread, since it keeps the file's position. */
    interface Unpacker extends Closeable {
        /** Puts a piece into a buffer that has room for the largest. */
        void piece(int index, ByteBuffer into) throws IOException;
    }

    /** Opens an unpacker of the container. */
    interface Opener {
        Unpacker open() throws IOException;
    }

    private final Opener opener;
    private final int pieces;
    private final int ahead;
    private final ExecutorService workers;
    private final ConcurrentLinkedQueue<Unpacker> idle = new ConcurrentLinkedQueue<>();
    private final ConcurrentLinkedQueue<Unpacker> all = new ConcurrentLinkedQueue<>();
    private final ConcurrentLinkedQueue<ByteBuffer> empty = new ConcurrentLinkedQueue<>();
    private final Deque<Future<ByteBuffer>> inHand = new ArrayDeque<>();
    private final int largest;
    private int asked;
    private final boolean outsideHeap;
    private ByteBuffer current = ByteBuffer.allocate(0);

    /** How many pieces of this size there may be at once: one handed out, one waiting, one for each core. */
    static int atOnce(long largestPiece, int cores) {
        return (int) Math.min(cores + 2L, BUDGET / Math.max(1, largestPiece));
    }

    /** Under three at once there is nothing to gain. */
    static boolean worthwhile(long pieces, long largestPiece) {
        return pieces > 1 && atOnce(largestPiece, 1) >= 3;
    }

    /** Where outsideHeap: what kind of buffer the unpackers are given. */
    PieceStream(Opener opener, int pieces, long largestPiece, boolean outsideHeap) {
        int atOnce = atOnce(largestPiece, Runtime.getRuntime().availableProcessors());
        this.opener = opener;
        this.pieces = pieces;
        this.outsideHeap = outsideHeap;
        this.largest = Math.toIntExact(largestPiece);
        this.ahead = atOnce - 1;
        this.workers = Executors.newFixedThreadPool(Math.max(1, atOnce - 2), work -> {
            Thread thread = new Thread(work, "image-unpacker");
            thread.setDaemon(true);
            return thread;
        });
    }

    @Override
    int unpack(ByteBuffer target) throws IOException {
        while (!current.hasRemaining()) {
            if (!next()) {
                return -1;
            }
        }
        int got = Math.min(target.remaining(), current.remaining());
        target.put(current.slice(current.position(), got));
        current.position(current.position() + got);
        return got;
    }

    private boolean next() throws IOException {
        if (current.capacity() == largest) {
            empty.add(current);
        }
        current = ByteBuffer.allocate(0);
        while (asked < pieces && inHand.size() < ahead) {
            int index = asked++;
            inHand.addLast(workers.submit(() -> unpack(index)));
        }
        if (inHand.isEmpty()) {
            return false;
        }
        current = Waiting.on(inHand.removeFirst());
        return true;
    }

    private ByteBuffer unpack(int index) throws IOException {
        Unpacker unpacker = idle.poll();
        if (unpacker == null) {
            unpacker = opener.open();
            all.add(unpacker);
        }
        ByteBuffer buffer = empty.poll();
        if (buffer == null) {
            buffer = outsideHeap ? ByteBuffer.allocateDirect(largest) : ByteBuffer.allocate(largest);
        }
        unpacker.piece(index, buffer.clear());
        idle.add(unpacker);
        return buffer.flip();
    }

    @Override
    public void close() throws IOException {
        workers.shutdownNow();
        try {
            if (!workers.awaitTermination(CLOSING_SECONDS, TimeUnit.SECONDS)) {
                throw new UncheckedIOException(new IOException("an unpacker does not end"));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        Closing.all(all);
    }
}
