// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.Supply;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class VirtualBoardTest {
    private static final LocalDate OLD = LocalDate.parse("2025-06-03");
    private static final LocalDate NEW = LocalDate.parse("2026-09-02");
    private static final ProfileReader PROFILES = new ProfileReader();

    @TempDir
    Path folder;

    private final VirtualBoard board = new VirtualBoard(
            "plover-5",
            "8 GB",
            "00000000d90b6b9c",
            "02:47:50:00:00:06",
            new Supply(5, 5, "adapter"),
            OLD,
            "BOOT_ORDER=0xf41\nPCIE_PROBE=1",
            Optional.empty(),
            Optional.empty(),
            false,
            List.of(new VirtualBoard.Plug("nvme", "film-loop.img", "ssd-nvme", "silent", true)));

    @Test
    void aRestartTakesOverWhatWasStaged() {
        VirtualBoard staged = board.with(board.chip().stage(NEW));
        assertThat(staged.firmware()).isEqualTo(OLD);
        VirtualBoard restarted = staged.restart();
        assertThat(restarted.firmware()).isEqualTo(NEW);
        assertThat(restarted.chip().anythingStaged()).isFalse();
    }

    @Test
    void switchingOffLosesWhatWasStaged() {
        VirtualBoard off = board.with(
                        board.chip().stage(NEW).stage(board.chip().config().with("BOOT_ORDER", "0xf416")))
                .switchOff();
        assertThat(off.firmware()).isEqualTo(OLD);
        assertThat(off.config()).contains("0xf41").doesNotContain("0xf416");
        assertThat(off.chip().anythingStaged()).isFalse();
    }

    @Test
    void aDriveIsInOnePortAtATimeAndAPortHoldsOneDrive() {
        VirtualBoard moved = board.attach(new VirtualBoard.Plug("usb1", "film-loop.img", "stick", "announcing", true));
        assertThat(moved.attached()).extracting(VirtualBoard.Plug::port).containsExactly("usb1");
        VirtualBoard replaced = moved.attach(new VirtualBoard.Plug("usb1", "other.img", "stick", "announcing", true));
        assertThat(replaced.attached()).extracting(VirtualBoard.Plug::drive).containsExactly("other.img");
        assertThat(replaced.detach("other.img").attached()).isEmpty();
    }

    @Test
    void itIsReadAsItWasSaved() throws IOException {
        Path file = folder.resolve("boards/film-loop.board.yaml");
        VirtualBoard staged = board.with(board.chip().stage(NEW));
        staged.save(PROFILES, file);
        assertThat(VirtualBoard.load(PROFILES, file)).isEqualTo(staged);
        board.save(PROFILES, file);
        assertThat(VirtualBoard.load(PROFILES, file)).isEqualTo(board);
        assertThat(file.getParent().toFile().list()).containsExactly("film-loop.board.yaml");
    }

    @Test
    void aBrokenFileIsNamed() throws IOException {
        Path file = Files.writeString(folder.resolve("x.board.yaml"), "profile: plover-5\nfirmware: last tuesday\n");
        assertThatThrownBy(() -> VirtualBoard.load(PROFILES, file))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("x.board.yaml");
        assertThatThrownBy(() -> VirtualBoard.load(PROFILES, folder.resolve("none.yaml")))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("no board file");
    }
}
