// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** What holds for an order in any dialect. */
final class OrderFindings {
    private OrderFindings() {}

    static List<Finding> of(List<StartSource> sources) {
        List<Finding> findings = new ArrayList<>();
        if (sources.isEmpty()) {
            findings.add(Finding.stop("order-no-source", "The order names nothing to start from.", Basis.practice()));
            return findings;
        }
        int end = firstEnd(sources);
        if (end >= 0 && end < sources.size() - 1) {
            List<String> never = sources.subList(end + 1, sources.size()).stream()
                    .map(StartSource::code)
                    .toList();
            findings.add(Finding.caution(
                    "sources-never-reached",
                    "Nothing after \"" + sources.get(end).code() + "\" is ever reached: " + String.join(", ", never)
                            + ".",
                    Basis.practice()));
        }
        if (end < 0) {
            findings.add(Finding.note(
                            "order-ends-open",
                            "After the last source the board stops; with f at the end it would go on trying.",
                            Basis.practice())
                    .about(Subject.ORDER_END));
        }
        if (sources.get(0) == StartSource.RESTART || sources.get(0) == StartSource.STOP) {
            findings.add(Finding.stop(
                    "order-no-source", "The order ends before it names anything to start from.", Basis.practice()));
        }
        Set<StartSource> seen = EnumSet.noneOf(StartSource.class);
        for (StartSource source : sources) {
            if (!seen.add(source) && source != StartSource.RESTART) {
                findings.add(Finding.note(
                        "source-twice", source.title() + " is tried more than once in a round.", Basis.practice()));
            }
        }
        return findings;
    }

    private static int firstEnd(List<StartSource> sources) {
        for (int i = 0; i < sources.size(); i++) {
            if (sources.get(i) == StartSource.RESTART || sources.get(i) == StartSource.STOP) {
                return i;
            }
        }
        return -1;
    }
}
