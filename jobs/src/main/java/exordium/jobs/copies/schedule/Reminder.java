// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.schedule;

import exordium.core.block.Machine;
import exordium.core.quantity.Span;
import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;

/** Reminds of copies that are due and whose medium sits in its board: each board once a day. Used by one thread. */
public final class Reminder {
    private static final int MOST = 5;

    private final BiPredicate<String, String> shown;
    private final Set<String> reminded = new HashSet<>();
    private LocalDate day = LocalDate.MIN;

    public Reminder(Machine machine) {
        this(machine::notice);
    }

    /** Where shown: puts a title and words on the screen, and says whether anybody took them. */
    public Reminder(BiPredicate<String, String> shown) {
        this.shown = shown;
    }

    /** The words that were shown; empty where there is nothing new to be reminded of, or nobody took them. */
    public Optional<String> remind(List<DueRun.DueBoard> due, LocalDate today) {
        if (!today.equals(day)) {
            day = today;
            reminded.clear();
        }
        List<DueRun.DueBoard> away = due.stream()
                .filter(each -> !each.here() && !reminded.contains(each.board().id()))
                .toList();
        if (away.isEmpty()) {
            return Optional.empty();
        }
        List<String> lines = away.stream().limit(MOST).map(Reminder::line).toList();
        String words = String.join("\n", lines) + (away.size() > MOST ? "\nand " + (away.size() - MOST) + " more" : "");
        String title = away.size() == 1 ? "A copy is due" : away.size() + " copies are due";
        away.forEach(each -> reminded.add(each.board().id()));
        return shown.test(title, words) ? Optional.of(words) : Optional.empty();
    }

    private static String line(DueRun.DueBoard each) {
        return each.board().name() + ", " + each.board().place() + ": bring "
                + each.medium().name()
                + (each.due().overdueDays() > 0
                        ? ", due for " + Span.days(each.due().overdueDays())
                        : ", due today");
    }
}
