// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteSize;

/**
 * The house rules that count when storage is chosen.
 *
 * @param smallest no card under this size
 * @param pcie the generation NVMe drives are run at, 2 or 3
 */
public record StorageRules(ByteSize smallest, int pcie, Reliability reliability) {
    /** Those of domain practice: the middle school's 16 GB, the rated speed, and the role decides. */
    public static final StorageRules USUAL = new StorageRules(StorageNeed.leastOf(16), 2, Reliability.BY_ROLE);

    /** The smallest card as its label says it: the user's own number. */
    public String smallestLabel() {
        return StorageNeed.labelOf(smallest) + " GB";
    }

    /** Driven beyond what such boards are rated for. */
    public boolean beyondRating() {
        return pcie == 3;
    }
}
