// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.time.Duration;

/** Bytes in a second. */
public record ByteRate(@JsonValue double bytesPerSecond) implements Comparable<ByteRate> {

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public ByteRate {
        if (!(bytesPerSecond >= 0) || Double.isInfinite(bytesPerSecond)) {
            throw new IllegalArgumentException("not a rate: " + bytesPerSecond);
        }
    }

    public static ByteRate ofMegabytes(double megabytesPerSecond) {
        return new ByteRate(megabytesPerSecond * 1e6);
    }

    /** The mean over a span; nothing when no time has passed. */
    public static ByteRate over(ByteSize size, Duration span) {
        double seconds = span.toNanos() / 1e9;
        return new ByteRate(seconds <= 0 ? 0 : size.bytes() / seconds);
    }

    /**
     * How long this many bytes take.
     *
     * @throws IllegalStateException at rate zero, where no time would do
     */
    public Duration timeFor(ByteSize size) {
        if (bytesPerSecond == 0) {
            throw new IllegalStateException("no time is enough at rate zero");
        }
        return Duration.ofMillis(Math.round(size.bytes() / bytesPerSecond * 1000));
    }

    public double megabytesPerSecond() {
        return bytesPerSecond / 1e6;
    }

    public String said() {
        double rate = megabytesPerSecond();
        return Decimals.fixed(rate, rate < 100 ? 1 : 0) + " MB/s";
    }

    @Override
    public int compareTo(ByteRate other) {
        return Double.compare(bytesPerSecond, other.bytesPerSecond);
    }

    @Override
    public String toString() {
        return said();
    }
}
