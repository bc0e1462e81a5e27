// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import java.time.LocalDate;
import java.util.Optional;

/**
 * When a restore of a board is next tried: a year after the last time; together with its next copy where it never was. Common
 * practice, no source.
 */
public final class DrillRule {
    private static final int YEARS = 1;

    private DrillRule() {}

    /** Empty where there is no copy that could be put back. */
    public static Optional<LocalDate> next(
            Optional<LocalDate> lastDrill, Optional<LocalDate> lastCopy, LocalDate nextCopy) {
        return lastCopy.map(copy -> lastDrill.map(day -> day.plusYears(YEARS)).orElse(nextCopy));
    }
}
