// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What links, supplies, marks and kinds of media are by their standards, and the catalogue they stand in. */
class MediaFactsTest {
    private static final MediaCatalogue MEDIA = MediaCatalogue.shipped();
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

    /** Over Ethernet the line has 48 to 57 V (from memory) before its splitter; an adapter's volts are the board's. */
    @ParameterizedTest
    @CsvSource({
        "5, adapter, true",
        "12, adapter, false",
        "48, adapter, false",
        "0, adapter, false",
        "5, poe-at, true",
        "0, poe-at, true",
        "48, poe-at, true",
        "57, poe-bt, true",
        "12, poe-at, false",
        "60, poe-af, false",
    })
    void othersVoltsDoNotFeedABoard(double volts, String via, boolean feeds) {
        Supply supply = new Supply(volts, 3, via);
        if (feeds) {
            assertThatCode(() -> supply.requireFor("plover-5", STRONG)).doesNotThrowAnyException();
        } else {
            assertThatThrownBy(() -> supply.requireFor("plover-5", STRONG))
                    .isInstanceOf(UnreadableInput.class)
                    .hasMessageContaining("would destroy it");
        }
    }

    /** Power at the device: IEEE 802.3af, at and bt. */
    @ParameterizedTest
    @CsvSource({"poe-af, 12.95", "poe-at, 25.5", "poe-bt, 51", "adapter, 15"})
    void suppliesGiveWhatTheirStandardSays(String via, double watts) {
        double amps = via.equals("adapter") ? 3 : 12;
        assertThat(new Supply(5, amps, via).power().value()).isEqualTo(watts);
        // A splitter gives what it is made for, however much its class allows.
        assertThat(new Supply(5, 2.5, via).power().value()).isEqualTo(12.5);
    }

    /** The code is width and length in mm (PCI Express M.2 specification, from memory). */
    @ParameterizedTest
    @CsvSource({"ssd-nvme, 2280, 80", "ssd-nvme-short, 2242, 42", "ssd-m2-sata, 2280, 80"})
    void m2CodesSayTheirLength(String kind, int code, int millimetres) {
        MediumKind.M2 m2 = MEDIA.kind(kind).orElseThrow().m2().orElseThrow();
        assertThat(m2.length()).isEqualTo(code);
        assertThat(m2.millimetres()).isEqualTo(millimetres);
    }

    /** SD Association: speed classes C, U and V are MB/s of sequential writing; A1 and A2 are random operations a second. */
    @ParameterizedTest
    @CsvSource({
        "C2, 2", "C4, 4", "C6, 6", "C10, 10", "U1, 10", "U3, 30", "V6, 6", "V10, 10", "V30, 30", "V60, 60", "V90, 90"
    })
    void marksPromiseTheirLeastRate(String mark, double megabytes) throws UnreadableInput {
        assertThat(SdMark.of(mark).sequentialWrite().orElseThrow().megabytesPerSecond())
                .isEqualTo(megabytes);
    }

    @Test
    void applicationMarksPromiseOperations() throws UnreadableInput {
        assertThat(SdMark.of("A1").readIops()).contains(1500.0);
        assertThat(SdMark.of("A1").writeIops()).contains(500.0);
        assertThat(SdMark.of("A2").readIops()).contains(4000.0);
        assertThat(SdMark.of("A2").writeIops()).contains(2000.0);
        assertThatThrownBy(() -> SdMark.of("Z9"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("Z9");
    }

    /** A kind of card is never shipped with usual figures under what its own marks promise. */
    @Test
    void noKindIsBelowItsMarks() throws UnreadableInput {
        for (MediumKind kind : MEDIA.kinds()) {
            for (String mark : kind.marks().orElse(List.of())) {
                SdMark promise = SdMark.of(mark);
                promise.sequentialWrite().ifPresent(rate -> assertThat(kind.writeRate())
                        .as(kind.id() + mark)
                        .isGreaterThanOrEqualTo(rate));
                promise.readIops()
                        .ifPresent(iops ->
                                assertThat(kind.readIops()).as(kind.id() + mark).isGreaterThanOrEqualTo(iops));
            }
        }
    }

    /** The trade's own trap: 31.9 GB whose data end at 12 GB go on a 31.3 GB card with the same label. */
    @Test
    void copyingOnLooksAtTheLastPartitionNotTheLabel() {
        ByteSize source = ByteSize.parse("31.9GB");
        ByteSize target = ByteSize.parse("31.3GB");
        Finding small = CopyOn.check("A", source, ByteSize.parse("12GB"), ByteSize.parse("6GB"), "B", target);
        assertThat(small.code()).isEqualTo("copy-on-fits");
        assertThat(small.text()).contains("12 000 000 000 B").contains("smaller");
        Finding full = CopyOn.check("A", source, source, ByteSize.parse("6GB"), "B", target);
        assertThat(full.stops()).isTrue();
        assertThat(full.text()).contains("600 MB too few").contains("Only 6.00 GB are used");
    }

    @Test
    void ownersKeepACatalogueOfTheirOwn(@TempDir Path folder) throws IOException {
        ProfileReader reader = new ProfileReader();
        assertThat(MEDIA.withFolder(reader, folder.resolve("none"))).isEqualTo(MEDIA);
        Files.writeString(
                folder.resolve("mine.yaml"),
                "kinds: []\nenclosures: []\noffers:\n  - {id: quick-32, name: market card, kind: card-quick, size: 31.9 GB, price: 3}\n");
        MediaCatalogue own = MEDIA.withFolder(reader, folder);
        assertThat(own.offers()).hasSameSizeAs(MEDIA.offers());
        assertThat(own.offered())
                .filteredOn(each -> each.id().equals("quick-32"))
                .extracting(MediumKind.Medium::price)
                .containsExactly(3.0);
        Files.writeString(
                folder.resolve("mine.yaml"),
                "kinds: []\nenclosures: []\noffers:\n  - {id: x, name: x, kind: wax, size: 1 GB, price: 3}\n");
        assertThatThrownBy(() -> MEDIA.withFolder(reader, folder))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("wax");
        Files.writeString(
                folder.resolve("zinc.yaml"),
                "kinds:\n  - {id: wax, also: [], title: wax disc, form: card, bus: sd, adapters: [], readRate: 1.0e6,"
                        + " writeRate: 1.0e6, readIops: 1, writeIops: 1, cycles: 3, watts: 1}\n"
                        + "enclosures: []\noffers: []\n");
        assertThat(MEDIA.withFolder(reader, folder).offered())
                .as("a kind told in a later file")
                .anyMatch(each -> each.kind().id().equals("wax"));
        Files.writeString(folder.resolve("mine.yaml"), "offers: 7\n");
        assertThatThrownBy(() -> MEDIA.withFolder(reader, folder))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("mine.yaml");
    }
}
