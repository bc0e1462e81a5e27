// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.copies.schedule.DrillRule;
import exordium.core.finding.Basis;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.Replacement;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which medium of the drawer comes next, and when a restore is tried; by hand. Common practice, no source. */
class SparesTest {
    private static final LocalDate DAY = LocalDate.parse("2026-11-27");
    private static final ByteSize EXTENT = ByteSize.ofGigabytes(16);

    private static Spares.Medium medium(String id, double gigabytes) {
        return new Spares.Medium(
                id,
                id,
                ByteSize.ofGigabytes(gigabytes),
                true,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                false);
    }

    private static Spares.Medium holding(String id, String board, String copied) {
        return new Spares.Medium(
                id,
                id,
                ByteSize.ofGigabytes(32),
                true,
                Optional.empty(),
                Optional.of(board),
                Optional.of(LocalDate.parse(copied)),
                true);
    }

    private static List<String> order(List<Spares.Medium> drawer) {
        return Spares.of("desk", EXTENT, drawer).stream()
                .filter(Spares.Verdict::usable)
                .map(each -> each.medium().id())
                .toList();
    }

    @Test
    void twoSparesTakeTurns() {
        assertThat(order(List.of(holding("a", "desk", "2026-10-01"), holding("b", "desk", "2026-09-01"))))
                .containsExactly("b", "a");
        assertThat(order(List.of(holding("a", "desk", "2026-10-01"), holding("b", "desk", "2026-11-01"))))
                .containsExactly("a", "b");
    }

    @Test
    void anEmptyOneComesAfterThemAndTheSmallestThatWillDoFirst() {
        assertThat(order(List.of(medium("large", 64), medium("small", 16), holding("a", "desk", "2026-10-01"))))
                .containsExactly("a", "small", "large");
    }

    @Test
    void whatWillNotDoSaysWhy() {
        Spares.Medium full = new Spares.Medium(
                "full",
                "full",
                ByteSize.ofGigabytes(32),
                true,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                true);
        Spares.Medium worn = new Spares.Medium(
                "worn",
                "worn",
                ByteSize.ofGigabytes(32),
                true,
                Optional.of(new Replacement(DAY, 0, "it failed three times.", Basis.practice())),
                Optional.empty(),
                Optional.empty(),
                false);
        Spares.Medium other = new Spares.Medium(
                "other",
                "other",
                ByteSize.ofGigabytes(32),
                false,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                false);
        List<Spares.Verdict> verdicts = Spares.of(
                "desk", EXTENT, List.of(full, worn, other, medium("tiny", 8), holding("a", "clock", "2026-10-01")));
        assertThat(verdicts).noneMatch(Spares.Verdict::usable);
        assertThat(verdicts)
                .extracting(each -> each.medium().id() + ": " + each.why())
                .containsExactlyInAnyOrder(
                        "full: it holds something else",
                        "worn: it is to be replaced: it failed three times.",
                        "other: it does not go into the place of the board's medium",
                        "tiny: it is 8.00 GB too small",
                        "a: it is a spare of clock");
    }

    /** Tried on, copied on, next try; nothing without a copy. A copy made in time does not put the first try off. */
    @ParameterizedTest
    @CsvSource({
        "'',                    '',                    ",
        "'',                    2026-11-01,            2026-12-01",
        "'',                    2026-12-01 2026-11-01, 2026-12-01",
        "2026-02-28,            2026-11-01,            2027-02-28",
        "2024-02-29 2023-01-01, 2026-11-01,            2025-02-28",
        "2026-02-28,            '',                    "
    })
    void aRestoreIsTriedOnceAYear(String tried, String copied, LocalDate expected) {
        assertThat(DrillRule.next(days(tried), days(copied))).isEqualTo(Optional.ofNullable(expected));
    }

    private static List<LocalDate> days(String words) {
        return Arrays.stream(words.split(" "))
                .filter(each -> !each.isEmpty())
                .map(LocalDate::parse)
                .toList();
    }
}
