// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import static exordium.core.testing.Benches.attached;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardWays;
import exordium.core.access.Known;
import exordium.core.board.BoardProfile;
import exordium.core.bootorder.OrderDialect;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareCatalogue;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareStatus;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.writing.Ending;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DaySheetTest {
    private static final LocalDate TODAY = LocalDate.parse("2026-11-24");

    @TempDir
    Path folder;

    private Trace running;
    private Optional<BoardFacts.MediumFacts> medium = medium(10, 0.1);
    private Optional<BoardFacts.Away> away = Optional.empty();
    private Optional<BoardFacts.LastWrite> write = write("verified");
    private List<Finding> firstStart = List.of();
    private FirmwareChip chip = FirmwareChip.running(LocalDate.parse("2026-09-02"), "BOOT_ORDER=0xf41");
    private String order = "0xf41";
    private Optional<String> staged = Optional.empty();
    private Optional<LocalDate> copy = Optional.of(TODAY.minusDays(12));
    private Optional<LocalDate> gone = Optional.empty();
    private Optional<String> vaultAway = Optional.empty();
    private Trace trace;
    private BoardFacts.Reached reached =
            new BoardFacts.Reached(BoardWays.byHand(), Optional.empty(), Optional.empty(), ZoneOffset.UTC);

    @BeforeEach
    void bench() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        running = Rehearsal.of(Benches.bench("plover-4", "0xf41", attached("plover-4", "card", "card-quick", disk)));
        trace = running;
    }

    private static Optional<BoardFacts.MediumFacts> medium(double usedGb, double worn) {
        return Optional.of(new BoardFacts.MediumFacts(
                "Tidewell 32",
                ByteSize.of(31_914_983_424L),
                ByteSize.ofGigabytes(usedGb),
                worn,
                Optional.of("marshlinux 2026.10"),
                Optional.of("2026.10"),
                Optional.empty()));
    }

    private static Optional<BoardFacts.LastWrite> write(String ending) {
        return Optional.of(
                new BoardFacts.LastWrite("marshlinux.img.xz", Coded.of(Ending.class, ending), TODAY.minusDays(40)));
    }

    private FirmwareCatalogue catalogue = FirmwareCatalogue.shipped();

    @Test
    void ofAFamilyWithoutReleasesTheFirmwareIsNotCalledTheNewest() {
        catalogue = new FirmwareCatalogue(catalogue.channels(), List.of());
        assertThat(cell(Step.FIRMWARE).pennant()).isEqualTo(Pennant.SET);
        assertThat(cell(Step.FIRMWARE).figure()).isNotEqualTo("newest");
    }

    private BoardFacts facts() {
        BoardProfile profile = Benches.profile("plover-4");
        FirmwareStatus status = FirmwareStatus.of(profile, chip, true, Channel.DEFAULT, catalogue, false);
        return new BoardFacts(
                "tide-clock",
                "Tide clock",
                "Hall",
                "plover-4",
                "4 GB",
                medium,
                away,
                write,
                new BoardFacts.FirstStartFacts(medium.isPresent(), true, false, true, firstStart),
                status,
                true,
                new BoardFacts.OrderFacts(OrderDialect.of(profile).decode(order), order, staged),
                trace,
                new BoardFacts.CopyFacts(copy, gone, vaultAway),
                CopyRule.USUAL.next(copy, false, TODAY),
                reached);
    }

    private Cell cell(Step step) {
        return DaySheet.of(List.of(facts())).board("tide-clock").cell(step);
    }

    private void expect(Step step, Pennant pennant, String figure) {
        assertThat(cell(step).pennant()).isEqualTo(pennant);
        assertThat(cell(step).figure()).isEqualTo(figure);
        assertThat(cell(step).reason()).isNotBlank();
    }

    @Test
    void whatWasToldNeverLooksLikeWhatWasReadAndWhatNobodyToldIsNotKnown() {
        Known told = Known.told(TODAY.minusDays(2).atStartOfDay().toInstant(ZoneOffset.UTC));
        Known usual = Known.byDefault(TODAY.minusDays(9).atStartOfDay().toInstant(ZoneOffset.UTC));
        reached = new BoardFacts.Reached(BoardWays.byHand(), Optional.of(told), Optional.of(usual), ZoneOffset.UTC);
        expect(Step.FIRMWARE, Pennant.SET, "newest");
        assertThat(cell(Step.FIRMWARE).reason()).endsWith("As told on " + TODAY.minusDays(2) + "; it was not read.");
        assertThat(cell(Step.FIRMWARE).state()).isEqualTo("set, not proven, as told");
        expect(Step.ORDER, Pennant.UNKNOWN, "not told");
        assertThat(cell(Step.ORDER).by()).isEqualTo(Known.By.DEFAULT);
        assertThat(cell(Step.REHEARSAL).pennant()).isEqualTo(Pennant.SET);
        reached = new BoardFacts.Reached(BoardWays.byHand(), Optional.of(told), Optional.of(told), ZoneOffset.UTC);
        assertThat(cell(Step.REHEARSAL).pennant()).isEqualTo(Pennant.PROVEN);
        chip = FirmwareChip.running(LocalDate.parse("2025-06-03"), "BOOT_ORDER=0xf41");
        assertThat(cell(Step.FIRMWARE).pennant()).isEqualTo(Pennant.DUE);
        assertThat(cell(Step.FIRMWARE).by()).isEqualTo(Known.By.TOLD);
    }

    @Test
    void aBoardOfWhichNothingIsKnownIsNotOneThatWouldStart() {
        assertThat(DaySheet.of(List.of()).starts()).isEqualTo("0 boards, nothing to look after yet");
        assertThat(DaySheet.of(List.of(facts())).starts()).isEqualTo("1 board, all would start");
        medium = Optional.empty();
        assertThat(DaySheet.of(List.of(facts(), facts())).starts())
                .isEqualTo("2 boards, nothing is known of a start yet");
    }

    @Test
    void whatIsKnownOfAMediumThatIsAwaySaysSinceWhen() {
        away = Optional.of(new BoardFacts.Away("Tidewell 32", Optional.of(TODAY.minusDays(3))));
        assertThat(cell(Step.REHEARSAL).pennant()).isEqualTo(Pennant.PROVEN);
        assertThat(cell(Step.REHEARSAL).reason()).endsWith("this is as it was read on " + TODAY.minusDays(3) + ".");
        assertThat(cell(Step.COPIES).reason()).doesNotContain("as it was read");
        away = Optional.of(new BoardFacts.Away("Tidewell 32", Optional.empty()));
        medium = Optional.empty();
        expect(Step.REHEARSAL, Pennant.UNKNOWN, "unread");
        expect(Step.STORAGE, Pennant.UNKNOWN, "unread");
        assertThat(cell(Step.IMAGE).reason()).contains("was never read here");
    }

    @Test
    void aCleanBoardIsProvenAllTheWayAndAsksForNothing() {
        DaySheet sheet = DaySheet.of(List.of(facts()));
        assertThat(sheet.board("tide-clock").worst()).isEqualTo(Pennant.PROVEN);
        assertThat(sheet.tasks()).isEmpty();
        assertThat(sheet.board("tide-clock").breaksAt()).isEmpty();
        expect(Step.STORAGE, Pennant.PROVEN, "29.7 GiB");
        expect(Step.IMAGE, Pennant.PROVEN, "2026.10");
        expect(Step.FIRST_START, Pennant.PROVEN, "login on");
        expect(Step.FIRMWARE, Pennant.PROVEN, "newest");
        expect(Step.ORDER, Pennant.PROVEN, "0xf41");
        expect(Step.REHEARSAL, Pennant.PROVEN, String.format(java.util.Locale.ROOT, "%.0f s", running.seconds()));
        expect(Step.COPIES, Pennant.PROVEN, "12 days");
    }

    @Test
    void wearAndFillAreSeenInTime() {
        medium = medium(10, 0.96);
        expect(Step.STORAGE, Pennant.FAILING, "worn 96 %");
        medium = medium(28, 0.1);
        expect(Step.STORAGE, Pennant.DUE, "29.7 GiB");
        assertThat(cell(Step.STORAGE).fill().orElseThrow()).isBetween(0.87, 0.88);
    }

    /** A write that did not end well is never shown as good. */
    @ParameterizedTest
    @CsvSource({
        "verified, PROVEN, 2026.10",
        "written, SET, 2026.10",
        "different, FAILING, different",
        "failed, FAILING, failed",
        "cancelled, FAILING, cancelled",
        "interrupted, FAILING, interrupted",
        "running, UNKNOWN, writing",
    })
    void theImageCellFollowsTheLastWrite(String ending, Pennant pennant, String figure) {
        write = write(ending);
        expect(Step.IMAGE, pennant, figure);
        assertThat(cell(Step.STORAGE).pennant() == Pennant.PROVEN).isEqualTo(ending.equals("verified"));
    }

    @Test
    void aSystemThatWasFoundButNeverWrittenHereIsOnlySet() {
        write = Optional.empty();
        expect(Step.IMAGE, Pennant.SET, "2026.10");
    }

    @Test
    void firstStartFindingsDecideItsCell() {
        firstStart = List.of(Finding.caution("root-by-place", "named by its place", Basis.practice()));
        expect(Step.FIRST_START, Pennant.DUE, "login on");
        firstStart = List.of(Finding.stop("crlf", "CR LF", Basis.practice()));
        expect(Step.FIRST_START, Pennant.FAILING, "broken");
    }

    @Test
    void firmwareIsDueAfterThreeMonths() {
        chip = FirmwareChip.running(LocalDate.parse("2025-06-03"), "");
        expect(Step.FIRMWARE, Pennant.DUE, "15 mo");
        chip = FirmwareChip.running(LocalDate.parse("2026-06-18"), "");
        expect(Step.FIRMWARE, Pennant.PROVEN, "2 mo");
        chip = chip.stage(LocalDate.parse("2026-09-02"));
        expect(Step.FIRMWARE, Pennant.SET, "staged");
    }

    @Test
    void anOrderThatReachesNothingFailsAndTheRehearsalIsNotCountedTwice() throws IOException {
        Bench lost = Benches.bench(
                "plover-4",
                "0xf2",
                attached("plover-4", "card", "card-quick", new DiskBuilder(folder).build("lost.img")));
        trace = Rehearsal.of(lost.withOrder("0xf4"));
        order = "0xf4";
        expect(Step.ORDER, Pennant.FAILING, "0xf4");
        expect(Step.REHEARSAL, Pennant.FAILING, "no source");
        DaySheet sheet = DaySheet.of(List.of(facts()));
        assertThat(sheet.tasks()).extracting(Task::title).containsExactly("Tide clock would not start");
        assertThat(sheet.wouldNotStart()).isEqualTo(1);
        assertThat(sheet.board("tide-clock").breaksAt()).contains(Step.ORDER);
    }

    @Test
    void aStagedOrderIsSetAndABrokenOneFails() {
        staged = Optional.of("0xf14");
        expect(Step.ORDER, Pennant.SET, "0xf14");
        order = "0xf4g";
        staged = Optional.empty();
        expect(Step.ORDER, Pennant.FAILING, "0xf4g");
    }

    @Test
    void copiesAreDueByTheRule() {
        copy = Optional.of(TODAY.minusDays(34));
        expect(Step.COPIES, Pennant.DUE, "34 days");
        copy = Optional.empty();
        expect(Step.COPIES, Pennant.DUE, "never");
        copy = Optional.of(TODAY.minusDays(1));
        expect(Step.COPIES, Pennant.PROVEN, "1 day");
        // What is on record and not in the vault is no copy.
        gone = Optional.of(TODAY);
        expect(Step.COPIES, Pennant.DUE, "1 day");
        assertThat(cell(Step.COPIES).reason())
                .contains("2026-11-24 is not in the vault")
                .contains("2026-11-23");
        copy = Optional.empty();
        expect(Step.COPIES, Pennant.FAILING, "gone");
        copy = gone;
        gone = Optional.empty();
        vaultAway = Optional.of("The vault is not there.");
        expect(Step.COPIES, Pennant.UNKNOWN, "away");
        copy = Optional.empty();
        expect(Step.COPIES, Pennant.DUE, "never");
    }

    @Test
    void anEmptyBoardIsUnknownWhereThereIsNothingToKnow() throws IOException {
        medium = Optional.empty();
        write = Optional.empty();
        trace = Rehearsal.of(Benches.bench("plover-4", "0xf41"));
        for (Step step : List.of(Step.STORAGE, Step.IMAGE, Step.FIRST_START, Step.REHEARSAL, Step.COPIES)) {
            assertThat(cell(step).pennant()).as(step.title()).isEqualTo(Pennant.UNKNOWN);
        }
        assertThat(DaySheet.of(List.of(facts())).tasks()).isEmpty();
    }

    @Test
    void tasksComeWorstFirst() {
        medium = medium(28, 0.1);
        chip = FirmwareChip.running(LocalDate.parse("2025-06-03"), "");
        write = write("different");
        copy = Optional.empty();
        DaySheet sheet = DaySheet.of(List.of(facts()));
        assertThat(sheet.tasks().get(0).step()).isEqualTo(Step.IMAGE);
        assertThat(sheet.tasks()).extracting(task -> task.pennant().weight()).isSortedAccordingTo((a, b) -> b - a);
        assertThat(sheet.tasks()).allSatisfy(task -> {
            assertThat(task.action()).isNotBlank();
            assertThat(task.reason()).isNotBlank();
        });
        assertThat(sheet.due()).isEqualTo(4);
        assertThatThrownBy(() -> sheet.board("nobody")).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void theRehearsalCellSaysWhereItStartsFrom() {
        assertThat(cell(Step.REHEARSAL).reason()).contains("card");
    }
}
