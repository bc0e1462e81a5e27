// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import java.util.List;
import java.util.Set;

/** A start order as understood; value is as it was stored. */
public record DecodedOrder(String value, List<StartSource> sources, List<Finding> findings) {
    private static final Set<String> UNREADABLE = Set.of(
            "order-empty",
            "order-upper-case",
            "order-no-prefix",
            "order-too-long",
            "order-not-hex",
            "register-not-hex");

    /** Whether a board makes anything of it; one it cannot read gives way to its usual order. */
    public boolean readable() {
        return findings.stream().map(Finding::code).noneMatch(UNREADABLE::contains);
    }

    public boolean usable() {
        return !Finding.anyStops(findings) && !sources.isEmpty();
    }
}
