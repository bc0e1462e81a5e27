// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import java.util.Locale;

/** Which chunks of the image are written. */
public enum WriteMode {
    /** All of them. */
    WHOLE,
    /** The target is read first, and only chunks that differ are written: quicker, and spares the medium. */
    CHANGED;

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }
}
