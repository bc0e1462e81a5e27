// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardDeeds;
import exordium.core.access.BoardFile;
import exordium.core.access.BoardPlace;
import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.media.Supply;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SimulatedBoardTest {
    private static final LocalDate OLD = LocalDate.parse("2025-06-03");
    private static final LocalDate NEW = LocalDate.parse("2026-09-02");
    private static final ProfileReader PROFILES = new ProfileReader();

    @TempDir
    Path folder;

    private final BoardState board = new BoardState(
            "plover-5",
            "8 GB",
            "00000000d90b6b9c",
            "02:47:50:00:00:06",
            new Supply(5, 5, "adapter"),
            FirmwareChip.running(OLD, "BOOT_ORDER=0xf41\nPCIE_PROBE=1"),
            false,
            List.of(new BoardState.Plug("nvme", "film-loop.img", "ssd-nvme", CarrierKind.SILENT, true)));

    private BoardFile file;
    private BoardDeeds access;

    @BeforeEach
    void put() throws IOException {
        file = new BoardFile(PROFILES, folder.resolve("boards/film-loop.board.yaml"));
        file.create(board);
        access = new Played()
                .deeds(new BoardPlace(
                        file, folder.resolve("film-loop.chip"), Optional.empty(), release -> new byte[0]));
    }

    @Test
    void aRestartTakesOverWhatWasStaged() throws IOException {
        assertThat(access.stage(NEW).firmware()).isEqualTo(OLD);
        assertThat(access.restart().firmware()).isEqualTo(NEW);
        assertThat(file.read().chip().anythingStaged()).isFalse();
    }

    @Test
    void switchingOffLosesWhatWasStaged() throws IOException {
        access.stage(NEW);
        access.stage(board.chip().config().with("BOOT_ORDER", "0xf416"));
        BoardState off = access.switchOff();
        assertThat(off.firmware()).isEqualTo(OLD);
        assertThat(off.chip().config().text()).contains("0xf41").doesNotContain("0xf416");
        assertThat(off.chip().anythingStaged()).isFalse();
        assertThat(file.read()).isEqualTo(off).isEqualTo(board);
    }

    @Test
    void aDriveIsInOnePortAtATimeAndAPortHoldsOneDrive() throws IOException {
        BoardState moved =
                access.plug(new BoardState.Plug("usb1", "film-loop.img", "stick", CarrierKind.ANNOUNCING, true));
        assertThat(moved.attached()).extracting(BoardState.Plug::port).containsExactly("usb1");
        BoardState replaced =
                access.plug(new BoardState.Plug("usb1", "other.img", "stick", CarrierKind.ANNOUNCING, true));
        assertThat(replaced.attached()).extracting(BoardState.Plug::drive).containsExactly("other.img");
        assertThat(access.unplug("other.img").attached()).isEmpty();
    }

    @Test
    void itIsReadAsItWasPutDownAndLeavesNothingBeside() throws IOException {
        BoardState staged = access.stage(NEW);
        assertThat(file.read()).isEqualTo(staged);
        file.change(each -> board);
        assertThat(file.read()).isEqualTo(board);
        assertThat(folder.resolve("boards").toFile().list()).containsExactlyInAnyOrder("film-loop.board.yaml", ".lock");
    }

    @Test
    void aBrokenFileIsNamed() throws IOException {
        Path broken = Files.writeString(folder.resolve("x.board.yaml"), "profile: plover-5\nfirmware: last tuesday\n");
        assertThatThrownBy(() -> new BoardFile(PROFILES, broken).read())
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("x.board.yaml");
        assertThatThrownBy(() -> new BoardFile(PROFILES, folder.resolve("none.yaml")).read())
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("no board file");
    }
}
