// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

/** How far a medium is worn, as a share of the writes it bears; the bounds are common practice, no source. */
public final class Wear {
    private static final double OUT = 0.9;
    private static final double GOING = 0.7;

    private Wear() {}

    /** The share at which it is to be replaced. */
    public static double mostWorn() {
        return OUT;
    }

    /** Whether it is to be replaced before it is written again. */
    public static boolean out(double worn) {
        return worn >= OUT;
    }

    /** Whether another one should be at hand. */
    public static boolean going(double worn) {
        return worn >= GOING;
    }
}
