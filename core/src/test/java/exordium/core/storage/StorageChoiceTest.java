// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import exordium.core.finding.Finding;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StorageChoiceTest {
    private static final MediaCatalogue MEDIA = MediaCatalogue.shipped(new ProfileReader());
    private static final List<StorageNeed.Socket> SOCKETS = List.of(
            new StorageNeed.Socket("card", "Card slot", List.of("sd"), Link.SD_SDR104),
            new StorageNeed.Socket("nvme", "NVMe on PCIe", List.of("nvme"), Link.PCIE2_X1),
            new StorageNeed.Socket("usb1", "USB 1", List.of("usb"), Link.USB_5G),
            new StorageNeed.Socket("usb2", "USB 2", List.of("usb"), Link.USB_2));

    private static StorageNeed need(long image, long daily, Supply supply) {
        return new StorageNeed(
                Optional.of(ByteSize.of(image)),
                ByteSize.ZERO,
                ByteSize.of(daily),
                supply,
                new Watts(9),
                ByteSize.ofGigabytes(15.5),
                SOCKETS);
    }

    private static MediumKind.Medium medium(String kind, double gigabytes) {
        return new MediumKind.Medium(
                kind,
                kind,
                MEDIA.kind(kind).orElseThrow(),
                ByteSize.ofGigabytes(gigabytes),
                Optional.empty(),
                ByteSize.ZERO);
    }

    private static final Supply STRONG = new Supply(5, 5, "adapter");

    /** Published ceilings, worked out again from the standards' own figures. */
    @Test
    void linkCeilingsFollowFromTheStandards() {
        // USB 2.0, 5.8.4: at most 13 bulk transactions of 512 bytes in a microframe of 125 us.
        assertThat(Link.USB_2.ceiling().bytesPerSecond()).isCloseTo(13 * 512 / 125e-6, within(1.0));
        // USB 3.2 gen 1 and PCIe 2.0: 5 GT/s with 8b/10b; PCIe 3.0: 8 GT/s with 128b/130b; SATA: 6 Gbit/s with 8b/10b.
        assertThat(Link.USB_5G.ceiling().bytesPerSecond()).isCloseTo(5e9 * 8 / 10 / 8, within(1.0));
        assertThat(Link.PCIE2_X1.ceiling().bytesPerSecond()).isCloseTo(5e9 * 8 / 10 / 8, within(1.0));
        assertThat(Link.PCIE3_X1.ceiling().bytesPerSecond()).isCloseTo(8e9 * 128 / 130 / 8, within(1e5));
        assertThat(Link.SATA_6G.ceiling().bytesPerSecond()).isCloseTo(6e9 * 8 / 10 / 8, within(1.0));
        // IEEE 802.3: 1460 bytes of TCP payload in 1538 on the wire.
        assertThat(Link.ETHERNET_1G.ceiling().bytesPerSecond()).isCloseTo(125e6 * 1460 / 1538, within(1e5));
        assertThat(Link.ETHERNET_100M.ceiling().bytesPerSecond()).isCloseTo(12.5e6 * 1460 / 1538, within(1e4));
        // SD Association, bus speed modes.
        assertThat(Link.SD_SDR104.ceiling().megabytesPerSecond()).isEqualTo(104);
        assertThat(Link.of("sd-default").ceiling().megabytesPerSecond()).isEqualTo(12.5);
    }

    /** Power at the device: IEEE 802.3af, at and bt. */
    @ParameterizedTest
    @CsvSource({"poe-af, 12.95", "poe-at, 25.5", "poe-bt, 51", "adapter, 15"})
    void suppliesGiveWhatTheirStandardSays(String via, double watts) {
        assertThat(new Supply(5, 3, via).power().value()).isEqualTo(watts);
    }

    @Test
    void threeFindingsWithNumbersForAMediumThatFits() {
        StorageAssessment each =
                StorageChoice.assess(need(3_000_000_000L, 1_000_000_000L, STRONG), medium("card-quick", 31.9));
        assertThat(each.fits()).isTrue();
        assertThat(each.findings())
                .extracting(Finding::code)
                .containsExactly("image-fits", "write-time", "supply-enough");
        assertThat(each.findings().get(0).text()).contains("3.00 GB of 31 900 000 000 B = 29.7 GiB");
        // 3 GB at 34 MB/s and back at 92 MB/s: 88.2 s + 32.6 s.
        assertThat(each.writeTime().orElseThrow().toSeconds()).isEqualTo(120);
        assertThat(each.findings().get(2).text()).contains("25.0 W").contains("leave 15.4 W");
    }

    @Test
    void twoCardsOfOneLabelAreNotTheSame() {
        // The trade's own trap: a source of 31.9 GB and a "32 GB" card of 31.3 GB.
        StorageAssessment each = StorageChoice.assess(need(31_900_000_000L, 0, STRONG), medium("card-quick", 31.3));
        assertThat(each.fits()).isFalse();
        assertThat(each.findings().get(0).code()).isEqualTo("image-too-large");
        assertThat(each.findings().get(0).text()).contains("600 MB too few");
    }

    @Test
    void aWeakSupplyStopsABusPoweredDrive() {
        StorageAssessment each =
                StorageChoice.assess(need(1_000_000_000L, 0, new Supply(5, 2.5, "adapter")), medium("ssd-sata", 240));
        assertThat(each.fits()).isFalse();
        assertThat(each.findings().get(0).code()).isEqualTo("supply-too-weak");
        assertThat(each.powerMargin().value()).isCloseTo(12.5 - 9 - 4.5, within(1e-9));
    }

    @Test
    void aSataDriveHasNoPlaceInAnNvmeCarrier() {
        StorageAssessment each = StorageChoice.assess(need(1_000_000_000L, 0, STRONG), medium("ssd-m2-sata", 240));
        assertThat(each.findings().get(0).code()).isEqualTo("no-socket");
    }

    @Test
    void theNarrowestLinkDecides() {
        StorageAssessment nvme = StorageChoice.assess(need(1_000_000_000L, 0, STRONG), medium("ssd-nvme", 256));
        assertThat(nvme.readChain().narrowest().title()).isEqualTo("PCIe 2.0 x1");
        assertThat(nvme.effectiveRead().megabytesPerSecond()).isEqualTo(500);
        StorageAssessment ssd = StorageChoice.assess(need(1_000_000_000L, 0, STRONG), medium("ssd-sata", 240));
        assertThat(ssd.socket().orElseThrow().port()).isEqualTo("usb1");
        assertThat(ssd.effectiveRead().megabytesPerSecond()).isEqualTo(500);
        // About five times a card, common practice, no source.
        StorageAssessment card = StorageChoice.assess(need(1_000_000_000L, 0, STRONG), medium("card-quick", 31.9));
        assertThat(nvme.effectiveRead().bytesPerSecond() / card.effectiveRead().bytesPerSecond())
                .isBetween(4.0, 7.0);
    }

    /** Years = rated writes left / (daily writes x 365); without a rating size x cycles / amplification. */
    @Test
    void yearsFollowTheFormula() {
        MediumKind.Medium rated = new MediumKind.Medium(
                "r",
                "r",
                MEDIA.kind("card-quick").orElseThrow(),
                ByteSize.ofGigabytes(32),
                Optional.of(ByteSize.parse("31TB")),
                ByteSize.parse("29.8TB"));
        assertThat(StorageChoice.years(need(1, 6_200_000_000L, STRONG), rated))
                .isCloseTo(1.2e12 / (6.2e9 * 365), within(1e-3));
        assertThat(StorageChoice.years(need(1, 20_000_000_000L, STRONG), medium("card-plain", 16)))
                .isCloseTo(16e9 * 500 / 2.5 / (20e9 * 365), within(1e-3));
        assertThat(StorageChoice.years(need(1, 0, STRONG), medium("card-plain", 16)))
                .isEqualTo(99);
    }

    @Test
    void aRecorderWearsAPlainCardOutAndTheFindingSaysWhen() {
        StorageAssessment each =
                StorageChoice.assess(need(1_000_000_000L, 20_000_000_000L, STRONG), medium("card-plain", 15.9));
        assertThat(each.findings()).extracting(Finding::code).contains("short-life");
        List<StorageAssessment> ranked =
                StorageChoice.rank(need(1_000_000_000L, 20_000_000_000L, STRONG), MEDIA.offered());
        assertThat(ranked.get(0).medium().id()).isEqualTo("nvme-256");
    }

    @Test
    void underTheHouseSizeIsACaution() {
        assertThat(StorageChoice.assess(need(1_000_000_000L, 0, STRONG), medium("card-quick", 8))
                        .findings())
                .extracting(Finding::code)
                .contains("below-house-size");
    }

    @Property(tries = 200)
    void moreWritesNeverLengthenLife(
            @ForAll @LongRange(min = 0, max = 1L << 40) long a, @ForAll @LongRange(min = 0, max = 1L << 40) long b) {
        double less = StorageChoice.years(need(1, Math.min(a, b), STRONG), medium("card-quick", 32));
        double more = StorageChoice.years(need(1, Math.max(a, b), STRONG), medium("card-quick", 32));
        assertThat(more).isLessThanOrEqualTo(less);
    }

    @Property(tries = 100)
    void theEffectiveRateNeverExceedsAnyLink(@ForAll @LongRange(min = 1_000_000, max = 5_000_000_000L) long rate) {
        LinkChain chain = LinkChain.of("m", new ByteRate(rate), List.of(Link.SATA_6G, Link.USB_5G));
        assertThat(chain.stages()).allMatch(stage -> chain.effective().compareTo(stage.ceiling()) <= 0);
    }
}
