// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.TransferWatch;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.LongSupplier;

/**
 * Turns chunks as they move into what a person wants to see: how far, how fast, how long still, and how deep each place
 * of the medium sounds. Safe to feed from one thread and read from another.
 */
public final class TransferMeter implements TransferWatch {
    /** The rate shown is the mean of this long a window. */
    private static final long WINDOW_NANOS = 3_000_000_000L;
    /** Soundings are folded into at most this many places per phase, whatever the medium's size. */
    private static final int MOST_SOUNDINGS = 400;

    /** How long a stretch of the medium took, as seconds for each 100 MB. */
    public record Sounding(Phase phase, long position, long bytes, long nanos) {
        public double secondsPer100Mb() {
            return bytes == 0 ? 0 : nanos / 1e9 / bytes * 1e8;
        }
    }

    /** A moment of the transfer. */
    public record Moment(Phase phase, ByteSize done, Optional<ByteSize> total, ByteRate rate, Optional<Duration> left) {
        /** What is being done, how fast, how long still. */
        public String said() {
            return phase.text() + "  " + rate.said()
                    + left.map(time -> "  ·  " + Span.left(time) + " left").orElse("");
        }

        /** Of the present phase, from 0 to 1. */
        public double share() {
            return total.filter(size -> size.bytes() > 0)
                    .map(size -> (double) done.bytes() / size.bytes())
                    .orElse(0.0);
        }
    }

    private record Tick(long at, long done) {}

    /** A target that has told nothing for so long is not waited for any more when the time left is told. */
    private static final long SILENT_NANOS = 30_000_000_000L;

    private final LongSupplier nanoClock;
    private final boolean readsBack;
    private final BooleanSupplier stopped;
    private final List<TransferMeter> beside = new ArrayList<>();
    private final Map<Phase, List<Sounding>> soundings = new EnumMap<>(Phase.class);
    private final Deque<Tick> ticks = new ArrayDeque<>();
    private Phase phase = Phase.WRITING;
    private long done;
    private long total = -1;
    private volatile boolean cancelled;

    /**
     * @param nanoClock such as {@code System::nanoTime}
     * @param readsBack whether a phase of reading back follows the writing, and belongs to the time left
     */
    public TransferMeter(LongSupplier nanoClock, boolean readsBack) {
        this(nanoClock, readsBack, () -> false);
    }

    private TransferMeter(LongSupplier nanoClock, boolean readsBack, BooleanSupplier stopped) {
        this.nanoClock = nanoClock;
        this.readsBack = readsBack;
        this.stopped = stopped;
    }

    /** One for a further target of the same work: it follows this one's stop, and a moment is that of the slowest. */
    public synchronized TransferWatch beside() {
        TransferMeter other = new TransferMeter(nanoClock, readsBack, this::cancelled);
        beside.add(other);
        return other;
    }

    @Override
    public synchronized void moved(Phase now, long position, int bytes, long nanos, long phaseTotal) {
        if (now != phase) {
            phase = now;
            done = 0;
            ticks.clear();
        }
        done += bytes;
        total = phaseTotal;
        long time = nanoClock.getAsLong();
        ticks.addLast(new Tick(time, done));
        while (ticks.size() > 2 && time - ticks.peekFirst().at() > WINDOW_NANOS) {
            ticks.removeFirst();
        }
        sound(now, position, bytes, nanos);
    }

    @Override
    public boolean cancelled() {
        return cancelled || stopped.getAsBoolean();
    }

    public void cancel() {
        cancelled = true;
    }

    /** Where several targets are worked on, of the one that takes longest still. */
    public synchronized Moment moment() {
        Moment slowest = own();
        for (TransferMeter other : beside) {
            Moment theirs = other.moment();
            boolean longer = left(theirs).compareTo(left(slowest)) > 0;
            if (longer && !other.silent()) {
                slowest = theirs;
            }
        }
        return slowest;
    }

    private static Duration left(Moment moment) {
        return moment.left().orElse(Duration.ZERO);
    }

    private synchronized boolean silent() {
        return ticks.isEmpty() || nanoClock.getAsLong() - ticks.peekLast().at() > SILENT_NANOS;
    }

    private Moment own() {
        ByteRate rate = rate();
        Optional<ByteSize> whole = total < 0 ? Optional.empty() : Optional.of(ByteSize.of(total));
        Optional<Duration> left = whole.filter(size -> rate.bytesPerSecond() > 0)
                .map(size -> {
                    long still = Math.max(0, size.bytes() - done);
                    boolean backToCome = readsBack && phase == Phase.WRITING;
                    return rate.timeFor(ByteSize.of(backToCome ? still + size.bytes() : still));
                });
        return new Moment(phase, ByteSize.of(done), whole, rate, left);
    }

    public synchronized List<Sounding> soundings(Phase of) {
        return List.copyOf(soundings.getOrDefault(of, List.of()));
    }

    private ByteRate rate() {
        if (ticks.size() < 2) {
            return new ByteRate(0);
        }
        Tick first = ticks.peekFirst();
        Tick last = ticks.peekLast();
        return ByteRate.over(ByteSize.of(last.done() - first.done()), Duration.ofNanos(last.at() - first.at()));
    }

    private void sound(Phase now, long position, int bytes, long nanos) {
        List<Sounding> list = soundings.computeIfAbsent(now, key -> new ArrayList<>());
        list.add(new Sounding(now, position, bytes, nanos));
        if (list.size() > MOST_SOUNDINGS) {
            List<Sounding> folded = new ArrayList<>();
            for (int i = 0; i + 1 < list.size(); i += 2) {
                Sounding a = list.get(i);
                Sounding b = list.get(i + 1);
                folded.add(new Sounding(
                        now, Math.min(a.position(), b.position()), a.bytes() + b.bytes(), a.nanos() + b.nanos()));
            }
            if (list.size() % 2 == 1) {
                folded.add(list.get(list.size() - 1));
            }
            soundings.put(now, folded);
        }
    }
}
