// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;

/** A rate as a device has it: it does one request after the other, and those that wait for it begin where the last one ended. */
final class Pace {
    /** What waking late may be made up for; a device that nobody asked anything of saves nothing up. */
    private static final long SLACK_NANOS = 2_000_000;

    private long freeAt = System.nanoTime();

    /** Waits until a request that came then is done. Where askedAt: by {@link System#nanoTime}. */
    void keep(ByteRate rate, int bytes, long askedAt) {
        if (rate.bytesPerSecond() <= 0) {
            return;
        }
        long left;
        synchronized (this) {
            long from = Math.max(0, askedAt - SLACK_NANOS - freeAt) + freeAt;
            freeAt = from + rate.timeFor(ByteSize.of(bytes)).toNanos();
            left = freeAt - System.nanoTime();
        }
        try {
            if (left >= 1_000_000) {
                Thread.sleep(left / 1_000_000, (int) (left % 1_000_000));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
