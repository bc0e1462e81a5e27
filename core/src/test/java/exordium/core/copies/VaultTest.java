// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.DelegatingDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.CopyReport;
import exordium.core.copies.vault.CopyRun;
import exordium.core.copies.vault.Generations;
import exordium.core.copies.vault.VaultCheck;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.copies.vault.VaultLock;
import exordium.core.copies.vault.VaultPrune;
import exordium.core.copies.vault.VaultRepair;
import exordium.core.copies.vault.VaultRun;
import exordium.core.copies.vault.VaultScript;
import exordium.core.finding.NewerThanThis;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Copies in a vault, of real disks; put together again by this program and by general tools without it. */
class VaultTest {
    @TempDir
    private Path folder;

    private Path vault;
    private Path disk;

    @BeforeEach
    void aDisk() throws IOException {
        vault = folder.resolve("vault");
        disk = disk("first");
    }

    private Path file(String stamp) {
        return vault.resolve("board").resolve("board-" + stamp + ".copy");
    }

    private CopyReport copy(String stamp, TransferWatch watch) throws IOException {
        try (BlockDevice device = FileDevice.forReading(disk)) {
            return VaultRun.execute(device, vault, file(stamp), Map.of("board", "board"), watch);
        }
    }

    private CopyReport copy(String stamp) throws IOException {
        return copy(stamp, TransferWatch.NONE);
    }

    /** The same disk made anew with other words in a log. */
    private void change(String words) throws IOException {
        disk = disk(words);
    }

    /** With a megabyte that never changes, and does not pack. */
    private Path disk(String words) throws IOException {
        byte[] noise = new byte[1 << 20];
        new Random(7).nextBytes(noise);
        return new DiskBuilder(folder)
                .root("usr/noise", new String(noise, java.nio.charset.StandardCharsets.ISO_8859_1))
                .root("var/log/words", words)
                .build("card-" + words + ".img");
    }

    private static void requireSame(Path source, Path copy) throws IOException {
        try (BlockDevice device = FileDevice.forReading(source);
                InputStream stream = ImageFile.open(copy).stream()) {
            UsedMap used = UsedMap.of(device);
            byte[] piece = new byte[UsedMap.PIECE];
            long end = CopyRun.extent(device).bytes();
            for (long at = 0; at < end; at += piece.length) {
                int got = stream.readNBytes(piece, 0, (int) Math.min(piece.length, end - at));
                byte[] expected = used.holds(at, got) ? device.bytes(at, got) : new byte[got];
                assertThat(java.util.Arrays.equals(piece, 0, got, expected, 0, got))
                        .as("at %d", at)
                        .isTrue();
            }
            assertThat(stream.read()).isNegative();
        }
    }

    @Test
    void aCopyHoldsWhatIsInUseAndIsAnImageLikeAnyOther() throws IOException {
        CopyReport report = copy("2026-11-01T080000Z");
        requireSame(disk, report.file());
        ImageFile image = ImageFile.open(report.file());
        assertThat(image.kind().code()).isEqualTo("copy");
        assertThat(image.uncompressedSize().orElseThrow().bytes()).isEqualTo(report.sourceBytes());
        assertThat(report.usedBytes()).isLessThan(report.sourceBytes());
        assertThat(VaultCheck.of(vault, OptionalInt.empty(), 1, TransferWatch.NONE)
                        .whole())
                .isTrue();
    }

    /** sh, awk, dd and zstd of Debian put it together without this program; e2fsck, fsck.fat and sfdisk find it whole. */
    @Test
    void generalToolsAlonePutACopyTogether() throws IOException {
        Path first = copy("2026-11-01T080000Z").file();
        change("second");
        Path second = copy("2026-11-02T080000Z").file();
        for (Path each : List.of(first, second)) {
            Path image = folder.resolve("again.img");
            GeneralTools.run("sh", vault.resolve(VaultScript.NAME).toString(), each.toString(), image.toString());
            try (InputStream ours = ImageFile.open(each).stream();
                    InputStream theirs = Files.newInputStream(image)) {
                assertThat(org.apache.commons.io.IOUtils.contentEquals(ours, theirs))
                        .isTrue();
            }
            GeneralTools.run("sfdisk", "--verify", image.toString());
            Path root = folder.resolve("root.ext");
            GeneralTools.run("dd", "if=" + image, "of=" + root, "bs=1M", "skip=44", "status=none");
            GeneralTools.run("e2fsck", "-fn", root.toString());
        }
    }

    @Test
    void aSecondCopyKeepsOnlyWhatChanged() throws IOException {
        CopyReport first = copy("2026-11-01T080000Z");
        assertThat(copy("2026-11-01T090000Z").fileBytes())
                .as("nothing changed: only the list")
                .isEqualTo(Files.size(file("2026-11-01T090000Z")));
        change("second");
        CopyReport third = copy("2026-11-02T080000Z");
        assertThat(third.fileBytes()).isLessThan(first.fileBytes() / 2);
        requireSame(disk, third.file());
        try (ChunkPacks packs = ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER))) {
            Map<Path, Generations.Space> space =
                    Generations.in(vault).room(packs).copies();
            assertThat(space.get(first.file()).own().bytes()).isZero();
            assertThat(space.get(third.file()).own().bytes()).isPositive();
            assertThat(space.get(third.file()).shared().bytes()).isPositive();
        }
    }

    /** Rot is found by the check and named with the copies it hurts; the next copy of the same drive mends it. */
    @Test
    void rotIsNamedAndMended() throws IOException {
        CopyReport good = copy("2026-11-01T080000Z");
        Path other = folder.resolve("second");
        GeneralTools.run("cp", "-r", vault.toString(), other.toString());
        Path pack = vault.resolve("packs/2026-11-01T080000Z-board.pack");
        DiskBuilder.flip(pack, 77);
        VaultCheck check = VaultCheck.of(vault, OptionalInt.empty(), 1, TransferWatch.NONE);
        assertThat(check.damages()).singleElement().satisfies(damage -> {
            assertThat(damage.copy()).isEqualTo(good.file());
            assertThat(damage.text()).contains("is damaged: 1 of its");
        });
        assertThatThrownBy(
                        () -> ImageFile.open(good.file()).stream().transferTo(java.io.OutputStream.nullOutputStream()))
                .isInstanceOf(UnreadableInput.class);
        VaultRepair repair = VaultRepair.run(
                vault, java.util.Optional.of(other), Map.of(), "2026-11-03T080000Z", TransferWatch.NONE);
        assertThat(repair.chunks()).isEqualTo(1);
        assertThat(repair.left()).isEmpty();
        requireSame(disk, good.file());
        // Without a second vault, the drive itself is where the chunk comes from.
        DiskBuilder.flip(vault.resolve("packs/2026-11-03T080000Z-mended.pack"), 20);
        requireDamaged(good.file());
        copy("2026-11-04T080000Z");
        requireSame(disk, good.file());
    }

    private static void requireDamaged(Path copy) {
        assertThatThrownBy(() -> ImageFile.open(copy).stream().transferTo(java.io.OutputStream.nullOutputStream()))
                .isInstanceOf(IOException.class);
    }

    @Test
    void pruningTakesOnlyWhatNoCopyNeeds() throws IOException {
        Path first = copy("2026-11-01T080000Z").file();
        Path before = disk;
        change("second");
        Path second = copy("2026-11-02T080000Z").file();
        assertThat(VaultPrune.preview(vault, List.of(first)).freed().bytes()).isPositive();
        requireSame(before, first);
        VaultPrune.run(vault, List.of(first), "2026-11-03T080000Z", TransferWatch.NONE);
        assertThat(first).doesNotExist();
        requireSame(disk, second);
        VaultPrune.run(vault, List.of(second), "2026-11-04T080000Z", TransferWatch.NONE);
        try (var left = Files.list(vault.resolve("packs"))) {
            assertThat(left).isEmpty();
        }
    }

    /**
     * The vault is a link to a folder of a drive with other things on it: what needs chunks is seen all the same, and what is none of
     * the vault's is neither read, nor counted, nor swept away.
     */
    @Test
    void aVaultMayLieAmongOtherThings() throws IOException {
        Path drive = Files.createDirectories(folder.resolve("drive"));
        vault = Files.createSymbolicLink(folder.resolve("linked"), drive);
        Path first = copy("2026-11-01T080000Z").file();
        long room = VaultFiles.room(vault).bytes();
        for (String strange : List.of("lost+found/a.copy", ".Trash/b.copy", "films/one.part", "films/deep/two.part")) {
            Path file = drive.resolve(strange);
            Files.createDirectories(file.getParent());
            Files.writeString(file, "none of the vault's");
        }
        Path packs = Files.copy(first, drive.resolve("packs").resolve("packs-2026-11-01T080000Z.copy"));
        assertThat(VaultFiles.lists(vault)).hasSize(2);
        assertThat(VaultFiles.room(vault).bytes()).isEqualTo(room + Files.size(packs));
        Files.delete(packs);
        Path half = Files.writeString(drive.resolve("board").resolve("board-x.copy.part"), "half");
        VaultPrune.sweepParts(vault);
        assertThat(half).doesNotExist();
        assertThat(drive.resolve("films/one.part")).exists();
        assertThat(drive.resolve("films/deep/two.part")).exists();
        assertThat(VaultFiles.room(vault).bytes()).isEqualTo(room);
        VaultPrune.run(vault, List.of(), "2026-11-03T080000Z", TransferWatch.NONE);
        requireSame(disk, first);
    }

    /** By the shell as well, a copy of which something is broken or lost does not end well. */
    @Test
    void theScriptSaysWhenSomethingIsLost() throws IOException {
        Path copy = copy("2026-11-01T080000Z").file();
        String script = vault.resolve(VaultScript.NAME).toString();
        String image = folder.resolve("again.img").toString();
        Path pack = vault.resolve("packs").resolve("2026-11-01T080000Z-board.pack");
        byte[] whole = Files.readAllBytes(pack);
        DiskBuilder.flip(pack, whole.length / 2);
        assertThat(GeneralTools.exitOf("sh", script, copy.toString(), image)).isNotZero();
        Files.write(pack, whole);
        assertThat(GeneralTools.exitOf("sh", script, copy.toString(), image)).isZero();
        Files.writeString(vault.resolve("packs").resolve("2026-11-01T080000Z-board.index"), "");
        assertThat(GeneralTools.exitOf("sh", script, copy.toString(), image)).isNotZero();
        assertThat(folder.resolve("again.img.piece")).doesNotExist();
    }

    /** A list that cannot be read may need anything: then nothing goes. */
    @Test
    void nothingIsTakenWhileAListCannotBeRead() throws IOException {
        Path first = copy("2026-11-01T080000Z").file();
        Path second = copy("2026-11-02T080000Z").file();
        DiskBuilder.flip(first, Files.size(first) / 2);
        assertThatThrownBy(() -> VaultPrune.run(vault, List.of(second), "2026-11-03T080000Z", TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("nothing is taken out");
        requireSame(disk, second);
    }

    /** Every byte of the packs is some copy's own or shared; what stands in a list before its fault counts for nobody. */
    @Test
    void roomIsCountedOnceForEachChunk() throws IOException {
        Path first = copy("2026-11-01T080000Z").file();
        change("second");
        Path second = copy("2026-11-02T080000Z").file();
        try (ChunkPacks packs = ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER))) {
            long all = packs.all().values().stream()
                    .mapToLong(ChunkPacks.Frame::bytes)
                    .sum();
            Generations.Room room = Generations.in(vault).room(packs);
            Generations.Space older = room.copies().get(first);
            Generations.Space newer = room.copies().get(second);
            assertThat(older.shared()).isEqualTo(newer.shared());
            assertThat(older.own().bytes()
                            + newer.own().bytes()
                            + newer.shared().bytes())
                    .isEqualTo(all);
            assertThat(room.boards())
                    .containsExactly(Map.entry("board", new Generations.Space(ByteSize.of(all), ByteSize.ZERO)));
            // The newer one as another board's: what both need is now shared by two boards.
            Path others = Files.createDirectories(vault.resolve("other")).resolve("other-2026-11-02T080000Z.copy");
            Files.move(second, others);
            assertThat(Generations.in(vault).room(packs).boards())
                    .containsOnly(Map.entry("board", older), Map.entry("other", newer));
            Files.move(others, second);
            DiskBuilder.flip(first, Files.size(first) - 100);
            assertThat(Generations.in(vault).room(packs).copies())
                    .containsExactly(Map.entry(
                            second,
                            new Generations.Space(
                                    ByteSize.of(
                                            newer.own().bytes() + newer.shared().bytes()),
                                    ByteSize.ZERO)));
        }
    }

    @Test
    void whoTidiesIsAlone() throws IOException {
        Path first = copy("2026-11-01T080000Z").file();
        try (VaultLock reading = VaultLock.shared(vault)) {
            assertThat(reading).isNotNull();
            assertThatThrownBy(() -> VaultPrune.run(vault, List.of(first), "2026-11-03T080000Z", TransferWatch.NONE))
                    .isInstanceOf(Refused.class);
            copy("2026-11-02T080000Z");
        }
        try (VaultLock tidying = VaultLock.alone(vault)) {
            assertThat(tidying).isNotNull();
            assertThatThrownBy(() -> copy("2026-11-05T080000Z")).isInstanceOf(Refused.class);
        }
        requireSame(disk, first);
    }

    /** Stopped while reading, or while reading back: no copy, no working file, and the vault as it was. */
    @ParameterizedTest
    @ValueSource(strings = {"COPYING", "READING_BACK"})
    void aCopyThatWasStoppedLeavesNothing(String phase) throws IOException {
        Path first = copy("2026-11-01T080000Z").file();
        change("second");
        TransferWatch stopping = new TransferWatch() {
            private boolean reached;

            @Override
            public void moved(Phase now, long position, int bytes, long nanos, long total) {
                reached |= now == Phase.valueOf(phase);
            }

            @Override
            public boolean cancelled() {
                return reached;
            }
        };
        Set<String> before = names();
        assertThatThrownBy(() -> copy("2026-11-02T080000Z", stopping)).isInstanceOf(CancellationException.class);
        assertThat(names()).isEqualTo(before);
        assertThat(first).exists();
    }

    /** A drive that stops giving bytes: the sentence says where, nothing is left, and nobody reads it once that was said. */
    @Test
    void aDriveThatCannotBeReadFurtherLeavesNothing() throws IOException {
        copy("2026-11-01T080000Z");
        Set<String> before = names();
        AtomicInteger reads = new AtomicInteger();
        AtomicBoolean told = new AtomicBoolean();
        AtomicBoolean readAfter = new AtomicBoolean();
        try (BlockDevice device = new DelegatingDevice(FileDevice.forReading(disk)) {
            @Override
            public void readBack(long position, ByteBuffer target) throws IOException {
                readAfter.compareAndSet(false, told.get());
                if (reads.incrementAndGet() > 2) {
                    throw new MediumException("card", position, "no answer");
                }
                super.readBack(position, target);
            }
        }) {
            Path file = file("2026-11-02T080000Z");
            assertThatThrownBy(() -> VaultRun.execute(device, vault, file, Map.of(), TransferWatch.NONE))
                    .isInstanceOf(MediumException.class)
                    .hasMessageContaining("no answer");
            told.set(true);
        }
        assertThat(names()).isEqualTo(before);
        assertThat(reads).hasValueGreaterThan(2);
        assertThat(readAfter).isFalse();
    }

    private Set<String> names() throws IOException {
        try (var all = Files.walk(vault)) {
            Set<String> names = new HashSet<>();
            all.forEach(each -> names.add(vault.relativize(each).toString()));
            return names;
        }
    }

    /**
     * Histories by chance of copies, changes, pruning, kills that leave half-made files, and rot: every copy that is left either
     * restores, or the check names it. The long form is in benchmarks.
     */
    @Test
    void anyHistoryEndsWithCopiesThatRestoreOrAreNamed() throws IOException {
        int histories = Integer.getInteger("exordium.histories", 2);
        for (int seed = 1; seed <= histories; seed++) {
            VaultHistory.of(Files.createDirectory(folder.resolve("history-" + seed)), seed, 14);
        }
    }

    @Test
    void brokenListsAreErrorsWithASentence() throws IOException {
        Path good = copy("2026-11-01T080000Z").file();
        String text = Files.readString(good);
        Map<String, String> broken = new HashMap<>();
        broken.put("cut off", text.substring(0, text.length() / 2));
        broken.put("another chunk", text.replaceFirst("(\n\\d+ \\d+ )[0-9a-f]", "$10"));
        broken.put("over the end", text.replaceFirst("bytes: \\d+", "bytes: 4096"));
        broken.put("too many", text.replaceFirst("chunks: \\d+", "chunks: 99999999"));
        broken.put("no size", text.replaceFirst("bytes: \\d+\n", ""));
        List<String> silent = new ArrayList<>();
        for (Map.Entry<String, String> each : broken.entrySet()) {
            Files.writeString(good, each.getValue());
            try {
                if (!each.getValue().equals(text)) {
                    CopyManifest.load(good);
                    silent.add(each.getKey());
                }
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).contains(good.getFileName().toString());
            }
        }
        assertThat(silent).isEmpty();
        Files.writeString(good, text.replaceFirst("exordium-copy: 1", "exordium-copy: 2"));
        assertThatThrownBy(() -> ImageFile.open(good)).isInstanceOf(NewerThanThis.class);
        byte[] noise = new byte[5000];
        for (int seed = 0; seed < 50; seed++) {
            new Random(seed).nextBytes(noise);
            System.arraycopy("exordium-copy".getBytes(java.nio.charset.StandardCharsets.US_ASCII), 0, noise, 0, 13);
            Files.write(good, noise);
            assertThatThrownBy(() -> ImageFile.open(good)).isInstanceOf(UnreadableInput.class);
        }
    }

    @Test
    void aChunkIsKnownByItsDigest() {
        String hex = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";
        // FIPS 180-4, example of SHA-256 for "abc".
        assertThat(Chunk.parse(hex).hex()).isEqualTo(hex);
    }
}
