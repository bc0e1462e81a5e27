// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
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
        return of(image, target, position -> true, watch);
    }

    /** Compares the chunks whose position is wanted. */
    static Verification of(ImageFile image, BlockDevice target, LongPredicate wanted, TransferWatch watch)
            throws IOException {
        List<Difference> differences = new ArrayList<>();
        ByteBuffer back = AlignedBuffers.allocate(ChunkSource.CHUNK);
        long total = image.uncompressedSize().map(ByteSize::bytes).orElse(-1L);
        long checked = 0;
        try (ChunkSource source = new ChunkSource(image.stream(), false)) {
            for (ChunkSource.Chunk chunk = source.next(); chunk != null; chunk = source.next()) {
                if (watch.cancelled()) {
                    throw new CancellationException("stopped while comparing");
                }
                if (wanted.test(chunk.position())) {
                    if (chunk.position() + chunk.length() > target.size().bytes()) {
                        throw new UnreadableInput(target.name() + " is smaller than the image: it ends at byte "
                                + target.size().bytes() + ".");
                    }
                    long begin = System.nanoTime();
                    back.clear().limit(chunk.length());
                    target.readBack(chunk.position(), back);
                    collect(chunk.position(), chunk.buffer(), back.flip(), differences);
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
