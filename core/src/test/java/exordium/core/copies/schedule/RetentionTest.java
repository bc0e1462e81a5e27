// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.quantity.ByteSize;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which copies stay, against tables worked out by hand; and the room that comes of it. */
class RetentionTest {
    /** A day, with a star behind it for one made before a change. */
    private static Retention.Kept<String> copy(String word) {
        LocalDate day = LocalDate.parse(word.replace("*", ""));
        return new Retention.Kept<>(
                word,
                day.atTime(9, 0).toInstant(ZoneOffset.UTC),
                word.endsWith("*") ? Optional.of("firmware") : Optional.empty());
    }

    /** last/months/years/changes; the copies; those that stay, newest first. All worked out by hand with a calendar. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "1/0/0/0|2026-01-01 2026-02-01|2026-02-01",
                "1/0/0/0|2026-01-01|2026-01-01",
                "2/0/0/0|2026-01-01 2026-02-01 2026-03-01|2026-03-01 2026-02-01",
                "1/3/0/0|2026-01-05 2026-01-25 2026-02-03 2026-02-27 2026-03-01|2026-03-01 2026-02-27 2026-01-25",
                "1/2/0/0|2026-01-05 2026-01-25 2026-02-03 2026-02-27 2026-03-01|2026-03-01 2026-02-27",
                "1/0/2/0|2024-06-01 2025-03-01 2025-11-30 2026-01-02 2026-05-01|2026-05-01 2025-11-30",
                "1/0/3/0|2024-06-01 2025-03-01 2025-11-30 2026-01-02 2026-05-01|2026-05-01 2025-11-30 2024-06-01",
                "1/0/0/1|2026-01-01* 2026-02-01* 2026-03-01 2026-04-01|2026-04-01 2026-02-01*",
                "1/0/0/2|2026-01-01* 2026-02-01* 2026-03-01 2026-04-01|2026-04-01 2026-02-01* 2026-01-01*",
                "2/2/1/1|2025-12-31 2026-01-15 2026-01-31* 2026-02-10 2026-02-28 2026-03-01|2026-03-01 2026-02-28 2026-01-31*",
                "3/6/2/3|2025-01-10 2025-12-20 2026-03-01 2026-04-01 2026-05-01 2026-06-01 2026-07-01 2026-08-01 2026-09-01"
                        + "|2026-09-01 2026-08-01 2026-07-01 2026-06-01 2026-05-01 2026-04-01 2025-12-20"
            })
    void theRuleKeepsWhatItSays(String rule, String copies, String stay) {
        int[] counts =
                Arrays.stream(rule.split("/")).mapToInt(Integer::parseInt).toArray();
        Retention retention = new Retention(counts[0], counts[1], counts[2], counts[3]);
        List<Retention.Verdict<String>> verdicts = retention.of(
                Arrays.stream(copies.split(" ")).map(RetentionTest::copy).toList(), ZoneOffset.UTC);
        assertThat(verdicts.stream().filter(Retention.Verdict::stays).map(Retention.Verdict::copy))
                .containsExactly(stay.split(" "));
        assertThat(verdicts).allMatch(each -> !each.why().isEmpty());
    }

    /** By hand: 30 days apart with one kept, the room never grows; with three, it grows twice and then stays. */
    @Test
    void theRoomAheadFollowsTheRule() {
        LocalDate today = LocalDate.parse("2026-01-01");
        List<VaultForecast.Generation> present = List.of(new VaultForecast.Generation(
                Instant.parse("2026-01-01T08:00:00Z"), Optional.empty(), ByteSize.of(100), ByteSize.of(100)));
        ByteSize room = ByteSize.of(1100);
        List<VaultForecast.Point> one =
                VaultForecast.of(present, room, today, today.plusDays(30), 30, new Retention(1, 0, 0, 0));
        assertThat(one).hasSize(13).allMatch(point -> point.room().bytes() == 1100 && point.copies() == 1);
        List<VaultForecast.Point> three =
                VaultForecast.of(present, room, today, today.plusDays(30), 30, new Retention(3, 0, 0, 0));
        assertThat(three.stream().map(point -> point.room().bytes()).limit(4))
                .containsExactly(1100L, 1200L, 1300L, 1300L);
    }

    /** Days of copies in November, days each covers, the gaps up to the 30th (first day to the day after the last); by hand. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "|10|1-30",
                "1|40|",
                "1|10|12-30",
                "1 5|10|16-30",
                "1 20|10|12-20",
                "3 20 21|5|9-20 27-30",
                "1 2|0|3-30"
            })
    void daysWithoutACopyAreGaps(String copies, int allowed, String gaps) {
        List<LocalDate> days = copies == null
                ? List.of()
                : Arrays.stream(copies.split(" "))
                        .map(day -> LocalDate.of(2026, 11, Integer.parseInt(day)))
                        .toList();
        assertThat(CopyRule.gaps(days, allowed, LocalDate.of(2026, 11, 1), LocalDate.of(2026, 11, 30)).stream()
                        .map(gap ->
                                gap.from().getDayOfMonth() + "-" + gap.until().getDayOfMonth()))
                .containsExactly(gaps == null ? new String[0] : gaps.split(" "));
    }
}
