// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.testing.Stopping;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A vault on its way to another folder: whole in one place at any moment. */
class VaultMoveTest {
    private static final VaultMove.Told NOBODY = () -> {};
    private static final Set<Path> OURS =
            Set.of(Path.of("board/board-2026-11-01T080000Z.copy"), Path.of("other/other-2026-11-01T080000Z.img.zst"));

    @TempDir
    private Path folder;

    private Path from;
    private Path to;

    @BeforeEach
    void aVault() throws IOException {
        from = folder.resolve("here");
        to = folder.resolve("there");
        put(from, "packs/2026-11-01T080000Z-board.pack", "p".repeat(9_000_000));
        put(from, "packs/2026-11-01T080000Z-board.index", "index");
        put(from, "board/board-2026-11-01T080000Z.copy", "list");
        put(from, "other/other-2026-11-01T080000Z.img.zst", "image");
        put(from, "other/other-2026-11-01T080000Z.img.zst.sha256", "sum");
        put(from, VaultScript.NAME, "script");
    }

    private static void put(Path vault, String name, String text) throws IOException {
        Path file = vault.resolve(name);
        Files.createDirectories(file.getParent());
        Files.writeString(file, text);
    }

    /** Every file but the lock, with what is in it. */
    private static Map<String, String> in(Path vault) throws IOException {
        Map<String, String> all = new TreeMap<>();
        if (Files.isDirectory(vault)) {
            try (Stream<Path> files = Files.walk(vault)) {
                for (Path file : files.filter(Files::isRegularFile).toList()) {
                    all.put(vault.relativize(file).toString(), Files.readString(file));
                }
            }
        }
        all.remove(".lock");
        return all;
    }

    @Test
    void everythingOfItGoesAlongAndNothingElse() throws IOException {
        Map<String, String> all = in(from);
        put(from, "films/one.mkv", "a film");
        put(from, "board/notes.txt", "by hand");
        put(from, "board/board-2026-11-02T080000Z.copy.part", "half");
        VaultMove.run(
                from,
                to,
                OURS,
                () -> {
                    assertThat(in(to)).as("whole there before anybody is told").isEqualTo(all);
                    assertThat(in(from)).as("and still whole here").containsAllEntriesOf(all);
                },
                TransferWatch.NONE);
        assertThat(in(to)).isEqualTo(all);
        assertThat(in(from))
                .containsOnlyKeys("films/one.mkv", "board/notes.txt", "board/board-2026-11-02T080000Z.copy.part");
        assertThat(VaultFiles.isThere(from)).isFalse();
        assertThat(from.resolve("other")).doesNotExist();
    }

    /** Stopped in the middle of any file, and when nobody can be told: the vault is where it was, and nothing of it is there. */
    @Test
    void whatIsStoppedLeavesNothing() throws IOException {
        Map<String, String> all = in(from);
        for (int stop = 0; stop < 6; stop++) {
            TransferWatch stopping = Stopping.after(stop);
            assertThatThrownBy(() -> VaultMove.run(from, to, OURS, NOBODY, stopping))
                    .isInstanceOf(CancellationException.class);
            assertThat(in(from)).isEqualTo(all);
            assertThat(in(to)).isEmpty();
        }
        assertThatThrownBy(() -> VaultMove.run(
                        from,
                        to,
                        OURS,
                        () -> {
                            throw new IOException("the register is gone");
                        },
                        TransferWatch.NONE))
                .hasMessage("the register is gone");
        assertThat(in(from)).isEqualTo(all);
    }

    /** Killed after some files, or after all of them: what is there already and the same is not copied again. */
    @Test
    void whatIsThereAlreadyStays() throws IOException {
        Map<String, String> all = in(from);
        put(to, "packs/2026-11-01T080000Z-board.pack", "p".repeat(9_000_000));
        put(to, "board/board-2026-11-01T080000Z.copy.part", "li");
        put(to, "third/third-2026-11-01T080000Z.img.zst", "another house's");
        put(to, VaultScript.NAME, "a newer script");
        VaultMove.run(from, to, OURS, NOBODY, TransferWatch.NONE);
        assertThat(in(to))
                .containsAllEntriesOf(Map.of(
                        "third/third-2026-11-01T080000Z.img.zst",
                        "another house's",
                        VaultScript.NAME,
                        "a newer script"));
        all.remove(VaultScript.NAME);
        assertThat(in(to)).containsAllEntriesOf(all);
    }

    @Test
    void anotherFileOfThatNameIsNotWrittenOver() throws IOException {
        Map<String, String> all = in(from);
        put(to, "board/board-2026-11-01T080000Z.copy", "another list");
        assertThatThrownBy(() -> VaultMove.run(from, to, OURS, NOBODY, TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("nothing was moved");
        assertThat(in(to)).isEqualTo(Map.of("board/board-2026-11-01T080000Z.copy", "another list"));
        assertThat(in(from)).isEqualTo(all);
    }

    /** Two houses with one vault: who goes takes what is theirs, and the other's copies still have all they need. */
    @Test
    void whatOthersKeepThereStays() throws IOException {
        Map<String, String> ours = in(from);
        put(from, "third/third-2026-11-01T080000Z.copy", "another house's");
        Map<String, String> all = in(from);
        assertThat(VaultMove.run(from, to, OURS, NOBODY, TransferWatch.NONE)).isTrue();
        assertThat(in(from)).isEqualTo(all);
        assertThat(in(to)).isEqualTo(ours);
    }

    @Test
    void nobodyElseIsAtIt() throws IOException {
        try (VaultLock reading = VaultLock.shared(from)) {
            reading.requireValid();
            assertThatThrownBy(() -> VaultMove.run(from, to, OURS, NOBODY, TransferWatch.NONE))
                    .isInstanceOf(Refused.class);
        }
    }
}
