// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import exordium.core.quantity.Span;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * When the next copy of a board is due. Every 30 days, 90 when lightly used: common practice, no source; the user sets
 * them as house rules.
 *
 * @param byRisk whether a risk makes them due sooner
 */
public record CopyRule(int days, int daysWhenLightlyUsed, boolean byRisk) {
    public static final CopyRule USUAL = new CopyRule(30, 90, true);

    public CopyRule {
        if (days < 1 || daysWhenLightlyUsed < 1) {
            throw new IllegalArgumentException("a copy rule counts at least one day");
        }
    }

    /** The day it is due, how many days past that today is (0 while there is time), and for how many days a copy counts. */
    public record Due(LocalDate date, long overdueDays, long ageDays, int allowed, String reason) {
        public boolean overdue() {
            return overdueDays > 0;
        }
    }

    /** For how many days a copy covers a board at which there is no risk of its own. */
    public int allowed(boolean lightlyUsed) {
        return lightlyUsed ? daysWhenLightlyUsed : days;
    }

    /** Of a board at which there is no risk of its own. */
    public Due next(Optional<LocalDate> lastProven, boolean lightlyUsed, LocalDate today) {
        return next(lastProven, lightlyUsed, today, CopyRisk.Known.NOTHING);
    }

    public Due next(Optional<LocalDate> lastProven, boolean lightlyUsed, LocalDate today, CopyRisk.Known known) {
        int usual = allowed(lightlyUsed);
        Optional<CopyRisk> risk = byRisk ? CopyRisk.of(usual, known) : Optional.empty();
        int allowed = risk.map(CopyRisk::days).orElse(usual);
        if (lastProven.isEmpty()) {
            return new Due(
                    today,
                    1,
                    0,
                    allowed,
                    "There is no proven copy at all."
                            + risk.map(each -> " " + each.reason()).orElse(""));
        }
        LocalDate date = lastProven.get().plusDays(allowed);
        long age = ChronoUnit.DAYS.between(lastProven.get(), today);
        String rule = risk.map(each -> Span.days(allowed) + " instead of " + usual
                        + ", by risk; the last proven copy is " + Span.days(age) + " old. " + each.reason())
                .orElseGet(() -> (lightlyUsed ? "Lightly used, " : "House rule ") + Span.days(allowed)
                        + (lightlyUsed ? " allowed" : "") + "; the last proven copy is " + Span.days(age) + " old.");
        return new Due(date, Math.max(0, ChronoUnit.DAYS.between(date, today)), age, allowed, rule);
    }

    /** Days that no copy covers, from the first to the day after the last of them. */
    public record Gap(LocalDate from, LocalDate until) {}

    /**
     * When a board went without: since its first copy, or all the time where there is none.
     *
     * @param copies days, oldest first
     * @param allowed days that a copy covers
     */
    public static List<Gap> gaps(List<LocalDate> copies, int allowed, LocalDate from, LocalDate today) {
        List<Gap> gaps = new ArrayList<>();
        LocalDate bare = copies.isEmpty() ? from : copies.get(0);
        for (LocalDate copy : copies) {
            add(gaps, bare, copy, from);
            LocalDate end = copy.plusDays(allowed + 1L);
            bare = end.isAfter(bare) ? end : bare;
        }
        add(gaps, bare, today, from);
        return gaps;
    }

    private static void add(List<Gap> gaps, LocalDate bare, LocalDate until, LocalDate from) {
        LocalDate begin = bare.isBefore(from) ? from : bare;
        if (begin.isBefore(until)) {
            gaps.add(new Gap(begin, until));
        }
    }
}
