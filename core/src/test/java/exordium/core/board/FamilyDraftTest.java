// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.BadArgument;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.Link;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FamilyDraftTest {
    private static final BoardProfiles KNOWN = BoardProfiles.shipped();

    private static FamilyDraft draft(String dialect, String where, List<String> ports, String supply) {
        return new FamilyDraft(
                "heron-1",
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of("2GB", "4 GB"),
                Optional.ofNullable(dialect).map(OrderForm::of),
                Optional.empty(),
                Optional.ofNullable(supply),
                ports,
                Optional.ofNullable(where),
                List.of(),
                List.of("kernel.img=64"),
                List.of("heron*.dtb"));
    }

    @Test
    void whatIsSaidCountsAndTheRestIsAsInTheNearestFamily() throws UnreadableInput {
        BoardProfile made = draft(
                        "hex-digits",
                        null,
                        List.of("card", "usb@usb-2", "usb", "nvme@pcie3-x1", "network"),
                        "5.1 V 4 A")
                .made(KNOWN);
        assertThat(made.ports())
                .extracting(BoardProfile.Port::id)
                .containsExactly("card", "usb1", "usb2", "nvme", "network");
        assertThat(made.port("usb1").orElseThrow().link()).isEqualTo(Link.USB_2);
        assertThat(made.port("nvme").orElseThrow().link()).isEqualTo(Link.PCIE3_X1);
        assertThat(made.memory()).containsExactly("2 GB", "4 GB");
        assertThat(made.power().volts()).isEqualTo(5.1);
        assertThat(made.startFiles().kernels()).containsOnlyKeys("kernel.img");
        // The nearest that keeps its order so and has such a port.
        assertThat(made.timing()).isEqualTo(KNOWN.require("plover-5").timing());
    }

    @ParameterizedTest
    @CsvSource({"hex-digits, plover", "fuse-bits, plover-3", "ordered-list, curlew-e", "uefi, dunlin-u"})
    void theOrderIsKeptAsInTheFamilyThatKeepsItSo(String dialect, String nearest) throws UnreadableInput {
        BoardProfile made = draft(dialect, null, List.of(), null).made(KNOWN);
        assertThat(made.order().form().code()).isEqualTo(dialect);
        assertThat(KNOWN.all().stream()
                        .filter(each -> each.id().startsWith(nearest))
                        .map(BoardProfile::timing))
                .contains(made.timing());
    }

    @Test
    void whatCannotBeIsRefusedByName() {
        assertThatThrownBy(() -> FamilyDraft.of("Heron 1").made(KNOWN)).isInstanceOf(BadArgument.class);
        assertThatThrownBy(() -> OrderForm.said(Optional.of("dice"))).hasMessageContaining("dice");
        assertThatThrownBy(() -> draft(null, "attic", List.of(), null).made(KNOWN))
                .hasMessageContaining("attic");
        assertThatThrownBy(
                        () -> draft("hex-digits", "card", List.of("nvme"), null).made(KNOWN))
                .hasMessageContaining("its files");
        assertThatThrownBy(() -> draft(null, null, List.of("card@string"), null).made(KNOWN))
                .hasMessageContaining("string");
        assertThatThrownBy(() -> draft(null, null, List.of("parallel"), null).made(KNOWN))
                .hasMessageContaining("parallel");
        assertThatThrownBy(() -> draft(null, null, List.of(), "plenty").made(KNOWN))
                .hasMessageContaining("plenty");
        FamilyDraft unlike = new FamilyDraft(
                "heron-1",
                Optional.empty(),
                Optional.of("swan-1"),
                Optional.empty(),
                List.of(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                Optional.empty(),
                List.of(),
                List.of(),
                List.of());
        assertThatThrownBy(() -> unlike.made(KNOWN)).isInstanceOf(UnknownName.class);
    }

    @Test
    void shippedFamiliesGoTogetherAndSayWhatTellsThemApart() {
        assertThat(KNOWN.all()).allMatch(each -> FamilyCheck.fault(each).isEmpty());
        assertThat(KNOWN.all().stream().map(BoardProfile::tell)).doesNotHaveDuplicates();
        assertThat(KNOWN.all().get(1).tell())
                .contains("card slot, 2 x USB 5 Gbit/s")
                .contains("5 V 3 A");
    }
}
