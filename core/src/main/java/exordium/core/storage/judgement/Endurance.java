// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;

/**
 * How long flash lasts: years = what it still bears / (host writes a day x write amplification x 365). What it bears is its
 * rating, else size x cycles.
 *
 * @param mean with the usual amplification of the habit
 * @param cautious with twice that, and six tenths of what it bears. Common practice, no source
 */
public record Endurance(double mean, double cautious) {
    /** Longer than anybody keeps a board; more years say nothing. */
    public static final double LONGEST = 99;

    private static final double DAYS = 365;
    private static final double CAUTIOUS_AMPLIFICATION = 2;
    private static final double CAUTIOUS_RATING = 0.6;

    public static Endurance of(MediumKind.Medium medium, ByteSize dailyWrites, double amplification) {
        double bears = medium.bears().bytes();
        double written = medium.written().bytes() * (medium.ratedWrites().isPresent() ? 1 : amplification);
        return new Endurance(
                years(bears - written, dailyWrites, amplification),
                years(bears * CAUTIOUS_RATING - written, dailyWrites, amplification * CAUTIOUS_AMPLIFICATION));
    }

    private static double years(double left, ByteSize dailyWrites, double amplification) {
        if (left <= 0) {
            return 0;
        }
        double aYear = dailyWrites.bytes() * amplification * DAYS;
        return aYear <= 0 ? LONGEST : Math.min(LONGEST, left / aYear);
    }
}
