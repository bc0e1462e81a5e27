// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.PageJournal;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * Proves that a drive holds as much as it says: a pattern that knows its own place is written and read back. A counterfeit
 * that wraps round gives back the pattern of another place, which tells its true size.
 */
public final class CapacityProof {
    private static final int BLOCK = AlignedBuffers.ALIGNMENT;
    private static final int CHUNK = WriteGranularity.USUAL.chunk();
    private static final int SPOTS = 512;
    private static final long LEAST_WINDOW = 4L << 20;
    private static final long MOST_WINDOW = 256L << 20;
    private static final int GONE = 4;

    private final BlockDevice device;
    private final long seed;
    private final TransferWatch watch;
    private final ByteBuffer buffer = AlignedBuffers.allocate(CHUNK).order(ByteOrder.LITTLE_ENDIAN);
    private final List<Difference> bad = new ArrayList<>();
    private long real = Long.MAX_VALUE;
    private long writeNanos;
    private long readNanos;
    private long proven;

    private CapacityProof(BlockDevice device, long seed, TransferWatch watch) {
        this.device = device;
        this.seed = seed;
        this.watch = watch;
    }

    /**
     * What came of it.
     *
     * @param real what it truly holds, where it wraps round
     * @param proven bytes that were written and came back
     * @param bad extents that did not come back or could not be read
     */
    public record Report(
            ByteSize announced,
            Optional<ByteSize> real,
            ByteSize proven,
            List<Difference> bad,
            Optional<ByteRate> writeRate,
            Optional<ByteRate> readRate,
            boolean quick,
            boolean pastCache) {

        public boolean sound() {
            return real.isEmpty() && bad.isEmpty();
        }

        public String sentence(String drive) {
            if (real.isPresent()) {
                return drive + " says that it holds " + announced.exact() + "; it holds "
                        + real.get().exact()
                        + " and wraps round. It is a counterfeit: use it for nothing that matters.";
            }
            if (!bad.isEmpty()) {
                long bytes = bad.stream().mapToLong(Difference::bytes).sum();
                return drive + " does not give back what was written in " + bad.size()
                        + (bad.size() == 1 ? " place, " : " places, ")
                        + ByteSize.of(bytes).said() + ", first at byte "
                        + bad.get(0).offset() + ". Replace it.";
            }
            return quick
                    ? drive + " does not wrap round anywhere in its " + announced.said()
                            + ". Whether every byte of it is good, only the whole proof tells."
                    : "Every byte of " + proven.exact() + " that was written to " + drive + " came back.";
        }
    }

    /** Keeps blocks as they are somewhere safe, before the first of them is touched; puts them back from there. */
    public interface Keeper {
        PageJournal keep(List<StagedDevice.Page> pages) throws IOException;

        /** Everything was put back and read back; what was kept is not needed any more. */
        void restored() throws IOException;
    }

    /**
     * Finds a wrap in seconds, and leaves everything on the drive as it was: marks are put in a row of places over the whole
     * length, and one of them must show in a window at the start if the drive wraps round anywhere behind that window. What
     * stood there is kept first, and put back and read back at the end; where one place refuses, the others still are.
     *
     * @throws MediumException when something could not be put back; it is kept then
     */
    public static Report quick(BlockDevice device, long seed, Keeper keeper, TransferWatch watch) throws IOException {
        return new CapacityProof(device, seed, watch).findWrap(keeper);
    }

    /** Writes all of it, or all but what the map holds, and reads it back. What was there is lost. */
    public static Report whole(BlockDevice device, Optional<UsedMap> keep, long seed, TransferWatch watch)
            throws IOException {
        return new CapacityProof(device, seed, watch).proveAll(keep);
    }

    private Report findWrap(Keeper keeper) throws IOException {
        long size = device.size().bytes() / BLOCK * BLOCK;
        long window = Math.max(LEAST_WINDOW, Math.min(MOST_WINDOW, size / SPOTS)) / BLOCK * BLOCK;
        TreeSet<Long> spots = new TreeSet<>();
        for (long spot = window; spot < size; spot += window) {
            spots.add(spot);
        }
        spots.add(size - BLOCK);
        List<StagedDevice.Page> pages = new ArrayList<>();
        for (long spot : spots) {
            watch.goOnOrStop();
            byte[] before = device.bytes(spot, BLOCK);
            byte[] after = new byte[BLOCK];
            pattern(spot, BLOCK);
            buffer.get(0, after);
            pages.add(new StagedDevice.Page(spot, before, after));
        }
        PageJournal kept = keeper.keep(pages);
        Exception failure = null;
        try {
            for (StagedDevice.Page page : pages) {
                watch.goOnOrStop();
                long begin = System.nanoTime();
                buffer.clear().limit(BLOCK);
                device.write(page.position(), buffer.put(page.after()).flip());
                long took = System.nanoTime() - begin;
                watch.moved(Phase.WRITING, page.position(), BLOCK, took, (long) pages.size() * BLOCK);
            }
            device.flush();
            scan(Math.min(window, size), spots);
            proven = (long) pages.size() * BLOCK;
        } catch (IOException | RuntimeException e) {
            failure = e;
            throw e;
        } finally {
            putBack(kept, keeper, failure);
        }
        return report(true);
    }

    /** What went wrong before is told before that something could not be put back. */
    private void putBack(PageJournal kept, Keeper keeper, Exception failure) throws IOException {
        try {
            kept.takeBack(device);
            keeper.restored();
        } catch (IOException | RuntimeException e) {
            boolean counterfeit = real != Long.MAX_VALUE;
            if (failure != null) {
                failure.addSuppressed(e);
            } else if (!counterfeit) {
                throw e;
            }
        }
    }

    private void scan(long window, Set<Long> spots) throws IOException {
        for (long at = 0; at < window; at += CHUNK) {
            watch.goOnOrStop();
            int length = (int) Math.min(CHUNK, window - at);
            long begin = System.nanoTime();
            buffer.clear().limit(length);
            device.readBack(at, buffer);
            for (int block = 0; block + BLOCK <= length; block += BLOCK) {
                long named = placeNamed(block);
                if (named != at + block && spots.contains(named) && isPattern(block, named)) {
                    real = Math.min(real, Math.abs(named - (at + block)));
                }
            }
            watch.moved(Phase.READING_BACK, at, length, System.nanoTime() - begin, window);
        }
        for (long spot : spots) {
            buffer.clear().limit(BLOCK);
            device.readBack(spot, buffer);
            if (!isPattern(0, spot)) {
                long named = placeNamed(0);
                if (spots.contains(named) && isPattern(0, named)) {
                    real = Math.min(real, Math.abs(named - spot));
                } else {
                    bad.add(new Difference(spot, BLOCK));
                }
            }
        }
    }

    private Report proveAll(Optional<UsedMap> keep) throws IOException {
        long size = device.size().bytes() / BLOCK * BLOCK;
        long total = keep.map(map -> size - Math.min(size, map.bytes().bytes())).orElse(size);
        writeNanos = along(keep, size, total, Phase.WRITING, (place, length) -> {
            pattern(place, length);
            device.write(place, buffer);
        });
        device.flush();
        readNanos = along(keep, size, total, Phase.READING_BACK, this::check);
        return report(false);
    }

    private interface Step {
        void at(long place, int length) throws IOException;
    }

    /** Everything free in its order; single bad places are passed over, a drive that is gone is not waited for. */
    private long along(Optional<UsedMap> keep, long size, long total, Phase phase, Step step) throws IOException {
        int failed = 0;
        long nanos = 0;
        for (long at = 0; at < size; at += CHUNK) {
            for (Pieces.Extent each : free(keep, at, size).extents()) {
                watch.goOnOrStop();
                long place = at + each.from();
                long begin = System.nanoTime();
                try {
                    step.at(place, each.length());
                    failed = 0;
                } catch (MediumException e) {
                    failed++;
                    if (failed >= GONE) {
                        throw e;
                    }
                    if (phase == Phase.READING_BACK) {
                        inPieces(place, each.length());
                    }
                }
                long took = System.nanoTime() - begin;
                nanos += took;
                watch.moved(phase, place, each.length(), took, total);
            }
        }
        return nanos;
    }

    private Pieces free(Optional<UsedMap> keep, long at, long size) {
        int length = (int) Math.min(CHUNK, size - at);
        return keep.isEmpty()
                ? Pieces.all(length)
                : Pieces.of(length, (from, piece) -> !keep.get().holds(at + from, piece));
    }

    private void check(long place, int length) throws IOException {
        buffer.clear().limit(length);
        device.readBack(place, buffer);
        for (int block = 0; block < length; block += BLOCK) {
            if (isPattern(block, place + block)) {
                proven += BLOCK;
                continue;
            }
            long named = placeNamed(block);
            boolean elsewhere = named >= 0
                    && named < device.size().bytes()
                    && named % BLOCK == 0
                    && named != place + block
                    && isPattern(block, named);
            if (elsewhere) {
                real = Math.min(real, Math.abs(named - (place + block)));
            } else {
                addBad(place + block, BLOCK);
            }
        }
    }

    /** Around a place that cannot be read the rest still counts. */
    private void inPieces(long place, int length) throws IOException {
        for (int at = 0; at < length; at += Pieces.PIECE) {
            int piece = Math.min(Pieces.PIECE, length - at);
            try {
                check(place + at, piece);
            } catch (MediumException e) {
                addBad(place + at, piece);
            }
        }
    }

    private void addBad(long offset, long bytes) {
        if (!bad.isEmpty()) {
            Difference last = bad.get(bad.size() - 1);
            if (last.offset() + last.bytes() == offset) {
                bad.set(bad.size() - 1, new Difference(last.offset(), last.bytes() + bytes));
                return;
            }
        }
        bad.add(new Difference(offset, bytes));
    }

    /** Every block begins with its own place; the rest follows from that and the seed. */
    private void pattern(long place, int length) {
        buffer.clear();
        for (int block = 0; block < length; block += BLOCK) {
            long state = state(place + block);
            buffer.putLong(block, place + block);
            for (int at = 8; at < BLOCK; at += 8) {
                state = next(state);
                buffer.putLong(block + at, state);
            }
        }
        buffer.limit(length);
    }

    private long placeNamed(int block) {
        return buffer.getLong(block);
    }

    private boolean isPattern(int block, long place) {
        long state = state(place);
        if (buffer.getLong(block) != place) {
            return false;
        }
        for (int at = 8; at < BLOCK; at += 8) {
            state = next(state);
            if (buffer.getLong(block + at) != state) {
                return false;
            }
        }
        return true;
    }

    private long state(long place) {
        return (seed ^ (place * 0x9E3779B97F4A7C15L)) | 1;
    }

    /** Marsaglia's xorshift, "Xorshift RNGs", 2003. */
    private static long next(long state) {
        long x = state;
        x ^= x << 13;
        x ^= x >>> 7;
        x ^= x << 17;
        return x;
    }

    private Report report(boolean quick) {
        boolean wraps = real != Long.MAX_VALUE;
        return new Report(
                device.size(),
                wraps ? Optional.of(ByteSize.of(real)) : Optional.empty(),
                ByteSize.of(proven),
                wraps ? List.of() : List.copyOf(bad),
                rate(writeNanos),
                rate(readNanos),
                quick,
                device.readsPastCache());
    }

    private Optional<ByteRate> rate(long nanos) {
        return nanos == 0 || proven == 0
                ? Optional.empty()
                : Optional.of(ByteRate.over(ByteSize.of(proven), Duration.ofNanos(nanos)));
    }
}
