// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/**
 * Start screens. Lines of loaders are those U-Boot 2023.01 and later and EDK2 print under qemu (Debian's packages); the screen with
 * digits is common practice, no source.
 */
class FamilyFromScreenTest {
    private static final BoardProfiles KNOWN = BoardProfiles.shipped();

    private static final String LIST =
            """
            U-Boot 2023.01 (Jan 01 2023 - 00:00:00 +0000)

            DRAM:  2 GiB
            SF: Detected something with page size 256 Bytes
            MMC:   mmc@1: 0, mmc@2: 1 (eMMC)
            Net:   eth0: ethernet@3
            Hit any key to stop autoboot:  0
            Scanning nvme 0:1...
            Found /extlinux/extlinux.conf
            Retrieving file: /Image
            Scanning usb 0:1...
            BOOTP broadcast 1
            """;

    private static final String UEFI =
            """
            UEFI firmware (version 2022.11)
            BdsDxe: failed to load Boot0010 "gone" from HD(1,GPT): Not Found
            BdsDxe: loading Boot0011 "usb" from HD(1,GPT)/\\EFI\\BOOT\\BOOTAA64.EFI
            BdsDxe: starting Boot0011 "usb" from HD(1,GPT)/\\EFI\\BOOT\\BOOTAA64.EFI
            """;

    @Test
    void aLoaderWithAListTellsWhatItTriedInItsOrder() throws Exception {
        FamilyFromScreen.Seen seen = FamilyFromScreen.read(LIST);
        assertThat(seen.form()).contains(OrderForm.ORDERED_LIST);
        assertThat(seen.usual()).contains("nvme0 usb0 dhcp");
        assertThat(seen.memory()).containsExactly("2 GB");
        assertThat(seen.where()).contains("chip");
        assertThat(seen.sources())
                .containsExactly(
                        StartSource.CARD, StartSource.EMMC, StartSource.NVME, StartSource.USB, StartSource.NETWORK);
        // A newer one names its devices otherwise; an environment names its list outright.
        assertThat(FamilyFromScreen.read("Scanning bootdev 'nvme#1.blk#1.bootdev':")
                        .usual())
                .contains("nvme1");
        assertThat(FamilyFromScreen.read("boot_targets=usb0 nvme0\n" + LIST).usual())
                .contains("usb0 nvme0");
    }

    @Test
    void itsSourcesAndNamesBecomePartOfTheFamilyThatIsMade() throws Exception {
        FamilyDraft draft = FamilyDraft.of("heron-1").seen(FamilyFromScreen.read(LIST), KNOWN);
        BoardProfile made = draft.made(KNOWN);
        assertThat(made.order().form()).isEqualTo(OrderForm.ORDERED_LIST);
        assertThat(made.order().usual()).isEqualTo("nvme0 usb0 dhcp");
        assertThat(made.order().names()).containsEntry("nvme0", StartSource.NVME);
        assertThat(made.ports()).extracting(BoardProfile.Port::source).contains(StartSource.NVME, StartSource.EMMC);
        assertThat(made.firmware().where()).isEqualTo("chip");
        assertThat(made.memory()).containsExactly("2 GB");
    }

    @Test
    void otherFormsOfAnOrderAreKnown() throws Exception {
        FamilyFromScreen.Seen uefi = FamilyFromScreen.read(UEFI);
        assertThat(uefi.form()).contains(OrderForm.UEFI);
        assertThat(uefi.usual()).contains("0010,0011");
        assertThat(FamilyFromScreen.read("BootOrder: 0003,0001\n").usual()).contains("0003,0001");
        FamilyFromScreen.Seen digits =
                FamilyFromScreen.read("board 4 GB RAM: 4GB\nBOOT_ORDER=0xF416 nvme card network\n");
        assertThat(digits.form()).contains(OrderForm.HEX_DIGITS);
        assertThat(digits.usual()).contains("0xf416");
        assertThat(digits.memory()).containsExactly("4 GB");
        FamilyFromScreen.Seen fuses = FamilyFromScreen.read("16:00280000\n17:1020000a\n");
        assertThat(fuses.form()).contains(OrderForm.FUSE_BITS);
        assertThat(fuses.usual()).contains("1020000a");
    }

    /** What was said goes before what was seen. */
    @Test
    void whatIsSaidStands() throws Exception {
        FamilyDraft said = new FamilyDraft(
                "heron-1",
                Optional.empty(),
                Optional.of("plover-4"),
                Optional.empty(),
                List.of("1 GB"),
                Optional.of(OrderForm.HEX_DIGITS),
                Optional.of("0xf14"),
                Optional.empty(),
                List.of("card", "usb"),
                Optional.empty(),
                List.of(),
                List.of(),
                List.of());
        BoardProfile made = said.seen(FamilyFromScreen.read(LIST), KNOWN).made(KNOWN);
        assertThat(made.memory()).containsExactly("1 GB");
        assertThat(made.order().usual()).isEqualTo("0xf14");
        assertThat(made.ports()).hasSize(2);
    }

    @Test
    void linesThatTellNothingAreSaidSo() {
        assertThatThrownBy(() -> FamilyFromScreen.read("Hello, museum\n"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("Nothing in those lines");
        assertThatThrownBy(() -> FamilyFromScreen.read("x".repeat(300_000)))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("too long");
    }
}
