// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.Closeable;
import java.io.IOException;
import java.util.Collection;

/** Several things that are open at once. */
public final class Closing {
    private Closing() {}

    /** Closes every one, whatever the others say; the first failure is told, and the others with it. */
    public static void all(Collection<? extends Closeable> open) throws IOException {
        IOException failure = null;
        for (Closeable each : open) {
            try {
                each.close();
            } catch (IOException e) {
                if (failure == null) {
                    failure = e;
                } else {
                    failure.addSuppressed(e);
                }
            }
        }
        if (failure != null) {
            throw failure;
        }
    }
}
