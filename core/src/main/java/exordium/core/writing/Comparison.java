// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.function.LongPredicate;

/** Compares an image with a device byte by byte, reading the device past the page cache. */
public final class Comparison {
    /** More runs than this tell nothing new; the last one is stretched over what is left. */
    private static final int MOST_RUNS = 1000;

    private Comparison() {}

    /**
     * Compares all of it.
     *
     * @throws CancellationException when the watch says stop
     */
    public static Verification whole(ImageFile image, BlockDevice target, TransferWatch watch) throws IOException {
        return of(image, target, WriteGranularity.USUAL.chunk(), position -> true, (position, from) -> true, watch);
    }

    /** Asked of a piece of 64 KiB by its chunk and its place in it. */
    interface Counts {
        boolean at(long position, int from);
    }

    /** Compares what is in doubt once more; what cannot be read differs. */
    static List<Difference> ofDoubtful(
            ImageFile image,
            BlockDevice target,
            int chunkBytes,
            LongPredicate chunks,
            Counts counts,
            TransferWatch watch)
            throws IOException {
        return of(image, target, chunkBytes, chunks, counts, watch).differences();
    }

    private static Verification of(
            ImageFile image,
            BlockDevice target,
            int chunkBytes,
            LongPredicate wanted,
            Counts counts,
            TransferWatch watch)
            throws IOException {
        List<Difference> differences = new ArrayList<>();
        ByteBuffer back = AlignedBuffers.allocate(chunkBytes);
        long total = image.uncompressedSize().map(ByteSize::bytes).orElse(-1L);
        long checked = 0;
        try (ChunkSource source = new ChunkSource(image, chunkBytes)) {
            for (ChunkSource.Chunk chunk = source.next(); chunk != null; chunk = source.next()) {
                watch.goOnOrStop();
                if (wanted.test(chunk.position())) {
                    if (chunk.position() + chunk.length() > target.size().bytes()) {
                        throw new UnreadableInput(target.name() + " is smaller than the image: it ends at byte "
                                + target.size().bytes() + ".");
                    }
                    long begin = System.nanoTime();
                    compare(chunk, target, back, counts, differences);
                    checked += chunk.length();
                    watch.moved(
                            TransferWatch.Phase.COMPARING,
                            chunk.position(),
                            chunk.length(),
                            System.nanoTime() - begin,
                            total);
                }
                source.release(chunk);
            }
        }
        return new Verification(checked, target.readsPastCache(), List.copyOf(differences));
    }

    private static void compare(
            ChunkSource.Chunk chunk, BlockDevice target, ByteBuffer back, Counts counts, List<Difference> differences)
            throws IOException {
        Pieces pieces = Pieces.of(chunk.length(), (from, length) -> counts.at(chunk.position(), from));
        for (Pieces.Extent each : pieces.extents()) {
            ByteBuffer expected = chunk.buffer().slice(each.from(), each.length());
            long position = chunk.position() + each.from();
            try {
                back.clear().limit(each.length());
                target.readBack(position, back);
                collect(position, expected, back.flip(), differences);
            } catch (MediumException e) {
                pieceByPiece(position, expected, target, back, differences);
            }
        }
    }

    /** Around a place that cannot be read, the rest is still compared. */
    private static void pieceByPiece(
            long position, ByteBuffer expected, BlockDevice target, ByteBuffer back, List<Difference> differences)
            throws IOException {
        for (int at = 0; at < expected.limit(); at += Pieces.PIECE) {
            int length = Math.min(Pieces.PIECE, expected.limit() - at);
            try {
                back.clear().limit(length);
                target.readBack(position + at, back);
                collect(position + at, expected.slice(at, length), back.flip(), differences);
            } catch (MediumException e) {
                add(differences, position + at, length);
            }
        }
    }

    private static void collect(long position, ByteBuffer expected, ByteBuffer found, List<Difference> differences) {
        int length = expected.limit();
        int at = 0;
        while (at < length) {
            int step = expected.slice(at, length - at).mismatch(found.slice(at, length - at));
            if (step < 0) {
                return;
            }
            int start = at + step;
            int end = start + 1;
            while (end < length && expected.get(end) != found.get(end)) {
                end++;
            }
            add(differences, position + start, end - start);
            at = end;
        }
    }

    private static void add(List<Difference> differences, long offset, long bytes) {
        if (!differences.isEmpty()) {
            Difference last = differences.get(differences.size() - 1);
            boolean touches = last.offset() + last.bytes() == offset;
            if (touches || differences.size() >= MOST_RUNS) {
                differences.set(differences.size() - 1, new Difference(last.offset(), offset + bytes - last.offset()));
                return;
            }
        }
        differences.add(new Difference(offset, bytes));
    }
}
