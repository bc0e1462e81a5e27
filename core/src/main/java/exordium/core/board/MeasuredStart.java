// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A start that was timed on a board, from the kernel to the login, beside what was rehearsed for it with the usual figures.
 *
 * @param seconds as its system printed them
 * @param usual what the rehearsal came to before anything was measured
 */
public record MeasuredStart(Instant at, String board, double seconds, double usual) {
    private static final double LEAST = 0.1;
    private static final double MOST = 20;

    public MeasuredStart {
        if (!(seconds > 0) || !(usual > 0)) {
            throw new IllegalArgumentException("a start takes time");
        }
    }

    /** How many times as long as usual. */
    public double times() {
        return Math.max(LEAST, Math.min(MOST, seconds / usual));
    }

    /** The middle of all, by which a family's own times are calibrated; empty where nothing was measured. */
    public static Optional<Double> middle(List<MeasuredStart> all) {
        List<Double> sorted = all.stream().map(MeasuredStart::times).sorted().toList();
        if (sorted.isEmpty()) {
            return Optional.empty();
        }
        int half = sorted.size() / 2;
        return Optional.of(sorted.size() % 2 == 1 ? sorted.get(half) : (sorted.get(half - 1) + sorted.get(half)) / 2);
    }

    /** How many, and how far apart they are. */
    public static String said(List<MeasuredStart> all) {
        double least = all.stream().mapToDouble(MeasuredStart::seconds).min().orElse(0);
        double most = all.stream().mapToDouble(MeasuredStart::seconds).max().orElse(0);
        long boards = all.stream().map(MeasuredStart::board).distinct().count();
        double usual = all.stream().mapToDouble(MeasuredStart::usual).average().orElse(0);
        return String.format(
                Locale.ROOT,
                "%d start%s of %d board%s, %.1f to %.1f s from the kernel to the login; %.1f s usually",
                all.size(),
                all.size() == 1 ? "" : "s",
                boards,
                boards == 1 ? "" : "s",
                least,
                most,
                usual);
    }
}
