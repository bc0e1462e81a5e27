// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import exordium.core.block.TransferWatch;
import java.util.concurrent.atomic.AtomicInteger;

/** Somebody who stops what is going on. */
public final class Stopping {
    private Stopping() {}

    /** After so many transfers. */
    public static TransferWatch after(int transfers) {
        AtomicInteger left = new AtomicInteger(transfers);
        return new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                left.decrementAndGet();
            }

            @Override
            public boolean cancelled() {
                return left.get() <= 0;
            }
        };
    }
}
