// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import exordium.core.inspection.InstalledSystem;
import exordium.core.storage.media.Supply;
import exordium.core.testing.Benches;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Leave or update, and to what; the rules are common practice, no source, but for what the releases' dates say. */
class FirmwareAdviceTest {
    private static final FirmwareCatalogue CATALOGUE = FirmwareCatalogue.shipped();
    private static final Supply FULL = new Supply(5, 5, "adapter");

    private static FirmwareAdvice.Facts facts(Set<StartSource> wanted, String... seen) {
        return new FirmwareAdvice.Facts(
                FULL, false, wanted, List.of(seen), Optional.empty(), Optional.empty(), Optional.empty());
    }

    private static FirmwareAdvice advice(String release, Channel channel, FirmwareAdvice.Facts facts) {
        return FirmwareAdvice.of(
                Benches.profile("plover-5"),
                FirmwareChip.running(LocalDate.parse(release), ""),
                channel,
                CATALOGUE,
                facts);
    }

    @Test
    void theNewestOfTheChannelIsLeft() {
        FirmwareAdvice advice = advice("2026-09-02", Channel.DEFAULT, facts(Set.of()));
        assertThat(advice.verdict()).isEqualTo(FirmwareAdvice.Verdict.LEAVE);
        assertThat(advice.gates()).isEmpty();
        assertThat(advice.reasons()).extracting(Finding::code).containsExactly("firmware-leave", "why-not-beta");
    }

    @Test
    void aFewWeeksAreNoReason() {
        FirmwareAdvice advice = advice("2026-06-18", Channel.DEFAULT, facts(Set.of()));
        assertThat(advice.verdict()).isEqualTo(FirmwareAdvice.Verdict.LEAVE);
        assertThat(advice.reasons().get(0).text()).contains("brings nothing this board needs");
        assertThat(advice("2025-06-03", Channel.DEFAULT, facts(Set.of())).to())
                .map(FirmwareRelease::version)
                .contains(LocalDate.parse("2026-09-02"));
    }

    @Test
    void aDriveThatNeedsALaterReleaseDecides() {
        FirmwareAdvice advice = advice("2025-01-15", Channel.DEFAULT, facts(Set.of(StartSource.NVME)));
        assertThat(advice.verdict()).isEqualTo(FirmwareAdvice.Verdict.UPDATE);
        assertThat(advice.reasons().get(0).code()).isEqualTo("firmware-needed");
        assertThat(advice.reasons().get(0).text()).contains("2025-03-10");
    }

    @Test
    void aDefectThatWasSeenDecidesEvenIfTheReleaseIsYoung() {
        FirmwareAdvice advice = advice(
                "2026-06-18", Channel.DEFAULT, facts(Set.of(), "hangs at the start since the NVMe carrier is in"));
        assertThat(advice.verdict()).isEqualTo(FirmwareAdvice.Verdict.UPDATE);
        assertThat(advice.to()).map(FirmwareRelease::version).contains(LocalDate.parse("2026-09-02"));
        assertThat(advice.reasons().get(0).code()).isEqualTo("firmware-mends");
    }

    @Test
    void theGatesComeInTheOrderOfACarefulPerson() {
        FirmwareAdvice.Facts facts = new FirmwareAdvice.Facts(
                new Supply(5, 3, "adapter"),
                true,
                Set.of(StartSource.NVME),
                List.of(),
                Optional.of(LocalDate.parse("2026-03-01")),
                Optional.of(LocalDate.parse("2026-04-01")),
                Optional.of(false));
        FirmwareAdvice advice = advice("2025-01-15", Channel.DEFAULT, facts);
        assertThat(advice.gates())
                .extracting(Gate::what)
                .containsExactly(
                        Gate.What.COPY, Gate.What.SUPPLY, Gate.What.OVERLAY, Gate.What.TOOL, Gate.What.RESTART);
        assertThat(advice.gates())
                .extracting(Gate::state)
                .containsExactly(Gate.State.OPEN, Gate.State.OPEN, Gate.State.OPEN, Gate.State.OPEN, Gate.State.THEN);
        assertThat(advice.mayGoOn()).isFalse();
        FirmwareAdvice well = advice(
                "2025-01-15",
                Channel.DEFAULT,
                new FirmwareAdvice.Facts(
                        FULL,
                        false,
                        Set.of(StartSource.NVME),
                        List.of(),
                        Optional.of(LocalDate.parse("2026-05-01")),
                        Optional.of(LocalDate.parse("2026-04-01")),
                        Optional.of(true)));
        assertThat(well.mayGoOn()).isTrue();
    }

    @Test
    void aReleaseNobodyToldIsFoundOutFirst() {
        FirmwareAdvice advice = FirmwareAdvice.of(
                Benches.profile("plover-5"),
                FirmwareChip.running(FirmwareChip.NOT_KNOWN, ""),
                Channel.DEFAULT,
                CATALOGUE,
                facts(Set.of()));
        assertThat(advice.verdict()).isEqualTo(FirmwareAdvice.Verdict.FIND_OUT);
        FirmwareAdvice dead = FirmwareAdvice.of(
                Benches.profile("plover-5"),
                FirmwareChip.running(FirmwareChip.NONE, ""),
                Channel.DEFAULT,
                CATALOGUE,
                facts(Set.of()));
        assertThat(dead.reasons().get(0).text()).contains("recovery card");
        assertThat(FirmwareAdvice.of(
                                Benches.profile("curlew-e"),
                                FirmwareChip.running(LocalDate.parse("2026-01-01"), ""),
                                Channel.DEFAULT,
                                CATALOGUE,
                                facts(Set.of()))
                        .verdict())
                .isEqualTo(FirmwareAdvice.Verdict.LEAVE);
    }

    @Test
    void anEqualSystemOnTheBoardsOwnStorageIsLeft() {
        InstalledSystem old = new InstalledSystem("marshlinux", "marshlinux", "2026.4");
        List<SystemAdvice.Image> images = List.of(
                new SystemAdvice.Image("marshlinux 2026.10", "marshlinux", "2026.10"),
                new SystemAdvice.Image("marshlinux 2025.11", "marshlinux", "2025.11"),
                new SystemAdvice.Image("fenix-lite 2027.1", "fenix-lite", "2027.1"));
        LocalDate today = LocalDate.parse("2026-11-26");
        List<Finding> newer =
                SystemAdvice.of(Benches.profile("curlew-e"), Optional.of(old), images, Optional.empty(), today);
        assertThat(newer).extracting(Finding::code).containsExactly("newer-image");
        assertThat(newer.get(0).text()).contains("5 to 10 minutes").contains("take the card out");
        InstalledSystem same = new InstalledSystem("marshlinux", "marshlinux", "2026.10");
        assertThat(SystemAdvice.of(Benches.profile("curlew-e"), Optional.of(same), images, Optional.empty(), today))
                .extracting(Finding::code)
                .containsExactly("same-system");
        assertThat(SystemAdvice.of(
                        Benches.profile("plover-4"),
                        Optional.of(same),
                        images,
                        Optional.of(LocalDate.parse("2026-01-05")),
                        today))
                .extracting(Finding::code)
                .containsExactly("packages-old");
    }
}
