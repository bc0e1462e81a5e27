// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;

/** Whether what is on one medium can be copied on to another: the end of its last partition counts, not the label. */
public final class CopyOn {
    private static final Basis BYTES = Basis.computed("the partition table and the real bytes");

    private CopyOn() {}

    /**
     * Judges a copy.
     *
     * @param extent to the end of the source's last partition
     * @param used what the source's file systems use
     */
    public static Finding check(
            String from, ByteSize sourceSize, ByteSize extent, ByteSize used, String to, ByteSize targetSize) {
        if (extent.compareTo(targetSize) <= 0) {
            boolean smaller = targetSize.compareTo(sourceSize) < 0;
            return Finding.note(
                    "copy-on-fits",
                    from + " can be copied on to " + to + ": its last partition ends at " + extent.exact() + ", " + to
                            + " holds " + targetSize.exact()
                            + (smaller ? ", though it is the smaller of the two." : "."),
                    BYTES);
        }
        boolean shrinks = used.compareTo(targetSize) < 0;
        return Finding.stop(
                "copy-on-too-small",
                from + " cannot be copied on to " + to + ": its last partition ends at " + extent.exact() + ", " + to
                        + " holds "
                        + targetSize.exact() + ", "
                        + extent.minusOrZero(targetSize).said() + " too few."
                        + (shrinks
                                ? " Only " + used.said()
                                        + " are used: with its last partition made smaller it would fit."
                                : ""),
                BYTES);
    }
}
