// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteRate;

/**
 * How much of a start waits for the drive: a fifth, whatever its rate; NVMe against a card is about 2 s. Common practice,
 * no source.
 */
public final class DriveShare {
    private static final double SHARE = 0.2;
    private static final double USUAL_READ_RATE = 90e6;

    private DriveShare() {}

    /** Factor on the time of a start from a medium read at this rate; 1 for a quick card. */
    public static double slowness(ByteRate rate) {
        double ratio = Math.min(4, Math.max(0.25, USUAL_READ_RATE / rate.bytesPerSecond()));
        return 1 - SHARE + SHARE * ratio;
    }
}
