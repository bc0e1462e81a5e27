// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;

/**
 * One target of a write, from its first chunk to its report. Several lanes may be fed from one reading of the image.
 *
 * <p>The first chunk, with the partition table, is blanked at the beginning and written last. A write that was killed
 * half-way therefore leaves a drive without a table, which nothing starts from and nobody takes for good.
 *
 * <p>Where chunks are compared instead of written (mode changed), a mark is put at the end of the image before the first byte
 * is changed: a drive that wraps round shows it at another place while the rest is compared, and is left before more of it is
 * lost. What was found right is read once more all the same as soon as anything was written: a drive may put a write down
 * at a second place as well, and only reading that place afterwards tells.
 */
final class TargetLane implements Closeable {
    private static final int FIRST_BLOCK = AlignedBuffers.ALIGNMENT;

    private final WritePlan plan;
    private final BlockDevice target;
    private final TransferWatch watch;
    private final WriteJournal journal;
    private final WriteGranularity grain;
    private final ReadBack back;
    private final ReadAhead ahead;
    private final Flusher flusher;
    private final long begin = System.nanoTime();

    private long written;
    private long skipped;
    private int changedSince;
    private long writeNanos;
    private long readNanos;
    private boolean tableBlanked;
    /** From the first write on, whether it came through or not. */
    private boolean attempted;

    private Optional<WrapMark> mark = Optional.empty();
    private Optional<Verification> verification = Optional.empty();
    private Verdict verdict = Verdict.WRITTEN;
    private String sentence = "";
    private boolean ended;

    TargetLane(WritePlan plan, BlockDevice target, TransferWatch watch, WriteJournal journal, WriteGranularity grain) {
        this.grain = grain;
        this.plan = plan;
        this.target = target;
        this.watch = watch;
        this.journal = journal;
        this.flusher = new Flusher(target, journal, grain.flushEvery());
        this.ahead = new ReadAhead(target, grain.chunk());
        this.back = new ReadBack(ahead);
    }

    WritePlan plan() {
        return plan;
    }

    boolean ended() {
        return ended;
    }

    /** Whether anything of the chunk at this position is to come on to the target. */
    boolean wants(long position) {
        return plan.used().map(used -> used.holds(position, grain.chunk())).orElse(true);
    }

    interface Step {
        void run() throws IOException;
    }

    /** Does something unless this lane has ended; what goes wrong ends it, and it alone. */
    void attempt(Step step) {
        if (ended) {
            return;
        }
        try {
            step.run();
        } catch (CancellationException e) {
            end(Verdict.CANCELLED, LaneWords.stopped(e) + incomplete());
        } catch (IOException e) {
            end(Verdict.FAILED, LaneWords.withStop(e.getMessage()) + " " + incomplete());
        }
    }

    /** The image is not any more what was read; whatever the target holds, nobody can say that it is this image. */
    void imageChanged() {
        if (!ended || verdict.good()) {
            end(
                    Verdict.FAILED,
                    plan.image().name() + " was changed while it was being written. "
                            + (attempted
                                    ? target.name() + " holds neither the one nor the other; write it again."
                                    : incomplete()));
        }
    }

    private void end(Verdict how, String words) {
        verdict = how;
        sentence = words;
        ended = true;
    }

    void begin(ChunkSource.Chunk first) throws IOException {
        if (plan.mode() != WriteMode.CHANGED) {
            blankTable(first.length());
        }
    }

    /** Any chunk but the first. */
    void take(ChunkSource.Chunk chunk) throws IOException {
        watch.goOnOrStop();
        requireRoom(chunk);
        Pieces wanted = wanted(chunk);
        int index = (int) (chunk.position() / grain.chunk());
        Integer before = journal.before().get(index);
        int crc = ReadBack.crc(chunk, wanted);
        if (before != null && before != crc) {
            throw new IOException("The image is not the one this write was begun with");
        }
        Pieces toWrite = compares(index) && wanted.bytes() > 0 ? differing(chunk, wanted) : wanted;
        if (before != null && toWrite.bytes() > 0) {
            changedSince++;
        }
        if (toWrite.bytes() > 0 && plan.mode() == WriteMode.CHANGED && !tableBlanked) {
            putMark();
        }
        put(chunk, toWrite);
        expect(chunk, wanted);
        journal.wrote(index, crc);
    }

    /** The first chunk, with the table, once everything else is on the medium. */
    void finish(ChunkSource.Chunk first) throws IOException {
        flush();
        watch.goOnOrStop();
        Pieces all = Pieces.all(first.length());
        boolean compares = plan.mode() == WriteMode.CHANGED && !tableBlanked;
        Pieces toWrite = compares ? differing(first, all) : all;
        if (toWrite.bytes() == 0 && written == 0) {
            // Everything was compared and nothing was touched since: there is nothing to read a second time.
            back.nothing();
        } else {
            expect(first, all);
        }
        putFirst(first, toWrite);
        flush();
        if (written + skipped != plan.imageSize().bytes()) {
            throw new IOException(plan.image().name() + " unpacked to " + (written + skipped) + " bytes where "
                    + plan.imageSize().bytes() + " were planned");
        }
    }

    private void flush() throws IOException {
        long started = System.nanoTime();
        flusher.finish();
        writeNanos += System.nanoTime() - started;
    }

    /** Whether the target is read before this chunk is written. */
    private void expect(ChunkSource.Chunk chunk, Pieces pieces) {
        if (plan.verify()) {
            back.expect(chunk, pieces);
        }
    }

    private boolean compares(int index) {
        return plan.mode() == WriteMode.CHANGED || journal.before().containsKey(index);
    }

    private Pieces wanted(ChunkSource.Chunk chunk) {
        if (chunk.held().isEmpty()) {
            return Pieces.NONE;
        }
        return plan.used().isEmpty()
                ? Pieces.all(chunk.length())
                : Pieces.of(chunk.length(), (from, length) -> plan.used().get().holds(chunk.position() + from, length));
    }

    private void requireRoom(ChunkSource.Chunk chunk) throws IOException {
        if (chunk.position() + chunk.length() > plan.imageSize().bytes()) {
            throw new IOException(plan.image().name() + " unpacks to more than the "
                    + plan.imageSize().exact() + " it announces");
        }
    }

    private void blankTable(int length) throws IOException {
        if (!tableBlanked) {
            ByteBuffer zeros = ahead.spare();
            while (zeros.hasRemaining()) {
                zeros.putLong(0);
            }
            zeros.flip().limit(length);
            attempted = true;
            target.write(0, zeros);
            target.flush();
            tableBlanked = true;
        }
    }

    /** Before the first byte is changed: the table goes, and the mark is put where a block behind the first chunk has room. */
    private void putMark() throws IOException {
        // What was read ahead was read without the mark in place.
        ahead.forget();
        blankTable((int) Math.min(grain.chunk(), plan.imageSize().bytes()));
        WrapMark wanted = WrapMark.atTheEndOf(plan.imageSize(), target.name());
        if (wanted.place() >= grain.chunk() && journal.before().isEmpty()) {
            wanted.put(target, ahead.spare());
            mark = Optional.of(wanted);
        }
    }

    /** Compares with the target while its next chunk is being read. */
    private Pieces differing(ChunkSource.Chunk chunk, Pieces wanted) throws IOException {
        if (!ahead.asked(chunk.position())) {
            ahead.forget();
            ahead.ask(chunk.position(), Pieces.all(chunk.length()));
        }
        ByteBuffer there = ahead.take().limit(chunk.length());
        readNanos += ahead.nanos();
        askForNext(chunk);
        Pieces found = wanted.bytes() == chunk.length() && there.mismatch(chunk.buffer()) < 0
                ? Pieces.NONE
                : Pieces.of(
                        chunk.length(),
                        (from, length) -> wanted.holds(from) && !same(there, chunk.buffer(), from, length));
        if (mark.isPresent()) {
            mark.get().refuseElsewhere(target, chunk.position(), there, found);
        }
        return found;
    }

    private static boolean same(ByteBuffer one, ByteBuffer other, int from, int length) {
        return one.slice(from, length).mismatch(other.slice(from, length)) < 0;
    }

    private void askForNext(ChunkSource.Chunk chunk) {
        long next = chunk.position() + grain.chunk();
        long left = plan.imageSize().bytes() - next;
        if (chunk.position() > 0 && left > 0 && compares((int) (next / grain.chunk()))) {
            ahead.ask(next, Pieces.all((int) Math.min(grain.chunk(), left)));
        }
    }

    /** A small image is all in its first chunk; its table stands in the very first block, which goes last of all. */
    private void putFirst(ChunkSource.Chunk chunk, Pieces pieces) throws IOException {
        long started = System.nanoTime();
        for (Pieces.Extent each : pieces.extents()) {
            int from = each.from() == 0 ? Math.min(FIRST_BLOCK, each.to()) : each.from();
            if (from < each.to()) {
                write(from, chunk.buffer().slice(from, each.to() - from));
            }
        }
        if (pieces.holds(0)) {
            flush();
            write(0, chunk.buffer().slice(0, Math.min(FIRST_BLOCK, chunk.length())));
        }
        count(chunk, pieces, System.nanoTime() - started);
    }

    private void put(ChunkSource.Chunk chunk, Pieces pieces) throws IOException {
        long started = System.nanoTime();
        for (Pieces.Extent each : pieces.extents()) {
            write(chunk.position() + each.from(), chunk.buffer().slice(each.from(), each.length()));
        }
        count(chunk, pieces, System.nanoTime() - started);
    }

    private void count(ChunkSource.Chunk chunk, Pieces pieces, long took) throws IOException {
        writeNanos += pieces.bytes() > 0 ? took : 0;
        written += pieces.bytes();
        skipped += chunk.length() - pieces.bytes();
        flusher.wrote(pieces.bytes());
        watch.moved(
                Phase.WRITING,
                chunk.position(),
                chunk.length(),
                took,
                plan.imageSize().bytes());
    }

    /** A place that refuses once may take it the second time; a drive that refuses twice is done with. */
    private void write(long position, ByteBuffer bytes) throws IOException {
        attempted = true;
        try {
            target.write(position, bytes.duplicate());
        } catch (MediumException e) {
            target.write(position, bytes);
        }
    }

    /** Reads back what was written, lists what differs or cannot be read, and looks at that once more. */
    void verify() throws IOException {
        if (!plan.verify()) {
            end(Verdict.WRITTEN, "Written to " + target.name() + " and flushed; not read back." + told());
            return;
        }
        List<Difference> differences;
        try {
            differences = back.differences(plan, target, grain.chunk(), watch);
        } finally {
            readNanos += back.nanos();
        }
        long checked = plan.mode() == WriteMode.CHANGED ? plan.imageSize().bytes() : back.bytes();
        verification = Optional.of(new Verification(checked, target.readsPastCache(), differences));
        if (differences.isEmpty()) {
            end(Verdict.VERIFIED, LaneWords.proven(plan, target.name(), verification.get()) + told());
        } else {
            end(Verdict.DIFFERENT, LaneWords.differs(target.name(), differences));
        }
    }

    private String incomplete() {
        return LaneWords.incomplete(target.name(), attempted);
    }

    /** What mode and journal saved or found. */
    private String told() {
        double nanosAByte = written > 0 && writeNanos > 0 ? (double) writeNanos / written : 0;
        return LaneWords.saved(plan, changedSince, skipped, nanosAByte);
    }

    @Override
    public void close() {
        flusher.close();
        ahead.close();
    }

    WriteReport report(Optional<String> sha256) {
        return new WriteReport(
                plan.image().name(),
                target.name(),
                plan.mode(),
                plan.imageSize().bytes(),
                written,
                skipped,
                (System.nanoTime() - begin) / 1e9,
                writeNanos / 1e9,
                readNanos / 1e9,
                sha256,
                verification,
                verdict,
                sentence);
    }
}
