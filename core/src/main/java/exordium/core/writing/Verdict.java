// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.quantity.Coded;

/** How a write ended. Only one of them says that the target is known to hold the image. */
public enum Verdict implements Coded {
    /** Every byte was read back from the medium and agrees. */
    VERIFIED,
    /** Everything was written; nobody read it back. */
    WRITTEN,
    /** Read back, and it differs. */
    DIFFERENT,
    /** Stopped by the user; the target is incomplete. */
    CANCELLED,
    /** Stopped by an error; the target is incomplete. */
    FAILED;

    public boolean good() {
        return this == VERIFIED || this == WRITTEN;
    }
}
