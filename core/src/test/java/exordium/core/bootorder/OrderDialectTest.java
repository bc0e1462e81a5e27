// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfiles;
import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import java.util.Arrays;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class OrderDialectTest {
    private static final BoardProfiles PROFILES = BoardProfiles.shipped();

    private static OrderDialect dialect(String profile) {
        try {
            return OrderDialect.of(PROFILES.require(profile));
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    private static List<StartSource> sources(String codes) {
        return Arrays.stream(codes.split(" ")).map(StartSource::of).toList();
    }

    /** The trade's own examples; digits 1, 4, 6, f common practice, the others from memory. */
    @ParameterizedTest
    @CsvSource({
        "0xf416, nvme card usb restart",
        "0xf41, card usb restart",
        "0xf461, card nvme usb restart",
        "0xf21, card network restart",
        "0xe1, card stop",
        "0x1, card",
        "0x3, serial-recovery",
        "0xf7, network-install restart",
    })
    void digitsAreReadFromTheRight(String value, String expected) throws UnreadableInput {
        DecodedOrder decoded = dialect("plover-5").decode(value);
        assertThat(decoded.sources()).isEqualTo(sources(expected));
        assertThat(decoded.usable()).isTrue();
        assertThat(dialect("plover-5").encode(decoded.sources())).isEqualTo(value);
    }

    @ParameterizedTest
    @CsvSource({
        "0xF41, order-upper-case",
        "0XF41, order-upper-case",
        "f41, order-no-prefix",
        "F41, order-no-prefix",
        "0xf4g, order-not-hex",
        "'', order-empty",
        "' ', order-empty",
        "0x123456789, order-too-long",
        "123456789, order-too-long",
        "0x, order-not-hex",
        "nvme, order-not-hex",
        "0xf81, digit-unknown",
    })
    void strangeValuesGetOneClearFinding(String value, String code) {
        List<Finding> stops = dialect("plover-5").decode(value).findings().stream()
                .filter(Finding::stops)
                .toList();
        assertThat(stops).extracting(Finding::code).containsExactly(code);
    }

    @ParameterizedTest
    @CsvSource({
        "0x1f4, sources-never-reached",
        "0x41, order-ends-open",
        "0x411, source-twice",
        "0x104, digit-zero",
        "0xf, order-no-source"
    })
    void whatIsLegalButUnwiseIsSaid(String value, String code) {
        assertThat(dialect("plover-4").decode(value).findings())
                .extracting(Finding::code)
                .contains(code);
    }

    @Test
    void aSourceTheBoardDoesNotHaveIsACaution() {
        assertThat(dialect("plover-4").decode("0xf6").findings())
                .extracting(Finding::code)
                .contains("source-not-on-board");
        assertThat(dialect("plover-5").decode("0xf6").findings()).isEmpty();
    }

    @Test
    void eightDigitsFitAndNineDoNot() throws UnreadableInput {
        List<StartSource> eight = sources("card usb card usb card usb card restart");
        assertThat(dialect("plover-5").encode(eight)).isEqualTo("0xf1414141");
        List<StartSource> nine = sources("card usb card usb card usb card usb restart");
        assertThatThrownBy(() -> dialect("plover-5").encode(nine))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("9");
        assertThatThrownBy(() -> dialect("plover-5").encode(List.of())).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> dialect("plover-5").encode(List.of(StartSource.EMMC)))
                .hasMessageContaining("emmc");
    }

    @Property(tries = 300)
    void whateverCanBeEncodedReadsBackTheSame(@ForAll("ladders") List<StartSource> ladder) throws UnreadableInput {
        String value = dialect("plover-5").encode(ladder);
        assertThat(value).matches("0x[0-9a-f]{1,8}");
        assertThat(dialect("plover-5").decode(value).sources()).isEqualTo(ladder);
    }

    @Provide
    Arbitrary<List<StartSource>> ladders() {
        return Arbitraries.of(dialect("plover-5").available())
                .list()
                .ofMinSize(1)
                .ofMaxSize(8);
    }

    @Property(tries = 500)
    void noTextMakesDecodingFail(@ForAll String text) {
        for (String profile : List.of("plover-3", "plover-4", "curlew-e", "dunlin-u")) {
            DecodedOrder decoded = dialect(profile).decode(text);
            assertThat(decoded.usable() || !decoded.findings().isEmpty()).isTrue();
        }
    }

    /** Register before 1020000a, after 3020000a, bit 29: common practice, no source. */
    @Test
    void fuseBitsAddASourceAfterTheCard() throws UnreadableInput {
        OrderDialect fuses = dialect("plover-3");
        assertThat(fuses.decode("1020000a").sources()).isEqualTo(sources("card"));
        assertThat(fuses.decode("3020000a").sources()).isEqualTo(sources("card usb"));
        assertThat(fuses.decode("0x3020000A").sources()).isEqualTo(sources("card usb"));
        assertThat(fuses.encode(sources("card usb"))).isEqualTo("3020000a");
        assertThat(Long.parseLong("3020000a", 16) - Long.parseLong("1020000a", 16))
                .isEqualTo(1L << 29);
        assertThat(fuses.decode("30200").findings()).extracting(Finding::code).containsExactly("register-not-hex");
        assertThatThrownBy(() -> fuses.encode(sources("usb card"))).hasMessageContaining("no other order");
    }

    /** U-Boot documentation: boot_targets is a list with spaces between. */
    @Test
    void orderedListsUseTheBoardsOwnNames() throws UnreadableInput {
        OrderDialect list = dialect("curlew-e");
        assertThat(list.decode("mmc1 mmc0 usb0 pxe dhcp").sources())
                .isEqualTo(sources("emmc card usb network network-install"));
        assertThat(list.encode(sources("card emmc"))).isEqualTo("mmc0 mmc1");
        assertThat(list.decode("\"mmc1  mmc0\"").sources()).isEqualTo(sources("emmc card"));
        assertThat(list.decode("mmc7").findings()).extracting(Finding::code).contains("name-unknown");
    }

    /** UEFI specification 3.1: BootOrder lists the numbers of Boot#### entries. */
    @Test
    void uefiOrdersListEntriesAndNetworkFirstIsSlow() throws UnreadableInput {
        OrderDialect uefi = dialect("dunlin-u");
        assertThat(uefi.decode("0002,0003").sources()).isEqualTo(sources("card usb"));
        assertThat(uefi.encode(sources("card network"))).isEqualTo("0002,0000");
        assertThat(uefi.decode("0000,0002").findings())
                .extracting(Finding::code)
                .contains("network-first");
        assertThat(uefi.decode("0002,0000").findings())
                .extracting(Finding::code)
                .doesNotContain("network-first");
        assertThat(uefi.decode("").findings()).extracting(Finding::code).contains("order-empty");
    }
}
