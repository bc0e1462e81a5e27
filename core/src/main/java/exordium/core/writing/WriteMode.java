// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.quantity.Coded;

/** Which chunks of the image are written. */
public enum WriteMode implements Coded {
    /** All of them. */
    WHOLE,
    /** Those that a table, a file system or the gap before the first partition needs; unknown file systems whole. */
    USED,
    /** The target is read first, and only chunks that differ are written: quicker, and spares the medium. */
    CHANGED;
}
