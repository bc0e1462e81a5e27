// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.StartSource;
import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.daysheet.Flags;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Step;
import exordium.core.firststart.SetUpAt;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.Reliability;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.RoleFindings;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import exordium.core.storage.judgement.WriteHabit;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.Supply;
import exordium.core.storage.plan.StorageChoice;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** House rules where practitioners differ: each has to change something. Common practice, no source. */
class HouseRulesTest {
    private static final MediaCatalogue MEDIA = MediaCatalogue.shipped();
    private static final LocalDate DAY = LocalDate.of(2026, 3, 1);

    private static StorageNeed need(Role role, Reliability reliability) {
        return new StorageNeed(
                Optional.empty(),
                role,
                new Supply(5, 3, "adapter"),
                new StorageNeed.Host(new Watts(5), new Watts(6), 64, 4, 20),
                new StorageRules(StorageNeed.leastOf(16), 2, reliability),
                List.of(
                        new StorageNeed.Socket("card", "Card slot", List.of("sd"), Link.SD_SDR104, List.of()),
                        new StorageNeed.Socket("usb1", "USB 1", List.of("usb"), Link.USB_5G, List.of())));
    }

    private static StorageAssessment best(Role role, Reliability reliability) {
        return new StorageChoice(need(role, reliability), MEDIA.enclosures(), KnownDrives.NONE, "plover-4")
                .rank(MEDIA.offered())
                .get(0);
    }

    /** A small gadget is served by a card; a house that trusts only lasting drives puts an SSD even there. */
    @Test
    void reliabilityByAnSsdChangesWhatWins() {
        Role gadget = Role.USUAL.withHabit(WriteHabit.LOGS);
        assertThat(best(gadget, Reliability.BY_ROLE).medium().kind().bus()).isEqualTo("sd");
        assertThat(best(gadget, Reliability.SSD).medium().kind().lasting()).isTrue();
        StorageAssessment card = new StorageChoice(
                        need(gadget, Reliability.SSD), MEDIA.enclosures(), KnownDrives.NONE, "plover-4")
                .rank(MEDIA.offered()).stream()
                        .filter(each -> each.medium().kind().bus().equals("sd"))
                        .findFirst()
                        .orElseThrow();
        assertThat(card.findings()).extracting(Finding::code).contains("house-wants-lasting");
        assertThat(Flags.of(card)).isEqualTo(Pennant.DUE);
    }

    @Test
    void reliabilityByCopiesMakesTheCheapOneWin() {
        Role recorder = Role.USUAL.withHabit(WriteHabit.SENSORS);
        StorageAssessment byRole = best(recorder, Reliability.BY_ROLE);
        StorageAssessment byCopies = best(recorder, Reliability.COPIES);
        assertThat(byCopies.price()).isLessThan(byRole.price());
        assertThat(RoleFindings.of(need(recorder, Reliability.COPIES)))
                .extracting(Finding::code)
                .contains("house-copies");
    }

    @ParameterizedTest
    @CsvSource({"NEVER_CHANGES, house-read-only", "SENSORS, house-read-only-not-here"})
    void reliabilityByReadOnlyAsksForTheOverlayWhereNothingIsRecorded(WriteHabit habit, String code) {
        Role role = Role.USUAL.withHabit(habit).withOverlay(false);
        assertThat(RoleFindings.of(need(role, Reliability.READ_ONLY)))
                .extracting(Finding::code)
                .contains(code);
        assertThat(RoleFindings.of(need(role, Reliability.BY_ROLE)))
                .extracting(Finding::code)
                .doesNotContain(code);
        assertThat(RoleFindings.of(need(role.withOverlay(true), Reliability.READ_ONLY)))
                .extracting(Finding::code)
                .doesNotContain(code);
    }

    /** Under the smallest card of the house a card is doubtful, at it none is. */
    @Test
    void theSmallestCardIsTheHouses() {
        StorageNeed strict = need(Role.USUAL, Reliability.BY_ROLE)
                .with(new StorageRules(StorageNeed.leastOf(32), 2, Reliability.BY_ROLE));
        StorageChoice choice = new StorageChoice(strict, MEDIA.enclosures(), KnownDrives.NONE, "plover-4");
        assertThat(choice.rank(MEDIA.offered()))
                .filteredOn(each -> each.medium().kind().bus().equals("sd"))
                .allSatisfy(each -> assertThat(
                                each.findings().stream().anyMatch(f -> f.code().equals("below-house-size")))
                        .isEqualTo(each.medium().size().compareTo(ByteSize.ofGigabytes(31)) < 0));
    }

    /** Domain practice: card first while the slot can be reached; a shut-in card is no rescue. */
    @Test
    void whatIsTriedFirstFollowsTheRuleAndTheSlot() {
        List<StartSource> driveFirst = List.of(StartSource.NVME, StartSource.CARD, StartSource.RESTART);
        List<StartSource> cardFirst = List.of(StartSource.CARD, StartSource.NVME, StartSource.RESTART);
        assertThat(FirstTried.CARD.arranged(driveFirst, true)).contains(cardFirst);
        assertThat(FirstTried.CARD.arranged(cardFirst, true)).isEmpty();
        assertThat(FirstTried.CARD.arranged(cardFirst, false)).contains(driveFirst);
        assertThat(FirstTried.DRIVE.arranged(cardFirst, true)).contains(driveFirst);
        assertThat(FirstTried.CARD.arranged(List.of(StartSource.CARD), true)).isEmpty();
        Finding against = FirstTried.CARD.judge(driveFirst, true);
        assertThat(against.text()).contains("NVMe on PCIe first").contains("the house would try Card slot");
        assertThat(against.remedy()).contains(Step.ORDER);
        assertThat(FirstTried.CARD.judge(cardFirst, false).text()).contains("shut in");
        assertThat(FirstTried.DRIVE.judge(driveFirst, true).text()).contains("keeps to that");
    }

    @Test
    void theWayBackSaysWhatIsLostAndWhatIsMissing() {
        assertThat(WayBack.COPY.finding(Optional.of(DAY)).text()).contains("2026-03-01");
        assertThat(WayBack.COPY.finding(Optional.empty()).severity()).isEqualTo(Severity.CAUTION);
        assertThat(WayBack.IMAGE.finding(Optional.empty()).severity()).isEqualTo(Severity.NOTE);
    }

    @Test
    void settingsAreMadeWhereTheHouseMakesThem() {
        assertThat(SetUpAt.WRITING.next().remedy()).contains(Step.FIRST_START);
        assertThat(SetUpAt.BOARD.next().text()).contains("monitor");
    }

    @ParameterizedTest
    @CsvSource({
        "1.0, false, true, FAILING",
        "0.85, false, true, DUE",
        "0.1, true, true, DUE",
        "0.1, false, true, PROVEN",
        "0.1, false, false, SET"
    })
    void aMediumsPennant(double worn, boolean blemished, boolean measured, Pennant pennant) {
        assertThat(Flags.ofMedium(worn, blemished, measured)).isEqualTo(pennant);
    }

    /** Sentences are written only of what is looked at; the order must not depend on whether they were. */
    @Test
    void theOrderIsTheSameWhetherSentencesWereReadOrNot() {
        StorageChoice choice = new StorageChoice(
                need(Role.USUAL, Reliability.BY_ROLE), MEDIA.enclosures(), KnownDrives.NONE, "plover-4");
        List<String> unread =
                choice.rank(MEDIA.offered()).stream().map(e -> e.medium().id()).toList();
        List<StorageAssessment> read = choice.rank(MEDIA.offered());
        read.forEach(each -> assertThat(each.findings()).isNotEmpty());
        read.forEach(each -> assertThat(each.verdict()).isNotBlank());
        assertThat(read).extracting(e -> e.medium().id()).isEqualTo(unread);
        assertThat(read).allSatisfy(each -> assertThat(Finding.anyStops(each.findings()))
                .isEqualTo(!each.fits()));
    }
}
