// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;

/** Holds a transfer to a rate by waiting out what is left of each chunk's time, one after the other. */
final class Pace {
    private long owedNanos;

    synchronized void keep(ByteRate rate, int bytes, long spentNanos) {
        if (rate.bytesPerSecond() <= 0) {
            return;
        }
        owedNanos += rate.timeFor(ByteSize.of(bytes)).toNanos() - spentNanos;
        if (owedNanos < 1_000_000) {
            return;
        }
        try {
            long begin = System.nanoTime();
            Thread.sleep(owedNanos / 1_000_000);
            owedNanos -= System.nanoTime() - begin;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
