// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.copies.care.CopyAdvice;
import exordium.core.copies.care.EveningPlan;
import exordium.core.copies.care.QuietTimes;
import exordium.core.copies.schedule.CopyRisk;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Basis;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.WriteHabit;
import exordium.core.storage.media.Replacement;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When a copy comes: by risk, and at times a board may be off. By hand; the bounds: common practice, no source. */
class WhenTest {
    private static final LocalDate TODAY = LocalDate.parse("2026-11-27");

    private static Optional<Replacement> replacement(int daysLeft) {
        return daysLeft < 0
                ? Optional.empty()
                : Optional.of(new Replacement(TODAY.plusDays(daysLeft), daysLeft, "it is old.", Basis.practice()));
    }

    /** Days to replacement (-1: none known), worn, written in a day in GB, days that may be lost of records (0: no role). */
    @ParameterizedTest
    @CsvSource({
        "-1, 0,    0.2, 0,  30",
        "-1, 0,    9.9, 0,  30",
        "-1, 0,    10,  0,  15",
        "-1, 0.69, 0,   0,  30",
        "-1, 0.7,  0,   0,  15",
        "91, 0,    0,   0,  30",
        "90, 0,    0,   0,  15",
        "0,  0,    20,  0,  7",
        "-1, 0,    0,   10, 10",
        "-1, 0,    20,  3,  3",
        "-1, 0,    0,   60, 30"
    })
    void aRiskShortensTheHousesDays(int left, double worn, double gigabytes, int lost, int days) {
        Optional<Role> role = lost == 0
                ? Optional.empty()
                : Optional.of(Role.USUAL.withHabit(WriteHabit.SENSORS).withLostDays(lost));
        CopyRisk.Known known = new CopyRisk.Known(replacement(left), worn, ByteSize.ofGigabytes(gigabytes), role);
        Optional<LocalDate> last = Optional.of(TODAY.minusDays(1));
        CopyRule.Due due = CopyRule.USUAL.next(last, false, TODAY, known);
        assertThat(due.allowed()).isEqualTo(days);
        assertThat(due.date()).isEqualTo(TODAY.plusDays(days - 1));
        assertThat(due.reason()).contains(days == 30 ? "House rule 30 days" : "by risk");
        assertThat(new CopyRule(30, 90, false).next(last, false, TODAY, known).allowed())
                .isEqualTo(30);
    }

    @Test
    void aCopyIsOfferedBeforeAChangeUnlessThereIsOneOfToday() {
        assertThat(CopyAdvice.beforeChange(Optional.of(TODAY), TODAY, "firmware"))
                .isEmpty();
        assertThat(CopyAdvice.beforeChange(Optional.of(TODAY.minusDays(1)), TODAY, "firmware"))
                .hasValueSatisfying(
                        why -> assertThat(why).contains("2026-11-26").contains("before firmware"));
        assertThat(CopyAdvice.beforeChange(Optional.empty(), TODAY, "firmware")).isPresent();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "''|2026-11-27T03:00|true",
                "fri|2026-11-27T00:00|true",
                "fri|2026-11-28T00:00|false",
                "mon-thu, sat|2026-11-27T12:00|false",
                "sat-mon|2026-11-29T12:00|true",
                "daily 18:00-22:00|2026-11-27T18:00|true",
                "daily 18:00-22:00|2026-11-27T22:00|false",
                "thu 22:00-06:00|2026-11-27T05:59|true",
                "thu 22:00-06:00|2026-11-27T06:00|false",
                "fri 22:00-06:00|2026-11-27T05:59|false",
                "FRI  9:00-24:00|2026-11-27T23:59|true"
            })
    void aBoardIsOffOnlyWhenItMayBe(String text, String time, boolean may) throws Exception {
        assertThat(QuietTimes.parse(text).holds(LocalDateTime.parse(time))).isEqualTo(may);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"friday", "fri 25:00-26:00", "fri 10-12", "fri,", "mon-", "10:00-12:00", "fri 10:60-12:00"})
    void whatIsNoTimeIsRefusedWithItsWords(String text) {
        assertThatThrownBy(() -> QuietTimes.parse(text))
                .isInstanceOf(BadArgument.class)
                .hasMessageContaining("\"");
        assertThat(QuietTimes.kept(text)).isEqualTo(QuietTimes.ALWAYS);
    }

    /** Due on Friday the 27th, off on Mondays alone: the Monday after, since the one before is past; one in December comes a Monday early. */
    @Test
    void theEveningIsOneOnWhichTheBoardMayBeOff() throws Exception {
        QuietTimes mondays = QuietTimes.parse("mon 18:00-20:00");
        Map<String, LocalDate> days = EveningPlan.plan(
                List.of(
                        new EveningPlan.Task("desk", TODAY, Duration.ofMinutes(5), mondays),
                        new EveningPlan.Task("clock", LocalDate.parse("2026-12-16"), Duration.ofMinutes(5), mondays),
                        new EveningPlan.Task("tank", TODAY, Duration.ofMinutes(5), QuietTimes.ALWAYS)),
                TODAY,
                EveningPlan.USUAL);
        assertThat(days.get("desk")).isEqualTo("2026-11-30");
        assertThat(days.get("clock")).isEqualTo("2026-12-14");
        assertThat(days.get("tank")).isEqualTo(TODAY);
    }
}
