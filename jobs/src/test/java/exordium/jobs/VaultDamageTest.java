// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultCheck;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.copies.care.RestoreJob;
import exordium.jobs.copies.vault.CopyFiles;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import exordium.store.Copies;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A vault whose files were changed: what leaves it is what was proven, or nothing does. */
class VaultDamageTest {
    private static final String BOARD = SmallCard.BOARD;
    private static final int CHANGES = Integer.getInteger("exordium.vaultChanges", 7);
    private static final long SEED = Long.getLong("exordium.seed", 29);

    @TempDir
    private Path folder;

    private House house;
    private Path vault;
    private CopyJob copies;
    private VaultJob job;
    private final Map<String, String> digests = new HashMap<>();

    /** Three copies: two lists that share chunks, and a plain one. */
    @BeforeEach
    void threeCopies() throws IOException {
        house = House.demo(folder);
        copies = new CopyJob(house.bench, house.sheets);
        job = new VaultJob(house.bench);
        vault = house.workspace.vault();
        SmallCard.plug(house);
        // What the demo brings is not looked at.
        for (Copies.Copy copy : house.workspace.copies().all()) {
            house.workspace.copies().remove(copy.id());
        }
        exordium.jobs.bench.Folders.delete(vault);
        Random noise = new Random(1);
        for (String words : List.of("first", "second", "third")) {
            byte[] bytes = new byte[700_000];
            noise.nextBytes(bytes);
            SmallCard.lay(
                    house,
                    new DiskBuilder(folder)
                            .root("var/log/words", words)
                            .root("usr/noise", new String(bytes, java.nio.charset.StandardCharsets.ISO_8859_1))
                            .build("system-" + words + ".img"));
            copies.run(BOARD, new CopyJob.Wanted(words.equals("third"), Optional.empty()), TransferWatch.NONE);
            house.clock.advance(Duration.ofDays(1));
        }
        for (Copies.Copy copy : all()) {
            digests.put(copy.file(), digest(copy).orElseThrow());
        }
    }

    private List<Copies.Copy> all() {
        return house.workspace.copies().all();
    }

    /** Of what a copy gives; empty where it gives nothing. */
    private Optional<String> digest(Copies.Copy copy) throws IOException {
        try (InputStream stream = copies.open(copy).stream()) {
            return Optional.of(sum(stream));
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    private Set<String> good() throws IOException {
        Set<String> good = new HashSet<>();
        for (Copies.Copy copy : all()) {
            Optional<String> now = digest(copy);
            assertThat(now.isEmpty() || now.get().equals(digests.get(copy.file())))
                    .as(copy.file())
                    .isTrue();
            now.ifPresent(same -> good.add(copy.file()));
        }
        return good;
    }

    private static String sum(InputStream stream) throws IOException {
        CRC32C crc = new CRC32C();
        byte[] bytes = new byte[1 << 20];
        long length = 0;
        for (int got = stream.read(bytes); got >= 0; got = stream.read(bytes)) {
            crc.update(bytes, 0, got);
            length += got;
        }
        return crc.getValue() + " of " + length;
    }

    private static void lay(Path from, Path to) throws IOException {
        exordium.jobs.bench.Folders.delete(to);
        GeneralTools.run("cp", "-a", from.toString(), to.toString());
    }

    @Test
    void whateverIsChangedNoWrongBytesAreGivenOut() throws IOException {
        Path whole = folder.resolve("whole");
        GeneralTools.run("cp", "-a", vault.toString(), whole.toString());
        Random random = new Random(SEED);
        for (int i = 0; i < CHANGES; i++) {
            lay(whole, vault);
            String what = "seed " + SEED + ", change " + i + ": ";
            for (int each = random.nextInt(4) == 0 ? 3 : 1; each > 0; each--) {
                what += new VaultDamage(vault, random).change() + "; ";
            }
            try {
                oneChange(whole, random, what.contains("lies"));
            } catch (AssertionError | IOException | RuntimeException e) {
                throw new AssertionError(what, e);
            }
        }
    }

    private void oneChange(Path whole, Random random, boolean lies) throws IOException {
        Set<String> good = good();
        Set<String> named = new HashSet<>();
        for (VaultCheck.Damage damage :
                job.check(OptionalInt.empty(), TransferWatch.NONE).damages()) {
            named.add(vault.relativize(damage.copy()).toString());
        }
        for (Copies.Copy copy : all()) {
            assertThat(good.contains(copy.file()) || named.contains(copy.file()))
                    .as("named: %s", copy.file())
                    .isTrue();
            takenOut(copy);
        }
        if (random.nextInt(8) == 0) {
            // Of a list that was made anew with a digest of its own, only the register knows that it is another.
            if (!lies) {
                byScript();
            }
            restored(random);
        }
        try {
            job.prune(Optional.empty(), TransferWatch.NONE);
        } catch (UnreadableInput | NotPossible e) {
            assertThat(e).hasMessageContaining("nothing is taken out");
        }
        assertThat(good()).containsAll(good);
        job.repair(Optional.empty(), TransferWatch.NONE);
        assertThat(good()).containsAll(good);
        job.repair(Optional.of(whole), TransferWatch.NONE);
        assertThat(good()).hasSize(3);
        assertThat(job.check(OptionalInt.empty(), TransferWatch.NONE).whole()).isTrue();
    }

    private void takenOut(Copies.Copy copy) throws IOException {
        Path out = folder.resolve("out");
        Files.deleteIfExists(out);
        try {
            new CopyFiles(house.bench, copies).takeOut(copy.file(), "/var/log/words", out);
            assertThat(List.of("first", "second", "third")).contains(Files.readString(out));
            assertThat(Files.readString(out))
                    .isEqualTo(List.of("first", "second", "third").get(all().indexOf(copy)));
        } catch (UnreadableInput | MediumException e) {
            assertThat(out).doesNotExist();
        }
    }

    private void byScript() throws IOException {
        Path image = folder.resolve("script.img");
        for (Copies.Copy copy : all()) {
            if (copy.file().endsWith(".copy")) {
                Files.deleteIfExists(image);
                int code = GeneralTools.exitOf(
                        "sh",
                        vault.resolve("restore.sh").toString(),
                        vault.resolve(copy.file()).toString(),
                        image.toString());
                if (code == 0 && !Files.isSymbolicLink(vault.resolve(copy.file()))) {
                    try (InputStream stream = Files.newInputStream(image)) {
                        assertThat(sum(stream)).isEqualTo(digests.get(copy.file()));
                    }
                } else {
                    assertThat(code == 0 || !Files.exists(image)).isTrue();
                }
            }
        }
    }

    private void restored(Random random) throws IOException {
        Copies.Copy copy = all().get(random.nextInt(3));
        Path file = house.workspace.drives().resolve("back.img");
        if (!Files.exists(file)) {
            SmallCard.drive(house, "back.img", 70L << 20);
        }
        try {
            RestoreJob.Done done = new RestoreJob(house.bench, house.benches, copies)
                    .run(
                            new RestoreJob.Order(
                                    copy,
                                    house.target("back.img"),
                                    "back.img",
                                    WriteMode.WHOLE,
                                    false,
                                    new AfterWrite.Wanted(false, Optional.empty())),
                            TransferWatch.NONE);
            if (done.report().verdict() == Verdict.VERIFIED) {
                try (InputStream stream =
                        ImageFile.open(file).first(exordium.core.quantity.ByteSize.of(copy.source())).stream()) {
                    assertThat(sum(stream)).isEqualTo(digests.get(copy.file()));
                }
            }
        } catch (UnreadableInput | MediumException e) {
            assertThat(e).hasMessageMatching("(?s).*[a-z] .*");
        }
    }

    /** A list whose first letter turned, a plain copy whose first byte did, a link to another copy: none is an image by itself. */
    @Test
    void aDamagedCopyIsNoRawImage() throws IOException {
        for (Copies.Copy copy : all()) {
            Path file = vault.resolve(copy.file());
            DiskBuilder.flip(file, 0);
            assertThatThrownBy(() -> copies.open(copy)).isInstanceOf(UnreadableInput.class);
            assertThatThrownBy(() -> ImageFile.open(file)).isInstanceOf(UnreadableInput.class);
        }
        Path first = vault.resolve(all().get(0).file());
        Path second = vault.resolve(all().get(1).file());
        DiskBuilder.flip(first, 0);
        DiskBuilder.flip(second, 0);
        assertThat(copies.open(all().get(0)).name()).endsWith(".copy");
        Files.delete(second);
        Files.createSymbolicLink(second, first);
        assertThatThrownBy(() -> copies.open(all().get(1)))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("link");
        assertThat(VaultFiles.isThere(vault)).isTrue();
    }
}
