// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import java.util.Locale;

/** How a write ended. Only one of them says that the target is known to hold the image. */
public enum Verdict {
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

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }

    public boolean good() {
        return this == VERIFIED || this == WRITTEN;
    }
}
