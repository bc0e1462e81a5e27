// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import java.util.List;

/** A start order as understood; value is as it was stored. */
public record DecodedOrder(String value, List<StartSource> sources, List<Finding> findings) {

    public boolean usable() {
        return !Finding.anyStops(findings) && !sources.isEmpty();
    }
}
