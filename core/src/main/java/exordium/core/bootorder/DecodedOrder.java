// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import java.util.List;

/** A start order as understood; value is as it was stored. */
public record DecodedOrder(String value, List<StartSource> sources, List<Finding> findings) {
    /** Whether a board makes anything of it; one it cannot read gives way to its usual order. */
    public boolean readable() {
        return findings.stream().noneMatch(each -> each.isAbout(Subject.UNREADABLE_ORDER));
    }

    public boolean usable() {
        return !Finding.anyStops(findings) && !sources.isEmpty();
    }
}
