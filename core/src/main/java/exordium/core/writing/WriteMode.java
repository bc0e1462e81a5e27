// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;

/** Which chunks of the image are written. */
public enum WriteMode implements Coded {
    /** All of them. */
    WHOLE,
    /** Those that a table, a file system or the gap before the first partition needs; unknown file systems whole. */
    USED,
    /** The target is read first, and only chunks that differ are written: quicker, and spares the medium. */
    CHANGED;

    /** Less than this is not worth another look through the image. */
    private static final double WORTH = 0.9;

    /**
     * The one that spares time and wear and is as safe: what is in use, where finding that out costs next to nothing.
     *
     * @param readAnywhere whether the image can be read at any place without unpacking it
     * @param used what is known to be in use; nothing where nobody knows
     */
    public static WriteMode offered(boolean readAnywhere, ByteSize used, ByteSize size) {
        boolean spares = used.bytes() > 0 && used.bytes() < WORTH * size.bytes();
        return readAnywhere && spares ? USED : WHOLE;
    }
}
