// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Media with one and the same disk identifier: copies of each other, whose roots cannot be told apart in one board. */
public final class Twins {
    private Twins() {}

    /** Where identifiers: name of each medium to its disk identifier; those without one are left out. */
    public static List<Finding> among(Map<String, String> identifiers) {
        Map<String, List<String>> byIdentifier = new TreeMap<>();
        new TreeMap<>(identifiers).forEach((name, identifier) -> byIdentifier
                .computeIfAbsent(identifier, key -> new ArrayList<>())
                .add(name));
        List<Finding> findings = new ArrayList<>();
        byIdentifier.forEach((identifier, names) -> {
            if (names.size() > 1 && !identifier.equals("00000000")) {
                findings.add(Finding.caution(
                        "same-identifier",
                        String.join(" and ", names) + " have the same disk identifier, " + identifier
                                + ": never both in one board. One of them can be given a new one.",
                        Basis.computed("the partition tables")));
            }
        });
        return findings;
    }
}
