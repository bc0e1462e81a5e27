// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import java.time.LocalDate;
import java.util.Collection;
import java.util.Comparator;
import java.util.Optional;

/**
 * When a restore of a board is next tried: a year after the last time; a month after its first copy where it never was. Common
 * practice, no source.
 */
public final class DrillRule {
    private static final int YEARS = 1;
    private static final int DAYS_AFTER_FIRST = 30;

    private DrillRule() {}

    /** Empty where there is no copy that could be put back. Days in any order. */
    public static Optional<LocalDate> next(Collection<LocalDate> drills, Collection<LocalDate> copies) {
        return copies.stream().min(Comparator.naturalOrder()).map(first -> drills.stream()
                .max(Comparator.naturalOrder())
                .map(last -> last.plusYears(YEARS))
                .orElse(first.plusDays(DAYS_AFTER_FIRST)));
    }
}
