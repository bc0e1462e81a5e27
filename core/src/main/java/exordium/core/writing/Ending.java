// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.quantity.Coded;

/** How a deed ended, or that it did not yet; a write that came to a report ends with its verdict. */
public enum Ending implements Coded {
    RUNNING,
    DONE,
    STOPPED,
    FAILED,
    /** Its process was gone before it came to an end. */
    INTERRUPTED,
    VERIFIED,
    WRITTEN,
    DIFFERENT,
    CANCELLED;

    public static Ending of(Verdict verdict) {
        return valueOf(verdict.name());
    }

    /** Whether a write can go on from there, as long as its journal is there. */
    public boolean canGoOn() {
        return this == INTERRUPTED || this == CANCELLED || this == FAILED;
    }
}
