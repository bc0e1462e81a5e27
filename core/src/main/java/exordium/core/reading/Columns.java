// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A table as tools print it: each word below belongs to the heading it stands under. */
final class Columns {
    private static final Pattern WORD = Pattern.compile("\\S+");

    private record Heading(String name, int from, int to) {}

    /** Those whose figures end where their heading ends; all others begin where it begins (lsblk(8)). */
    private static final Set<String> RIGHT = Set.of(
            "SIZE",
            "RM",
            "RO",
            "MAJ:MIN",
            "ROTA",
            "HOTPLUG",
            "FSAVAIL",
            "FSUSE%",
            "FSSIZE",
            "FSUSED",
            "DISC-GRAN",
            "DISC-MAX");

    private final List<Heading> headings = new ArrayList<>();

    Columns(String line) {
        Matcher word = WORD.matcher(line);
        while (word.find()) {
            headings.add(new Heading(word.group(), word.start(), word.end()));
        }
    }

    boolean has(String... names) {
        for (String name : names) {
            if (headings.stream().noneMatch(each -> each.name().equals(name))) {
                return false;
            }
        }
        return true;
    }

    /** Whether all of it is of these. */
    boolean only(Set<String> names) {
        return headings.stream().allMatch(each -> names.contains(each.name()));
    }

    /** By heading; words of one column stay together. */
    Map<String, String> cells(String line) {
        Map<String, String> cells = new LinkedHashMap<>();
        Matcher word = WORD.matcher(line);
        while (word.find()) {
            int start = word.start();
            int end = word.end();
            Heading under = headings.stream()
                    .filter(each -> RIGHT.contains(each.name()) && Math.abs(each.to() - end) <= 1)
                    .findFirst()
                    .or(() -> headings.stream()
                            .filter(each -> !RIGHT.contains(each.name())
                                    && (each.from() <= start || (each.from() == start + 1 && end > each.from())))
                            .reduce((first, last) -> last))
                    .orElse(headings.get(0));
            cells.merge(under.name(), word.group(), (one, other) -> one + " " + other);
        }
        return cells;
    }
}
