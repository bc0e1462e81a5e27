// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import exordium.core.finding.Finding;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.Endurance;
import exordium.core.storage.judgement.Reliability;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.RoleFindings;
import exordium.core.storage.judgement.Setting;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import exordium.core.storage.judgement.SystemKind;
import exordium.core.storage.judgement.WriteHabit;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import exordium.core.storage.media.Works;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class StorageChoiceTest {
    private static final MediaCatalogue MEDIA = MediaCatalogue.shipped();
    private static final List<Integer> ALL_LENGTHS = List.of(2230, 2242, 2280);
    private static final List<StorageNeed.Socket> SOCKETS = List.of(
            new StorageNeed.Socket("card", "Card slot", List.of("sd"), Link.SD_SDR104, List.of()),
            new StorageNeed.Socket("nvme", "NVMe on PCIe", List.of("nvme"), Link.PCIE2_X1, ALL_LENGTHS),
            new StorageNeed.Socket("usb1", "USB 1", List.of("usb"), Link.USB_5G, List.of()),
            new StorageNeed.Socket("usb2", "USB 2", List.of("usb"), Link.USB_5G, List.of()));

    private static StorageNeed need(long image, Role role, Supply supply) {
        return new StorageNeed(
                Optional.of(ByteSize.of(image)),
                role,
                supply,
                new StorageNeed.Host(new Watts(9), new Watts(8), 64, 8, 18),
                StorageRules.USUAL,
                SOCKETS);
    }

    private static Role writing(long daily) {
        return Role.USUAL.withDailyWrites(ByteSize.of(daily));
    }

    private static StorageChoice choice(long image, long daily, Supply supply) {
        return choice(need(image, writing(daily), supply));
    }

    private static StorageChoice choice(StorageNeed need) {
        return new StorageChoice(need, MEDIA.enclosures(), KnownDrives.NONE, "plover-5");
    }

    /** Common practice, no source: a stick that reads 300 MB/s is the quicker one beside a card of 50. */
    @Test
    void aQuickStickComesBeforeAUsualCard() {
        MediumKind.Medium stick = new MediumKind.Medium(
                "stick",
                "quick stick",
                MEDIA.kind("stick").orElseThrow(),
                ByteSize.ofGigabytes(64),
                Optional.empty(),
                ByteSize.ZERO,
                18,
                Optional.of(new ByteRate(300e6)),
                Optional.of(new ByteRate(200e6)),
                Optional.empty());
        MediumKind.Medium card = new MediumKind.Medium(
                "card",
                "usual card",
                MEDIA.kind("card-quick").orElseThrow(),
                ByteSize.ofGigabytes(64),
                Optional.empty(),
                ByteSize.ZERO,
                13);
        StorageChoice choice =
                choice(need(3_000_000_000L, Role.USUAL.withQuickStart(true), new Supply(5, 5, "adapter")));
        assertThat(choice.rank(List.of(card, stick)).get(0).medium().id()).isEqualTo("stick");
    }

    @Test
    void aDriveOnPcieIsPricedWithTheCarrierItNeeds() {
        List<StorageNeed.Socket> buying =
                SOCKETS.stream().map(each -> each.buyingCarrier(15)).toList();
        StorageNeed need = need(3_000_000_000L, Role.USUAL, new Supply(5, 5, "adapter"));
        StorageNeed without =
                new StorageNeed(need.image(), need.role(), need.supply(), need.host(), need.rules(), buying);
        MediumKind.Medium nvme = medium("ssd-nvme", 256);
        assertThat(choice(without).assess(nvme).price()
                        - choice(need).assess(nvme).price())
                .isEqualTo(15);
        MediumKind.Medium card = medium("card-quick", 64);
        assertThat(choice(without).assess(card).price())
                .isEqualTo(choice(need).assess(card).price());
    }

    /** A hypervisor is up after minutes. */
    @Test
    void aHypervisorsStartIsMinutes() {
        StorageNeed need =
                need(13_000_000_000L, Role.USUAL.withSystem(SystemKind.HYPERVISOR), new Supply(5, 5, "adapter"));
        assertThat(choice(need).assess(medium("ssd-nvme", 256)).startTime().toSeconds())
                .isGreaterThan(120);
    }

    /** What somebody else saw is a caution, what was seen here a stop; neither was looked at by the program. */
    @Test
    void whatIsSaidNotToWorkCountsByWhoSaysSo() {
        MediumKind.Medium nvme = medium("ssd-nvme", 256);
        StorageNeed need = need(3_000_000_000L, Role.USUAL, new Supply(5, 5, "adapter"));
        for (String by : List.of("", "Somebody")) {
            Works works = new Works(List.of(new Works.Entry(
                    Works.Kind.DRIVE,
                    nvme.name(),
                    "plover-5",
                    false,
                    Optional.empty(),
                    java.time.LocalDate.parse("2026-11-01"),
                    "",
                    by)));
            StorageAssessment judged =
                    new StorageChoice(need, MEDIA.enclosures(), KnownDrives.NONE.with(works), "plover-5").assess(nvme);
            assertThat(judged.fits()).isEqualTo(!by.isEmpty());
            assertThat(judged.findings()).anyMatch(each -> each.code().equals("known-bad"));
        }
    }

    /** A carrier that failed is a caution where a drive would stand on one, and nothing for a card: which one it will be is open. */
    @Test
    void carriersAreSaidOfDrivesThatStandOnOne() {
        Works works = Works.NONE;
        for (String name : List.of("Low hat", "LOW HAT", "High hat")) {
            works = works.with(new Works.Entry(
                    Works.Kind.CARRIER,
                    name,
                    "plover-5",
                    name.equals("High hat"),
                    Optional.empty(),
                    java.time.LocalDate.parse("2026-11-01"),
                    "",
                    ""));
        }
        StorageNeed need = need(3_000_000_000L, Role.USUAL, new Supply(5, 5, "adapter"));
        StorageChoice choice = new StorageChoice(need, MEDIA.enclosures(), KnownDrives.NONE.with(works), "plover-5");
        StorageAssessment nvme = choice.assess(medium("ssd-nvme", 256));
        assertThat(nvme.fits()).isTrue();
        assertThat(nvme.findings())
                .filteredOn(each -> each.code().equals("known-bad"))
                .singleElement()
                .matches(each -> each.text().contains("LOW HAT does not work"));
        assertThat(nvme.findings())
                .anyMatch(
                        each -> each.code().equals("known-good") && each.text().contains("High hat works"));
        assertThat(choice.assess(medium("card-quick", 64)).findings())
                .noneMatch(each -> each.code().startsWith("known-"));
    }

    private static MediumKind.Medium medium(String kind, double gigabytes) {
        return new MediumKind.Medium(
                kind,
                kind,
                MEDIA.kind(kind).orElseThrow(),
                ByteSize.ofGigabytes(gigabytes),
                Optional.empty(),
                ByteSize.ZERO,
                20);
    }

    private static final Supply STRONG = new Supply(5, 5, "adapter");

    @Test
    void threeFindingsWithNumbersForAMediumThatFits() {
        StorageAssessment each = choice(3_000_000_000L, 1_000_000_000L, STRONG).assess(medium("card-quick", 31.9));
        assertThat(each.fits()).isTrue();
        assertThat(each.findings())
                .extracting(Finding::code)
                .containsExactly("image-fits", "write-time", "supply-enough", "life-not-sure");
        assertThat(each.findings().get(0).text()).contains("3.00 GB of 31 900 000 000 B = 29.7 GiB");
        // 3 GB at 34 MB/s and back at 92 MB/s: 88.2 s + 32.6 s.
        assertThat(each.writeTime().orElseThrow().toSeconds()).isEqualTo(120);
        assertThat(each.findings().get(2).text()).contains("25.0 W").contains("leave 15.4 W");
    }

    @Test
    void twoCardsOfOneLabelAreNotTheSame() {
        // The trade's own trap: a source of 31.9 GB and a "32 GB" card of 31.3 GB.
        StorageAssessment each = choice(31_900_000_000L, 0, STRONG).assess(medium("card-quick", 31.3));
        assertThat(each.fits()).isFalse();
        assertThat(each.findings().get(0).code()).isEqualTo("image-too-large");
        assertThat(each.findings().get(0).text()).contains("600 MB too few");
    }

    @Test
    void aWeakSupplyStopsABusPoweredDrive() {
        StorageAssessment each =
                choice(1_000_000_000L, 0, new Supply(5, 2.5, "adapter")).assess(medium("ssd-sata", 240));
        assertThat(each.fits()).isFalse();
        assertThat(each.findings().get(0).code()).isEqualTo("supply-too-weak");
        assertThat(each.powerMargin().value()).isCloseTo(12.5 - 9 - 4.5, within(1e-9));
    }

    @Test
    void aSataDriveInAnNvmeCarrierIsSentToAnEnclosureOrRefused() {
        StorageAssessment boxed = choice(1_000_000_000L, 0, STRONG).assess(medium("ssd-m2-sata", 240));
        assertThat(boxed.enclosure().orElseThrow().id()).isEqualTo("usb-m2-sata");
        StorageNeed taken = need(1_000_000_000L, Role.USUAL.withPortsNeeded(2), STRONG);
        assertThat(choice(taken)
                        .assess(medium("ssd-m2-sata", 240))
                        .findings()
                        .get(0)
                        .code())
                .isEqualTo("wrong-protocol");
    }

    @Test
    void theNarrowestLinkDecides() {
        StorageAssessment nvme = choice(1_000_000_000L, 0, STRONG).assess(medium("ssd-nvme", 256));
        assertThat(nvme.readChain().narrowest().title()).isEqualTo("PCIe 2.0 x1");
        assertThat(nvme.effectiveRead().megabytesPerSecond()).isEqualTo(500);
        StorageAssessment ssd = choice(1_000_000_000L, 0, STRONG).assess(medium("ssd-sata", 240));
        assertThat(ssd.socket().orElseThrow().port()).isEqualTo("usb1");
        assertThat(ssd.effectiveRead().megabytesPerSecond()).isEqualTo(500);
        // About five times a card, common practice, no source.
        StorageAssessment card = choice(1_000_000_000L, 0, STRONG).assess(medium("card-quick", 31.9));
        assertThat(nvme.effectiveRead().bytesPerSecond() / card.effectiveRead().bytesPerSecond())
                .isBetween(4.0, 7.0);
        // About fifteen times at 4 KiB random, ten times the write cycles: common practice, no source.
        assertThat(nvme.randomRead().bytesPerSecond() / card.randomRead().bytesPerSecond())
                .isBetween(12.0, 18.0);
        assertThat((double) nvme.medium().kind().cycles() / card.medium().kind().cycles())
                .isBetween(8.0, 12.0);
        // Start-up only about 2 s sooner.
        assertThat(card.startTime().minus(nvme.startTime()).toMillis()).isBetween(1000L, 3000L);
    }

    /** Worked by hand in docs/handbook/endurance.md. */
    @Test
    void yearsFollowTheFormula() {
        MediumKind.Medium rated = new MediumKind.Medium(
                "r",
                "r",
                MEDIA.kind("card-quick").orElseThrow(),
                ByteSize.ofGigabytes(32),
                Optional.of(ByteSize.parse("31TB")),
                ByteSize.parse("29.8TB"),
                0);
        Endurance worn = Endurance.of(rated, ByteSize.parse("6.2GB"), 3);
        assertThat(worn.mean()).isCloseTo(1.2e12 / (6.2e9 * 3 * 365), within(1e-6));
        assertThat(worn.cautious()).isZero();
        Endurance plain = Endurance.of(medium("card-plain", 16), ByteSize.ofGigabytes(20), 1.5);
        assertThat(plain.mean()).isCloseTo(16e9 * 300 / (20e9 * 1.5 * 365), within(1e-6));
        assertThat(plain.cautious()).isCloseTo(0.6 * 16e9 * 300 / (20e9 * 3 * 365), within(1e-6));
        assertThat(Endurance.of(medium("card-plain", 16), ByteSize.ZERO, 3).mean())
                .isEqualTo(99);
    }

    @Test
    void aReadOnlySystemAndLogsInMemoryChangeWhatArrives() {
        Role logs = writing(1_000_000_000L);
        assertThat(logs.writesThatArrive().bytes()).isEqualTo(1_000_000_000L);
        assertThat(logs.withLogsInMemory(true).writesThatArrive().bytes()).isEqualTo(200_000_000L);
        assertThat(logs.withOverlay(true).writesThatArrive().bytes()).isZero();
        // What is written in a day is written in a day, however long that is.
        assertThat(logs.withHoursADay(6).writesThatArrive().bytes()).isEqualTo(1_000_000_000L);
    }

    @Test
    void aRecorderWearsAPlainCardOutAndTheFindingSaysWhen() {
        StorageAssessment each = choice(1_000_000_000L, 20_000_000_000L, STRONG).assess(medium("card-plain", 15.9));
        assertThat(each.findings()).extracting(Finding::code).contains("worn-out-soon");
        assertThat(each.fits()).isFalse();
    }

    @Test
    void everyFigureComesWithItsWorking() {
        StorageAssessment each = choice(3_000_000_000L, 1_000_000_000L, STRONG).assess(medium("card-quick", 31.9));
        assertThat(each.workings()).hasSize(8).allSatisfy(working -> {
            assertThat(working.formula()).isNotBlank();
            assertThat(working.inputs()).matches(".*\\d.*");
            assertThat(working.basis()).isNotBlank();
        });
        assertThat(each.parts())
                .extracting(StorageAssessment.MeritPart::name)
                .containsExactly("life", "speed", "price", "room", "reach", "ports", "power");
    }

    /** PCI Express 3.0: 8 GT/s, 128b/130b = 984.6 MB/s; random hardly changes, common practice, no source. */
    @Test
    void pcieBeyondItsRatingRaisesSequentialNotRandomAndIsSaid() {
        MediumKind.Medium quick = medium("ssd-nvme", 256);
        StorageNeed need = need(1_000_000_000L, Role.USUAL, STRONG);
        StorageAssessment rated = choice(need).assess(quick);
        StorageAssessment beyond = choice(need.with(new StorageRules(StorageNeed.leastOf(16), 3, Reliability.BY_ROLE)))
                .assess(quick);
        assertThat(beyond.effectiveRead().megabytesPerSecond()).isEqualTo(984.6);
        assertThat(beyond.randomRead()).isEqualTo(rated.randomRead());
        assertThat(beyond.findings()).extracting(Finding::code).contains("beyond-rating");
        assertThat(rated.findings()).extracting(Finding::code).doesNotContain("beyond-rating");
        assertThat(choice(need.with(new StorageRules(StorageNeed.leastOf(16), 3, Reliability.BY_ROLE)))
                        .assess(medium("card-quick", 31.9))
                        .effectiveRead())
                .isEqualTo(choice(need).assess(medium("card-quick", 31.9)).effectiveRead());
    }

    @Test
    void knownDrivesCountAndUnknownOnesAreALittleSurprise() {
        StorageNeed need = need(1_000_000_000L, Role.USUAL, STRONG);
        KnownDrives known = new KnownDrives(
                List.of(new KnownDrives.Known("ssd-nvme", "plover-5", false, "Not seen on three boards.")));
        StorageAssessment bad =
                new StorageChoice(need, MEDIA.enclosures(), known, "plover-5").assess(medium("ssd-nvme", 256));
        assertThat(bad.findings().get(0).code()).isEqualTo("known-bad");
        assertThat(choice(need).assess(medium("ssd-nvme", 256)).findings())
                .extracting(Finding::code)
                .contains("surprise-drive");
    }

    @Test
    void whatWouldHaveToChangeIsFound() {
        List<MediumKind.Medium> media = MEDIA.offered();
        StorageChoice choice = choice(1_000_000_000L, 300_000_000L, STRONG);
        WhatIf whatIf = new WhatIf(choice, media, STRONG, new Watts(8));
        assertThat(whatIf.wins(choice.rank(media).get(0).medium().id())).isEmpty();
        assertThat(whatIf.wins("nvme-256")).contains("It would come first if seconds at the start mattered.");
        assertThat(whatIf.wins("plain-8")).isEmpty();
    }

    @Test
    void underTheHouseSizeIsACaution() {
        assertThat(choice(1_000_000_000L, 0, STRONG)
                        .assess(medium("card-quick", 8))
                        .findings())
                .extracting(Finding::code)
                .contains("below-house-size");
    }

    @Property(tries = 200)
    void moreWritesNeverLengthenLife(
            @ForAll @LongRange(min = 0, max = 1L << 40) long a, @ForAll @LongRange(min = 0, max = 1L << 40) long b) {
        double less = Endurance.of(medium("card-quick", 32), ByteSize.of(Math.min(a, b)), 3)
                .mean();
        double more = Endurance.of(medium("card-quick", 32), ByteSize.of(Math.max(a, b)), 3)
                .mean();
        assertThat(more).isLessThanOrEqualTo(less);
    }

    @Property(tries = 100)
    void theEffectiveRateNeverExceedsAnyLink(@ForAll @LongRange(min = 1_000_000, max = 5_000_000_000L) long rate) {
        LinkChain chain = LinkChain.of("m", new ByteRate(rate), List.of(Link.SATA_6G, Link.USB_5G));
        assertThat(chain.stages()).allMatch(stage -> chain.effective().compareTo(stage.ceiling()) <= 0);
    }

    @Property(tries = 60)
    void moreBudgetNeverMakesTheBestWorse(
            @ForAll @IntRange(min = 1, max = 120) int a,
            @ForAll @IntRange(min = 1, max = 120) int b,
            @ForAll WriteHabit habit,
            @ForAll SystemKind system) {
        Role role = Role.USUAL.withHabit(habit).withSystem(system);
        double less = best(role.withBudget(Math.min(a, b)));
        double more = best(role.withBudget(Math.max(a, b)));
        assertThat(more).isGreaterThanOrEqualTo(less);
    }

    /** The what-ifs take two short ways: the first without an order, and ways to plug in kept from one need to the next. */
    @Property(tries = 100)
    void shortWaysComeToTheSame(
            @ForAll @IntRange(min = 0, max = 120) int budget,
            @ForAll @IntRange(min = 0, max = 2) int ports,
            @ForAll WriteHabit habit,
            @ForAll boolean quick) {
        Role role = Role.USUAL
                .withHabit(habit)
                .withBudget(budget)
                .withPortsNeeded(ports)
                .withQuickStart(quick);
        StorageNeed need = need(1_000_000_000L, role, STRONG);
        StorageChoice used = choice(1_000_000_000L, 300_000_000L, STRONG);
        used.rank(MEDIA.offered());
        StorageChoice changed = used.with(need);
        List<String> order = ids(choice(need).rank(MEDIA.offered()));
        assertThat(ids(changed.rank(MEDIA.offered()))).isEqualTo(order);
        List<StorageAssessment> assessed =
                MEDIA.offered().stream().map(changed::assess).toList();
        assertThat(StorageChoice.first(assessed).orElseThrow().medium().id()).isEqualTo(order.get(0));
    }

    private static List<String> ids(List<StorageAssessment> ranked) {
        return ranked.stream().map(each -> each.medium().id()).toList();
    }

    private static double best(Role role) {
        StorageAssessment first =
                choice(need(1_000_000_000L, role, STRONG)).rank(MEDIA.offered()).get(0);
        return first.fits() ? first.merit() : -1;
    }

    @Property(tries = 60)
    void noMediumIsQuickerThanItsNarrowestLink(@ForAll @IntRange(min = 0, max = 16) int at) {
        StorageAssessment each =
                choice(1_000_000_000L, 0, STRONG).assess(MEDIA.offered().get(at));
        assertThat(each.readChain().stages())
                .allMatch(stage -> each.effectiveRead().compareTo(stage.ceiling()) <= 0);
        assertThat(each.randomRead().compareTo(each.effectiveRead())).isLessThanOrEqualTo(0);
    }

    /** What is to be said of the role whatever the medium. */
    @Test
    void theRoleItselfIsJudged() {
        assertThat(RoleFindings.of(need(1, Role.USUAL.withPlace(Setting.ROOF), STRONG)))
                .extracting(Finding::code)
                .contains("roof", "reach-doubtful", "logs-in-memory");
        assertThat(RoleFindings.of(need(1, Role.USUAL.withHabit(WriteHabit.NEVER_CHANGES), STRONG)))
                .extracting(Finding::code)
                .contains("overlay-fits");
        assertThatThrownBy(() -> Role.USUAL.withYears(0)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Role.USUAL.withHoursADay(25)).isInstanceOf(IllegalArgumentException.class);
    }
}
