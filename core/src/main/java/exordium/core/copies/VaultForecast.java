// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

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

    /** A copy that is there, with the bytes it alone takes. */
    public record Generation(Instant proven, Optional<String> before, ByteSize own) {}

    /** The room they take together from a day on. */
    public record Point(LocalDate day, int copies, ByteSize room) {}

    /**
     * @param shared bytes that copies have in common; they stay as they are
     * @param each what every coming copy adds; what the last ones added, where that is known
     * @param firstDue when the next one is due, and every: days between them
     */
    public static List<Point> of(
            List<Generation> present,
            ByteSize shared,
            ByteSize each,
            LocalDate today,
            LocalDate firstDue,
            int every,
            Retention rule) {
        List<Generation> kept = new ArrayList<>(present);
        List<Point> points = new ArrayList<>();
        points.add(point(today, kept, shared));
        LocalDate day = firstDue.isBefore(today) ? today : firstDue;
        while (!day.isAfter(today.plusDays(DAYS))) {
            kept.add(new Generation(day.atTime(12, 0).toInstant(ZoneOffset.UTC), Optional.empty(), each));
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
        long own = kept.stream().mapToLong(copy -> copy.own().bytes()).sum();
        return new Point(day, kept.size(), ByteSize.of(own + shared.bytes()));
    }
}
