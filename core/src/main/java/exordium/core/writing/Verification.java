// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import java.util.List;

/**
 * What reading back found.
 *
 * @param checkedBytes how many bytes were read from the medium
 * @param pastCache whether they came from the medium itself rather than from what the machine remembered
 */
public record Verification(long checkedBytes, boolean pastCache, List<Difference> differences) {

    public boolean agrees() {
        return differences.isEmpty();
    }
}
