// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;

/** Which known word a slip of the finger makes another one from. */
public final class Slips {
    private Slips() {}

    /** The known word that is nearest, where it is near enough to be meant: a third of its letters at the most. */
    public static Optional<String> nearest(String word, Collection<String> known) {
        String lower = word.toLowerCase(Locale.ROOT);
        return known.stream()
                .filter(each -> between(lower, each.toLowerCase(Locale.ROOT)) <= Math.max(1, each.length() / 3))
                .min(Comparator.comparingInt(each -> between(lower, each.toLowerCase(Locale.ROOT))));
    }

    /** The nearest as a question behind a sentence; nothing where none is near enough. */
    public static String meant(String word, Collection<String> known) {
        return nearest(word, known)
                .map(each -> " Did you mean \"" + each + "\"?")
                .orElse("");
    }

    /** Levenshtein's distance ("Binary codes capable of correcting deletions, insertions, and reversals", 1966). */
    public static int between(String one, String other) {
        int[] row = new int[other.length() + 1];
        for (int j = 0; j < row.length; j++) {
            row[j] = j;
        }
        for (int i = 1; i <= one.length(); i++) {
            int diagonal = row[0];
            row[0] = i;
            for (int j = 1; j < row.length; j++) {
                int change = diagonal + (one.charAt(i - 1) == other.charAt(j - 1) ? 0 : 1);
                diagonal = row[j];
                row[j] = Math.min(change, Math.min(row[j], row[j - 1]) + 1);
            }
        }
        return row[other.length()];
    }
}
