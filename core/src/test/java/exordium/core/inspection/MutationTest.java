// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.ReadOnlyDevice;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Sound images, tables and containers with bytes changed at random, by the ten thousand: every reader ends in time, within its
 * memory, and with nothing but the typed errors. The heap of the tests is the bound of memory.
 */
class MutationTest {
    private static final int RUNS = Integer.getInteger("exordium.mutations", 70);
    private static final Duration LONGEST = Duration.ofSeconds(20);

    @TempDir
    Path folder;

    /** Bytes in memory as a device. */
    private static final class Bytes extends ReadOnlyDevice {
        private final byte[] content;

        Bytes(byte[] content) {
            super("mutated", ByteSize.of(content.length), 512);
            this.content = content;
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            requireInside(position, target.remaining());
            target.put(content, (int) position, target.remaining());
        }
    }

    /** Most of the changes go where structures stand; some set whole words, since sizes and counts break most. */
    private static byte[] mutate(byte[] sound, int interesting, Random random) {
        byte[] changed = sound.clone();
        for (int i = random.nextInt(12); i >= 0; i--) {
            int reach = random.nextInt(5) > 0 ? Math.min(interesting, sound.length) : sound.length;
            int at = random.nextInt(reach);
            switch (random.nextInt(4)) {
                case 0 -> changed[at] = (byte) random.nextInt(256);
                case 1 -> changed[at] ^= (byte) (1 << random.nextInt(8));
                case 2 -> Arrays.fill(changed, at, Math.min(changed.length, at + 4), (byte) 0xFF);
                default -> Arrays.fill(changed, at, Math.min(changed.length, at + 4), (byte) 0);
            }
        }
        return random.nextInt(10) == 0 ? Arrays.copyOf(changed, random.nextInt(changed.length) + 1) : changed;
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiterString = " :: ",
            quoteCharacter = '"',
            value = {
                "mbr :: 4 :: 8192 :: printf 'label: dos\\nsize=1M,type=c\\ntype=5\\nsize=500K\\nsize=400K\\n' | sfdisk -q --no-tell-kernel IMG",
                "gpt :: 4 :: 20000 :: sgdisk -n 1:0:+1M -n 2:0:+1M IMG",
                "fat12 :: 2 :: 20000 :: mkfs.vfat -F 12 IMG; seq 9000 > f; mcopy -i IMG f ::a; mmd -i IMG ::b; mcopy -i IMG f ::b/c",
                "fat32 :: 40 :: 700000 :: mkfs.vfat -F 32 -s 1 IMG; seq 9000 > f; mcopy -i IMG f ::a",
                "ext4 :: 2 :: 400000 :: mkdir -p d/e; seq 9000 > d/e/f; ln -s e/f d/l; mke2fs -q -t ext4 -b 1024 -d d IMG",
                "ext2 :: 2 :: 400000 :: mkdir -p d/e; seq 90000 > d/e/f; mke2fs -q -t ext2 -b 1024 -d d IMG",
                "exfat :: 8 :: 2200000 :: mkfs.exfat -L ATLAS IMG",
                "ntfs :: 8 :: 200000 :: mkfs.ntfs -q -F -L Office IMG",
                "iso :: 1 :: 50000 :: mkdir d; seq 9 > d/f; rm IMG; xorriso -as mkisofs -quiet -V CHART -o IMG d",
            })
    void readersOfDrivesEndInTypedErrorsOnly(String name, int mib, int interesting, String script) throws IOException {
        DiskBuilder.blank(folder.resolve("image.img"), mib * DiskBuilder.MIB);
        GeneralTools.run(folder, "sh", "-ec", script.replace("IMG", "image.img"));
        byte[] sound = Files.readAllBytes(folder.resolve("image.img"));
        long seed = System.nanoTime();
        Random random = new Random(seed);
        // Large ones take longer to copy than to read.
        int runs = mib > 20 ? RUNS / 10 : RUNS;
        for (int run = 0; run < runs; run++) {
            String what = name + ", run " + run + " of seed " + seed;
            within(what, new Bytes(mutate(sound, interesting, random)));
        }
    }

    private static void within(String what, BlockDevice device) {
        long begin = System.nanoTime();
        try {
            Inspector.inspect(device);
            UsedMap.of(device);
            Optional<FileSystemReader> reader = FileSystems.open(device);
            if (reader.isPresent()) {
                walk(reader.get(), "/", 0, new int[] {200});
            }
        } catch (UnreadableInput | MediumException e) {
            assertThat(e.getMessage()).as(what).isNotBlank();
        } catch (IOException | RuntimeException | OutOfMemoryError | StackOverflowError e) {
            throw new AssertionError(what, e);
        }
        assertThat(Duration.ofNanos(System.nanoTime() - begin)).as(what).isLessThan(LONGEST);
    }

    private static void walk(FileSystemReader reader, String path, int depth, int[] left) throws IOException {
        for (FileEntry entry : reader.entries(path)) {
            if (left[0]-- <= 0 || depth > 8) {
                return;
            }
            String own = (path.equals("/") ? "" : path) + "/" + entry.name();
            if (entry.kind() == FileEntry.EntryKind.FOLDER) {
                walk(reader, own, depth + 1, left);
            } else if (entry.size() < 4 << 20) {
                reader.copy(own, OutputStream.nullOutputStream());
            }
        }
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiterString = " :: ",
            value = {
                "xz :: xz -0 -c image.img > packed",
                "xz blocks :: xz -0 --block-size=20000 -c image.img > packed",
                "gzip :: gzip -c image.img > packed",
                "zstd :: zstd -q -c image.img > packed",
                "bzip2 :: bzip2 -c image.img > packed",
                "zip :: zip -q packed.zip image.img && mv packed.zip packed",
                "7z :: 7z a -bd -bso0 packed.7z image.img && mv packed.7z packed",
            })
    void containersEndInTypedErrorsOnly(String name, String script) throws IOException {
        GeneralTools.run(folder, "sh", "-ec", "seq 20000 > image.img; " + script);
        byte[] sound = Files.readAllBytes(folder.resolve("packed"));
        byte[] image = Files.readAllBytes(folder.resolve("image.img"));
        long seed = System.nanoTime();
        Random random = new Random(seed);
        for (int run = 0; run < RUNS; run++) {
            String what = name + ", run " + run + " of seed " + seed;
            Path file = Files.write(folder.resolve("changed"), mutate(sound, sound.length, random));
            long begin = System.nanoTime();
            byte[] piece = new byte[1 << 16];
            long total = 0;
            try (InputStream stream = ImageFile.open(file).stream()) {
                for (int got = stream.read(piece); got >= 0 && total < 100 << 20; got = stream.read(piece)) {
                    total += got;
                }
                // A changed container that unpacks to its end either changed nothing that counts or is no container any
                // more.
                assertThat(total).as(what).isLessThanOrEqualTo(Math.max(image.length, Files.size(file)));
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).as(what).contains("changed");
            } catch (IOException | RuntimeException | OutOfMemoryError | StackOverflowError e) {
                throw new AssertionError(what, e);
            }
            assertThat(Duration.ofNanos(System.nanoTime() - begin)).as(what).isLessThan(LONGEST);
        }
    }

    @Test
    void journalsAndSumsOfRubbishEndInTypedErrorsOnly() throws IOException {
        Random random = new Random(4);
        for (int run = 0; run < RUNS; run++) {
            byte[] rubbish = new byte[random.nextInt(400)];
            random.nextBytes(rubbish);
            Path file = Files.write(folder.resolve("rubbish"), rubbish);
            try {
                exordium.core.image.PublishedChecksum.check(
                        file, new String(rubbish, java.nio.charset.StandardCharsets.ISO_8859_1));
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).contains("is no checksum");
            }
        }
    }
}
