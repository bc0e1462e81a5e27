// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** No evening gets too long, against tables worked out by hand; today is the 10th, an evening 90 minutes. */
class EveningPlanTest {
    private static final LocalDate TODAY = LocalDate.parse("2026-11-10");

    /** Board, day it is due, minutes; then board and the day it is planned for. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "a:10:30 b:10:30 c:10:30|a:10 b:10 c:10",
                "a:10:60 b:10:60|a:10 b:11",
                "a:01:60 b:02:60 c:03:20|a:10 b:11 c:10",
                "a:12:60 b:12:60|a:12 b:11",
                "a:12:60 b:12:60 c:12:60 d:12:60|a:12 b:11 c:10 d:13",
                "a:10:400 b:10:10|a:10 b:11",
                "a:20:10|a:20"
            })
    void eachHasItsEvening(String tasks, String planned) {
        List<EveningPlan.Task> all = Arrays.stream(tasks.split(" "))
                .map(word -> word.split(":"))
                .map(words -> new EveningPlan.Task(
                        words[0], LocalDate.parse("2026-11-" + words[1]), Duration.ofMinutes(Long.parseLong(words[2]))))
                .toList();
        assertThat(EveningPlan.plan(all, TODAY, EveningPlan.USUAL).entrySet().stream()
                        .map(each -> each.getKey() + ":" + each.getValue().getDayOfMonth())
                        .collect(Collectors.joining(" ")))
                .isEqualTo(planned);
    }

    /** Whatever is due: nothing before today, nothing left out, no evening over its length unless one copy alone fills it. */
    @Property(tries = 200)
    void anyListIsPlannedWhole(@ForAll @Size(max = 25) List<@IntRange(min = 0, max = 4000) Integer> numbers) {
        List<EveningPlan.Task> tasks = new java.util.ArrayList<>();
        for (int i = 0; i < numbers.size(); i++) {
            tasks.add(new EveningPlan.Task(
                    "b" + i, TODAY.plusDays(numbers.get(i) % 40 - 10), Duration.ofMinutes(1 + numbers.get(i) / 40)));
        }
        var days = EveningPlan.plan(tasks, TODAY, EveningPlan.USUAL);
        assertThat(days).hasSize(tasks.size());
        assertThat(days.values()).allMatch(day -> !day.isBefore(TODAY));
        var byDay = tasks.stream().collect(Collectors.groupingBy(task -> days.get(task.board())));
        assertThat(byDay.values())
                .allMatch(evening -> evening.size() == 1
                        || evening.stream()
                                        .map(EveningPlan.Task::time)
                                        .reduce(Duration.ZERO, Duration::plus)
                                        .compareTo(EveningPlan.USUAL)
                                <= 0);
    }
}
