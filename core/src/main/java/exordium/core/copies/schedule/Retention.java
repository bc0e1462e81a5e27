// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * Which copies of a board are kept: the last so many, the newest of each month and of each year so far back, and those made before
 * a change. Common practice, no source; the user sets them as house rules. The newest always stays.
 *
 * @param last the newest so many
 * @param months of so many months that have any, the newest of each
 * @param years the same for years
 * @param changes the newest so many of those made before a change
 */
public record Retention(int last, int months, int years, int changes) {
    public static final Retention USUAL = new Retention(3, 6, 2, 3);

    public Retention {
        if (last < 1 || months < 0 || years < 0 || changes < 0) {
            throw new IllegalArgumentException("a retention keeps at least the last copy, and no count is below zero");
        }
    }

    public Retention withLast(int count) {
        return new Retention(count, months, years, changes);
    }

    public Retention withMonths(int count) {
        return new Retention(last, count, years, changes);
    }

    public Retention withYears(int count) {
        return new Retention(last, months, count, changes);
    }

    public Retention withChanges(int count) {
        return new Retention(last, months, years, count);
    }

    /** One copy; before: what change it was made before, such as "firmware". */
    public record Kept<T>(T copy, Instant proven, Optional<String> before) {}

    /** What becomes of one copy; why: the rule that keeps it, or that none does. */
    public record Verdict<T>(T copy, boolean stays, String why) {}

    /** Newest first, for copies in any order. */
    public <T> List<Verdict<T>> of(List<Kept<T>> copies, ZoneId zone) {
        List<Kept<T>> newest = new ArrayList<>(copies);
        newest.sort(Comparator.comparing((Kept<T> each) -> each.proven()).reversed());
        Window<YearMonth> byMonth = new Window<>(months);
        Window<Integer> byYear = new Window<>(years);
        int beforeChange = 0;
        List<Verdict<T>> verdicts = new ArrayList<>();
        for (int i = 0; i < newest.size(); i++) {
            Kept<T> each = newest.get(i);
            LocalDate day = LocalDate.ofInstant(each.proven(), zone);
            boolean ofMonth = byMonth.takes(YearMonth.from(day));
            boolean ofYear = byYear.takes(day.getYear());
            boolean ofChange = each.before().isPresent() && beforeChange++ < changes;
            String why;
            if (i < last) {
                why = i == 0 ? "the newest" : "one of the last " + last;
            } else if (ofChange) {
                why = "made before " + each.before().orElseThrow();
            } else if (ofMonth) {
                why = "the newest of " + YearMonth.from(day);
            } else if (ofYear) {
                why = "the newest of " + day.getYear();
            } else {
                verdicts.add(new Verdict<>(each.copy(), false, "no rule keeps it"));
                continue;
            }
            verdicts.add(new Verdict<>(each.copy(), true, why));
        }
        return verdicts;
    }

    /** Takes the first of each of the first so many that come by. */
    private static final class Window<K> {
        private final int most;
        private final List<K> seen = new ArrayList<>();

        Window(int most) {
            this.most = most;
        }

        boolean takes(K key) {
            if (seen.contains(key) || seen.size() >= most) {
                return false;
            }
            seen.add(key);
            return true;
        }
    }

    /** In words. */
    public String said() {
        Function<Integer, String> count = number -> number == 1 ? "one" : Integer.toString(number);
        return "the last " + count.apply(last) + ", one a month for " + count.apply(months) + ", one a year for "
                + count.apply(years) + ", and the last " + count.apply(changes) + " made before a change";
    }
}
