// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A table as tools print it: each word below belongs to the heading it stands under. */
final class Columns {
    private static final Pattern WORD = Pattern.compile("\\S+");

    private record Heading(String name, int from, int to) {}

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

    /** By heading; words of one column stay together. */
    Map<String, String> cells(String line) {
        Map<String, String> cells = new LinkedHashMap<>();
        Matcher word = WORD.matcher(line);
        while (word.find()) {
            Heading nearest = headings.get(0);
            int best = Integer.MAX_VALUE;
            for (Heading each : headings) {
                int apart = Math.max(0, Math.max(each.from() - word.end() + 1, word.start() - each.to() + 1));
                int edge = Math.min(Math.abs(each.from() - word.start()), Math.abs(each.to() - word.end()));
                int far = apart * 100 + edge;
                if (far < best) {
                    best = far;
                    nearest = each;
                }
            }
            cells.merge(nearest.name(), word.group(), (one, other) -> one + " " + other);
        }
        return cells;
    }
}
