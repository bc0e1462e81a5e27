// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import exordium.core.quantity.ByteSize;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What a board's copies will take in the vault along a year, when they are made as they are due and kept by the house's rule. */
public final class VaultForecast {
    private static final int DAYS = 365;

    private VaultForecast() {}

    /**
     * A copy that is there.
     *
     * @param own bytes it alone takes
     * @param added what the vault grew by when it was made
     */
    public record Generation(Instant proven, Optional<String> before, ByteSize own, ByteSize added) {}

    /** The room they take together from a day on. */
    public record Point(LocalDate day, int copies, ByteSize room) {}

    /**
     * Every coming copy is taken to add what the newest one added; what copies have in common stays as it is.
     *
     * @param present oldest first
     * @param room what they take together
     * @param firstDue when the next one is due, and every: days between them
     */
    public static List<Point> of(
            List<Generation> present, ByteSize room, LocalDate today, LocalDate firstDue, int every, Retention rule) {
        ByteSize shared = room.minusOrZero(own(present));
        ByteSize each = present.isEmpty()
                ? ByteSize.ZERO
                : present.get(present.size() - 1).added();
        List<Generation> kept = new ArrayList<>(present);
        List<Point> points = new ArrayList<>();
        points.add(point(today, kept, shared));
        LocalDate day = firstDue.isBefore(today) ? today : firstDue;
        while (!day.isAfter(today.plusDays(DAYS))) {
            kept.add(new Generation(day.atTime(12, 0).toInstant(ZoneOffset.UTC), Optional.empty(), each, each));
            List<Retention.Kept<Generation>> all = kept.stream()
                    .map(copy -> new Retention.Kept<>(copy, copy.proven(), copy.before()))
                    .toList();
            kept = new ArrayList<>(rule.of(all, ZoneOffset.UTC).stream()
                    .filter(Retention.Verdict::stays)
                    .map(Retention.Verdict::copy)
                    .toList());
            points.add(point(day, kept, shared));
            day = day.plusDays(every);
        }
        return points;
    }

    private static Point point(LocalDate day, List<Generation> kept, ByteSize shared) {
        return new Point(day, kept.size(), own(kept).plus(shared));
    }

    private static ByteSize own(List<Generation> copies) {
        return ByteSize.of(copies.stream().mapToLong(copy -> copy.own().bytes()).sum());
    }
}
