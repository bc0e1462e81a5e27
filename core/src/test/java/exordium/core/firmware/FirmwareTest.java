// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FirmwareTest {
    private static final LocalDate OLD = LocalDate.parse("2025-06-03");
    private static final LocalDate NEW = LocalDate.parse("2026-09-02");
    private final FirmwareCatalogue catalogue = FirmwareCatalogue.shipped();

    private BoardProfile profile(String id) {
        try {
            return BoardProfiles.shipped().require(id);
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    private static List<String> codes(List<Finding> findings) {
        return findings.stream().map(Finding::code).toList();
    }

    @Test
    void whatIsStagedTakesEffectAtARestart() {
        FirmwareChip chip =
                FirmwareChip.running(OLD, "BOOT_ORDER=0xf41").stage(NEW).stage(new FirmwareConfig("BOOT_ORDER=0xf14"));
        assertThat(chip.running()).isEqualTo(OLD);
        FirmwareChip after = chip.restart();
        assertThat(after.running()).isEqualTo(NEW);
        assertThat(after.config().value("BOOT_ORDER")).contains("0xf14");
        assertThat(after.anythingStaged()).isFalse();
    }

    @Test
    void whatIsStagedIsLostWhenSwitchedOff() {
        FirmwareChip chip = FirmwareChip.running(OLD, "BOOT_ORDER=0xf41").stage(NEW);
        assertThat(chip.switchOff()).isEqualTo(FirmwareChip.running(OLD, "BOOT_ORDER=0xf41"));
    }

    @ParameterizedTest
    @CsvSource({"default, 2026-09-02", "latest, 2026-10-21", "beta, 2026-11-12"})
    void theNewestIsTheNewestInTheChannel(String channel, LocalDate version) {
        assertThat(catalogue
                        .newest("plover-5", Channel.of(channel))
                        .orElseThrow()
                        .version())
                .isEqualTo(version);
    }

    @Test
    void betaIsOnlyOfferedToBoardsItIsFor() {
        assertThat(catalogue.newest("plover-4", Channel.BETA).orElseThrow().version())
                .isEqualTo("2026-10-21");
        assertThat(catalogue.newest("curlew-e", Channel.BETA)).isEmpty();
    }

    @Test
    void aStatusSaysHowFarBehindInDays() {
        FirmwareStatus status = FirmwareStatus.of(
                profile("plover-4"), FirmwareChip.running(OLD, ""), true, Channel.DEFAULT, catalogue, false);
        assertThat(status.daysBehind()).isEqualTo(456);
        assertThat(codes(status.findings())).containsExactly("firmware-behind");
        assertThat(status.findings().get(0).text()).contains("2026-09-02").contains("456 days");
    }

    /** Of a family nobody knows a release of, nothing is the newest. */
    @Test
    void withoutAReleaseNobodySaysThatItRunsTheNewest() {
        FirmwareCatalogue none = new FirmwareCatalogue(catalogue.channels(), List.of());
        FirmwareStatus status = FirmwareStatus.of(
                profile("plover-4"), FirmwareChip.running(OLD, ""), true, Channel.DEFAULT, none, false);
        assertThat(codes(status.findings())).containsExactly("firmware-unknown");
        assertThat(status.findings().get(0).text()).doesNotContain("newest");
    }

    @Test
    void stagedAndBetaAndOverlayAreSaid() {
        FirmwareChip chip = FirmwareChip.running(NEW, "").stage(LocalDate.parse("2026-11-12"));
        List<String> codes = codes(FirmwareStatus.of(profile("plover-5"), chip, true, Channel.BETA, catalogue, true)
                .findings());
        assertThat(codes).contains("overlay-on", "staged-not-running", "beta-channel");
    }

    @Test
    void aPlanIsRefusedWithTheOverlayOnAndWhereThereIsNoChip() {
        FirmwareRelease release = catalogue.find("plover-4", NEW).orElseThrow();
        FirmwareChip chip = FirmwareChip.running(OLD, "");
        assertThat(Finding.anyStops(FirmwareStatus.plan(profile("plover-4"), chip, release, Channel.DEFAULT, true)))
                .isTrue();
        assertThat(Finding.anyStops(FirmwareStatus.plan(profile("plover-3"), chip, release, Channel.DEFAULT, false)))
                .isTrue();
        assertThat(codes(FirmwareStatus.plan(profile("plover-4"), chip, release, Channel.DEFAULT, false)))
                .containsExactly("restart-not-off", "release-notes");
    }

    @Test
    void aPlanCautionsAboutOlderReleasesAndOtherChannels() {
        FirmwareChip chip = FirmwareChip.running(NEW, "");
        FirmwareRelease older = catalogue.find("plover-5", OLD).orElseThrow();
        FirmwareRelease beta =
                catalogue.find("plover-5", LocalDate.parse("2026-11-12")).orElseThrow();
        assertThat(codes(FirmwareStatus.plan(profile("plover-5"), chip, older, Channel.DEFAULT, false)))
                .contains("older-release");
        assertThat(codes(FirmwareStatus.plan(profile("plover-5"), chip, beta, Channel.DEFAULT, false)))
                .contains("outside-channel");
    }

    @Test
    void settingsKeepTheirOrderAndTheLastOfAKeyCounts() {
        FirmwareConfig config = new FirmwareConfig("A=1\n\nBOOT_ORDER=0xf41\nBOOT_ORDER=0xf14\n");
        assertThat(config.value("BOOT_ORDER")).contains("0xf14");
        assertThat(config.with("A", "2").text()).isEqualTo("A=2\nBOOT_ORDER=0xf41\nBOOT_ORDER=0xf14");
        assertThat(config.with("PCIE_PROBE", "1").lines()).endsWith("PCIE_PROBE=1");
        assertThat(config.with("A", "2").linesNotIn(config)).containsExactly("A=2");
        assertThat(FirmwareConfig.EMPTY.value("A")).isEqualTo(Optional.empty());
    }
}
