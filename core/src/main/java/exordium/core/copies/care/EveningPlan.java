// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Which copy on which evening, so that no evening gets too long: a copy is made on its day, else on an earlier one that has room, else
 * as soon after as there is; never on a day on which its board may not be off. One that takes longer than an evening has one to itself. Common practice, no source.
 */
public final class EveningPlan {
    /** As long as somebody stands by. */
    public static final Duration USUAL = Duration.ofMinutes(90);

    private EveningPlan() {}

    /** A copy that comes, the time it takes, and when its board may be off. */
    public record Task(String board, LocalDate due, Duration time, QuietTimes quiet) {
        public Task(String board, LocalDate due, Duration time) {
            this(board, due, time, QuietTimes.ALWAYS);
        }
    }

    /** The day of each, by board, in the order they are due. */
    public static Map<String, LocalDate> plan(List<Task> tasks, LocalDate today, Duration most) {
        List<Task> ordered = new ArrayList<>(tasks);
        ordered.sort(Comparator.comparing(Task::due).thenComparing(Task::board));
        Map<LocalDate, Duration> load = new HashMap<>();
        Map<String, LocalDate> days = new LinkedHashMap<>();
        for (Task task : ordered) {
            LocalDate wanted = task.due().isBefore(today) ? today : task.due();
            LocalDate day = wanted;
            while (!fits(load, day, task, most) && day.isAfter(today)) {
                day = day.minusDays(1);
            }
            if (!fits(load, day, task, most)) {
                day = wanted;
                while (!fits(load, day, task, most)) {
                    day = day.plusDays(1);
                }
            }
            load.merge(day, task.time(), Duration::plus);
            days.put(task.board(), day);
        }
        return days;
    }

    private static boolean fits(Map<LocalDate, Duration> load, LocalDate day, Task task, Duration most) {
        if (!task.quiet().onDay(day)) {
            return false;
        }
        Duration taken = load.getOrDefault(day, Duration.ZERO);
        return taken.isZero() || taken.plus(task.time()).compareTo(most) <= 0;
    }
}
