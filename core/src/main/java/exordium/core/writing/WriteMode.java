// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import java.util.Locale;

/** Which chunks of the image are written. */
public enum WriteMode {
    /** All of them. */
    WHOLE,
    /** Those that a table, a file system or the gap before the first partition needs; unknown file systems whole. */
    USED,
    /** The target is read first, and only chunks that differ are written: quicker, and spares the medium. */
    CHANGED;

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }
}
