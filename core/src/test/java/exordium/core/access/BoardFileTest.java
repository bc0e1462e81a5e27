// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FolderLock;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.media.Supply;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BoardFileTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");

    @TempDir
    Path folder;

    private BoardFile file;
    private Path path;

    @BeforeEach
    void aBoard() throws IOException {
        path = folder.resolve("boards/own.board.yaml");
        file = new BoardFile(new ProfileReader(), path);
        file.create(new BoardState(
                "plover-4",
                "4 GB",
                "",
                "",
                new Supply(5, 3, "adapter"),
                FirmwareChip.running(LocalDate.parse("2026-06-18"), "BOOT_ORDER=0xf41"),
                false,
                List.of()));
    }

    @Test
    void manyHandsLoseNothing() throws Exception {
        List<Callable<BoardState>> changes = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            BoardState.Plug plug = new BoardState.Plug("port" + i, "drive" + i, "stick", CarrierKind.ANNOUNCING, true);
            BoardFile own = new BoardFile(new ProfileReader(), path);
            changes.add(() -> own.change(board -> board.attach(plug)));
        }
        ExecutorService hands = Executors.newFixedThreadPool(6);
        try {
            for (Future<BoardState> each : hands.invokeAll(changes)) {
                each.get();
            }
        } finally {
            hands.shutdown();
        }
        assertThat(file.read().attached()).hasSize(60);
    }

    @Test
    void aChangeThatCannotBeLeavesTheFileAndTheNextOneGoes() throws IOException {
        byte[] before = Files.readAllBytes(path);
        assertThatThrownBy(() -> file.change(board -> {
                    throw new UnreadableInput("No such port.");
                }))
                .isInstanceOf(UnreadableInput.class);
        assertThat(Files.readAllBytes(path)).isEqualTo(before);
        file.change(board -> board.detach("nothing"));
        assertThatThrownBy(() -> file.change(board -> file.change(inner -> inner)))
                .isInstanceOf(IllegalStateException.class);
    }

    @Test
    void whatAKillLeftHalfMadeIsSweptAndTheBoardStays() throws IOException {
        Path half = Files.writeString(path.resolveSibling("own.board.yaml.new"), "profile: plo");
        FolderLock.sweep(path.getParent());
        assertThat(half).doesNotExist();
        assertThat(file.read().profile()).isEqualTo("plover-4");
    }

    /** Files of earlier versions do not say how what was seen is known: it was told. */
    @Test
    void whatWasSeenIsKnownByHowItWasSeen() throws IOException {
        Knowledge told = Knowledge.fresh(false, true, NOW)
                .with(sighting("/dev/mmcblk0p2", Optional.empty()), Known.told(NOW.plusSeconds(1)));
        file.change(board -> board.with(told));
        assertThat(Files.readString(path))
                .contains("what: \"/dev/mmcblk0p2\"")
                .doesNotContain("by: \"told\"\n  started");
        assertThat(file.read().known().root().map(Knowledge.Seen::known)).contains(Known.told(NOW.plusSeconds(1)));
        assertThat(file.read().known().firmware().map(Known::guessed)).contains(true);
        Knowledge read = told.with(sighting("/dev/sda2", Optional.empty()), Known.read(NOW.plusSeconds(2)));
        file.change(board -> board.with(read));
        assertThat(file.read().known()).isEqualTo(read);
        assertThat(read.root().map(Knowledge.Seen::known)).contains(Known.read(NOW.plusSeconds(2)));
        Knowledge trouble = read.with(sighting(null, Optional.of("seven blinks")), Known.told(NOW.plusSeconds(3)));
        assertThat(trouble.root()).isEmpty();
        assertThat(trouble.trouble().map(Knowledge.Seen::what)).contains("seven blinks");
    }

    private static Sighting sighting(String root, Optional<String> trouble) {
        return new Sighting(Optional.empty(), Optional.empty(), Optional.ofNullable(root), Optional.empty(), trouble);
    }

    @Test
    void stepsAreThoseThatTheWayDoesNotDo() throws IOException {
        FirmwareChip chip = file.read().chip().stage(LocalDate.parse("2026-09-02"));
        var profile = exordium.core.board.BoardProfiles.shipped().all().get(0);
        List<String> hand = HandSteps.restart(BoardWays.byHand(), profile, chip);
        assertThat(hand.get(0)).contains("2026-09-02");
        assertThat(hand).last().asString().startsWith("Then tell what it shows");
        assertThat(HandSteps.restart(BoardWays.of("test-wire"), profile, chip))
                .last()
                .isEqualTo("Then have it read again.");
        assertThat(HandSteps.switchOff(BoardWays.byHand(), profile, chip).get(0))
                .contains("is lost by this");
        assertThatThrownBy(() -> BoardWays.of("by-pigeon"))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("by-hand, test-wire");
        assertThatThrownBy(() -> new PutDown(file).restart()).isInstanceOf(IllegalStateException.class);
    }
}
