// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.media.Wear;

/** The pennants of things that are no step of a board: a candidate for its storage, a medium of the drawer. */
public final class Flags {
    private Flags() {}

    /** Ruled out, doubtful, or only worked out: nobody has proven it. */
    public static Pennant of(StorageAssessment candidate) {
        if (!candidate.fits()) {
            return Pennant.FAILING;
        }
        return candidate.anyCautions() ? Pennant.DUE : Pennant.SET;
    }

    /**
     * Worn out, going, or only believed: nobody has proven what a medium is that was never written and read back.
     *
     * @param blemished with faults on record, or with a twin of the same identifier
     */
    public static Pennant ofMedium(double worn, boolean blemished, boolean measured) {
        if (Wear.out(worn)) {
            return Pennant.FAILING;
        }
        if (Wear.going(worn) || blemished) {
            return Pennant.DUE;
        }
        return measured ? Pennant.PROVEN : Pennant.SET;
    }
}
