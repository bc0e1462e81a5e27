// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.Machine;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Containers are made by the general tools of their formats; what comes out must be what went in. */
class ImageFileTest {
    @TempDir
    Path folder;

    private Path raw;
    private byte[] content;

    @BeforeEach
    void image() throws IOException {
        content = new byte[700_001];
        new Random(7).nextBytes(content);
        Arrays.fill(content, 100_000, 400_000, (byte) 0);
        raw = Files.write(folder.resolve("image.img"), content);
    }

    private Path packed(String kind) {
        String file = raw.toString();
        switch (kind) {
            case "xz" -> GeneralTools.run("xz", "-k", "-1", file);
            case "xz-blocks" -> GeneralTools.run("xz", "-k", "-0", "--block-size=65536", file);
            case "gz" -> GeneralTools.run("gzip", "-k", file);
            case "zst" -> GeneralTools.run("zstd", "-q", "-k", file);
            case "bz2" -> GeneralTools.run("bzip2", "-k", file);
            case "zip" -> GeneralTools.run(folder, "zip", "-q", "image.img.zip", "image.img");
            default -> throw new IllegalArgumentException(kind);
        }
        return folder.resolve("image.img." + (kind.startsWith("xz") ? "xz" : kind));
    }

    @ParameterizedTest
    @CsvSource({"xz, XZ", "xz-blocks, XZ", "gz, GZIP", "zst, ZSTD", "bz2, BZIP2", "zip, ZIP"})
    void everyContainerGivesTheImageBack(String tool, ContainerKind kind) throws IOException {
        // Renamed, since content decides and not the name.
        Path renamed = Files.move(packed(tool), folder.resolve("renamed.bin"));
        ImageFile image = ImageFile.open(renamed);
        assertThat(image.kind()).isEqualTo(kind);
        try (InputStream stream = image.stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(content);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"xz", "xz-blocks", "zst", "zip"})
    void theSizeIsKnownBeforeUnpackingWhereTheFormatTellsIt(String tool) throws IOException {
        assertThat(ImageFile.open(packed(tool)).uncompressedSize()).contains(ByteSize.of(content.length));
    }

    @Test
    void gzipAndBzip2TellNoSizeThatCanBeTrusted() throws IOException {
        assertThat(ImageFile.open(packed("gz")).uncompressedSize()).isEmpty();
        assertThat(ImageFile.open(packed("bz2")).uncompressedSize()).isEmpty();
    }

    @Test
    void aRawImageIsItself() throws IOException {
        ImageFile image = ImageFile.open(raw);
        assertThat(image.kind()).isEqualTo(ContainerKind.RAW);
        assertThat(image.uncompressedSize()).isEqualTo(Optional.of(image.compressedSize()));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 13, 5_000, 200_000})
    void aCutOffXzIsFoundOnOpening(int missing) throws IOException {
        Path whole = packed("xz");
        byte[] bytes = Files.readAllBytes(whole);
        Path cut = Files.write(folder.resolve("cut.xz"), Arrays.copyOf(bytes, bytes.length - missing));
        assertThatThrownBy(() -> ImageFile.open(cut))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("cut.xz is not a whole xz file");
    }

    @ParameterizedTest
    @ValueSource(strings = {"gz", "zst", "bz2"})
    void aCutOffStreamEndsInOneSentence(String tool) throws IOException {
        byte[] bytes = Files.readAllBytes(packed(tool));
        Path cut = Files.write(folder.resolve("cut"), Arrays.copyOf(bytes, bytes.length / 2));
        assertThatThrownBy(() -> {
                    try (InputStream stream = ImageFile.open(cut).stream()) {
                        stream.readAllBytes();
                    }
                })
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("cut is not a whole");
    }

    @ParameterizedTest
    @ValueSource(strings = {"xz", "gz", "zst", "bz2", "zip"})
    void damagedBytesNeverComeOutAsAWholeImage(String tool) throws IOException {
        byte[] bytes = Files.readAllBytes(packed(tool));
        Random random = new Random(3);
        int runs = tool.equals("bz2") ? 12 : 40;
        for (int run = 0; run < runs; run++) {
            byte[] damaged = bytes.clone();
            damaged[100 + random.nextInt(bytes.length - 200)] ^= (byte) (1 << random.nextInt(8));
            Path file = Files.write(folder.resolve("damaged"), damaged);
            byte[] found = null;
            try (InputStream stream = ImageFile.open(file).stream()) {
                found = stream.readAllBytes();
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).contains("damaged");
            }
            assertThat(found == null || Arrays.equals(found, content))
                    .as("run %s: either one sentence or the very same bytes", run)
                    .isTrue();
        }
    }

    @Test
    void strangeInputGetsOneSentence() throws IOException {
        Path empty = Files.createFile(folder.resolve("empty.img"));
        assertThatThrownBy(() -> ImageFile.open(empty)).hasMessage("empty.img is empty.");
        assertThatThrownBy(() -> ImageFile.open(folder)).hasMessageContaining("is not a file");
        assertThatThrownBy(() -> ImageFile.open(folder.resolve("none"))).hasMessageContaining("There is no file");
        Path rar = Files.write(
                folder.resolve("a.rar"), "Rar!\u001a\u0007".getBytes(java.nio.charset.StandardCharsets.ISO_8859_1));
        assertThatThrownBy(() -> ImageFile.open(rar)).hasMessageContaining("unpack it first");
    }

    @Test
    void aZipWithTwoFilesAsksForOne() throws IOException {
        Files.write(folder.resolve("second.img"), new byte[10]);
        GeneralTools.run(folder, "zip", "-q", "two.zip", "image.img", "second.img");
        Path two = folder.resolve("two.zip");
        assertThat(ImageFile.choices(two)).containsExactly("image.img", "second.img");
        assertThat(ImageFile.choices(folder.resolve("image.img"))).isEmpty();
        assertThatThrownBy(() -> ImageFile.open(two))
                .hasMessageContaining("holds 2 images")
                .hasMessageContaining("second.img");
        assertThat(ImageFile.open(two.resolve("second.img")).uncompressedSize()).contains(ByteSize.of(10));
        try (InputStream stream = ImageFile.open(two.resolve("image.img")).stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(content);
        }
        assertThatThrownBy(() -> ImageFile.open(two.resolve("third.img")))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("There is no third.img in two.zip");
        Files.write(folder.resolve("readme.txt"), new byte[10]);
        GeneralTools.run(folder, "zip", "-q", "one.zip", "image.img", "readme.txt");
        assertThat(ImageFile.open(folder.resolve("one.zip")).entry()).contains("image.img");
    }

    @Test
    void publishedChecksumsAgreeWithTheSystemsOwnTool() throws IOException {
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.NONE_KNOWN);
        String line = GeneralTools.run(folder, "sha256sum", "image.img");
        assertThat(line).startsWith(PublishedChecksum.sha256(raw));
        Files.writeString(folder.resolve("SHA256SUMS"), "not a line\n" + line);
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
        content[5] ^= 1;
        Files.write(raw, content);
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.DIFFERS);
        Files.writeString(folder.resolve("image.img.sha256"), PublishedChecksum.sha256(raw) + "\n");
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
    }

    /** As an editor of another system saves it: a mark before, and lines that end in two characters. */
    @Test
    void aListFromAnotherSystemIsRead() throws IOException {
        Files.writeString(folder.resolve("SHA256SUMS"), "\ufeff" + PublishedChecksum.sha256(raw) + "  image.img\r\n");
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
    }

    @Test
    void aChecksumOfAnotherFileIsNotTaken() throws IOException {
        Files.writeString(folder.resolve("SHA256SUMS"), PublishedChecksum.sha256(raw) + "  other.img\n");
        assertThat(PublishedChecksum.besides(raw)).isEmpty();
    }

    /** Blocks and frames are unpacked side by side; what comes out is what went in, in its order. */
    @ParameterizedTest
    @ValueSource(strings = {"xz", "zst"})
    void manyPiecesGiveTheImageBackInOrder(String tool) throws IOException {
        byte[] large = new byte[9_000_001];
        Random random = new Random(11);
        for (int at = 0; at < large.length; at += 3) {
            large[at] = (byte) random.nextInt(7);
        }
        Path file = Files.write(folder.resolve("large.img"), large);
        Path packed = folder.resolve("large.img." + tool);
        if (tool.equals("xz")) {
            GeneralTools.run("xz", "-k", "-0", "--block-size=400000", file.toString());
        } else {
            for (int at = 0; at < large.length; at += 1_000_000) {
                Path part = Files.write(
                        folder.resolve("part"), Arrays.copyOfRange(large, at, Math.min(large.length, at + 1_000_000)));
                GeneralTools.run(
                        "zstd",
                        "-q",
                        "-f",
                        part.toString(),
                        "-o",
                        folder.resolve("part.zst").toString());
                Files.write(
                        packed,
                        Files.readAllBytes(folder.resolve("part.zst")),
                        java.nio.file.StandardOpenOption.CREATE,
                        java.nio.file.StandardOpenOption.APPEND);
            }
        }
        ImageFile image = ImageFile.open(packed);
        assertThat(image.uncompressedSize()).contains(ByteSize.of(large.length));
        try (InputStream stream = image.stream()) {
            assertThat(Arrays.equals(stream.readAllBytes(), large)).isTrue();
        }
    }

    @Test
    void anXzOfManyBlocksIsReadAnywhereWithoutUnpackingIt() throws IOException {
        ImageFile image = ImageFile.open(packed("xz-blocks"));
        Random random = new Random(5);
        try (var device = image.device().orElseThrow()) {
            assertThat(device.size()).isEqualTo(ByteSize.of(content.length));
            for (int i = 0; i < 50; i++) {
                int from = random.nextInt(content.length - 100_000);
                int length = 1 + random.nextInt(100_000);
                assertThat(device.bytes(from, length)).isEqualTo(Arrays.copyOfRange(content, from, from + length));
            }
        }
        assertThat(ImageFile.open(packed("gz")).device()).isEmpty();
    }

    /** Dictionaries of 64 MiB, several at once, are more than a small heap holds; a chain of two filters has them as well. */
    @ParameterizedTest
    @ValueSource(strings = {"-9", "--arm64 --lzma2=preset=9", "--delta=dist=4 --lzma2=dict=96MiB"})
    void blocksOfLargeDictionariesAreUnpackedOutsideTheHeap(String options) throws IOException {
        Path file = Files.write(folder.resolve("heavy.img"), content);
        GeneralTools.run("sh", "-c", "xz -k --block-size=65536 " + options + " " + file);
        Path packed = folder.resolve("heavy.img.xz");
        try (XzBlocks blocks = new XzBlocks(packed);
                XzBlocks light = new XzBlocks(packed("xz-blocks"))) {
            assertThat(blocks.light()).isFalse();
            assertThat(light.light()).isTrue();
            assertThat(blocks.apart()).isEqualTo(Machine.here().xz().isPresent());
        }
        try (InputStream stream = ImageFile.open(packed).stream();
                var device = ImageFile.open(packed).device().orElseThrow()) {
            assertThat(stream.readAllBytes()).isEqualTo(content);
            assertThat(device.bytes(70_000, 130_000)).isEqualTo(Arrays.copyOfRange(content, 70_000, 200_000));
        }
    }

    /** What is stuck to the end is told with its place, or is no part of the image: never a silent half of it. */
    @ParameterizedTest
    @ValueSource(strings = {"xz", "xz-blocks", "gz", "zst", "bz2"})
    void whatIsStuckToTheEndIsTold(String tool) throws IOException {
        Path packed = packed(tool);
        Files.write(packed, new byte[] {1, 2, 3, 4, 5, 6, 7}, java.nio.file.StandardOpenOption.APPEND);
        assertThatThrownBy(() -> {
                    try (InputStream stream = ImageFile.open(packed).stream()) {
                        stream.readAllBytes();
                    }
                })
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("is not a whole");
    }

    /** Several members and streams in one file are one image, as the tools themselves unpack them. */
    @ParameterizedTest
    @ValueSource(strings = {"xz", "gz", "zst", "bz2"})
    void severalStreamsInOneFileAreOneImage(String tool) throws IOException {
        byte[] once = Files.readAllBytes(packed(tool));
        Path twice = folder.resolve("twice");
        Files.write(twice, once);
        Files.write(twice, once, java.nio.file.StandardOpenOption.APPEND);
        try (InputStream stream = ImageFile.open(twice).stream()) {
            byte[] all = stream.readAllBytes();
            assertThat(all).hasSize(2 * content.length).startsWith(content).endsWith(content);
        }
    }

    @Test
    void aZipOfTheLargeFormIsReadAsWell() throws IOException {
        // From standard input zip does not know the size and writes the 64-bit form.
        GeneralTools.run(folder, "sh", "-c", "zip -q -fz- large.zip - < image.img || zip -q large.zip - < image.img");
        try (InputStream stream = ImageFile.open(folder.resolve("large.zip")).stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(content);
        }
    }

    /** Lists made where the image lay in a folder, by either form of the coreutils' tools; or of one line under another name. */
    @Test
    void theLineOfThatBaseNameCountsWhateverFolderStandsBeforeIt() throws IOException {
        Path made = Files.createDirectories(folder.resolve("release/2026"));
        Files.copy(raw, made.resolve("image.img"));
        Files.writeString(
                folder.resolve("SHA256SUMS"), GeneralTools.run(folder, "sha256sum", "./release/2026/image.img"));
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
        Files.writeString(
                folder.resolve("SHA256SUMS"), GeneralTools.run(folder, "sha256sum", "--tag", "release/2026/image.img"));
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
        Files.delete(folder.resolve("SHA256SUMS"));
        Path own = folder.resolve("image.img.sha256");
        String sum = PublishedChecksum.sha256(raw);
        Files.writeString(own, sum + "  build/as-it-was-called.img\n");
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
        Files.writeString(own, sum + "  one.img\n" + "0".repeat(64) + "  two.img\n");
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.NONE_KNOWN);
        Files.writeString(own, "0".repeat(64) + "  one.img\n" + sum + " *C:\\out\\image.img\n");
        assertThat(PublishedChecksum.check(raw)).isEqualTo(PublishedChecksum.State.AGREES);
    }

    /** Large ones are unpacked by the system's library: whole ones come out, damaged ones are told. */
    @ParameterizedTest
    @ValueSource(strings = {"-0 --block-size=2MiB -C sha256", "-0 -T1"})
    void aLargeXzIsUnpackedByTheSystemsLibrary(String options) throws IOException {
        assertThat(Machine.here().xz().isPresent()).isTrue();
        byte[] noise = new byte[7 << 20];
        new Random(12).nextBytes(noise);
        Arrays.fill(noise, 2 << 20, (2 << 20) + 300_000, (byte) 7);
        Path file = Files.write(folder.resolve("noise.img"), noise);
        GeneralTools.run("sh", "-c", "xz " + options + " " + file);
        Path packed = folder.resolve("noise.img.xz");
        assertThat(Files.size(packed)).isGreaterThan(ImageFile.WORTH_THE_SYSTEM);
        try (InputStream stream = ImageFile.open(packed).stream()) {
            assertThat(Arrays.equals(stream.readAllBytes(), noise)).isTrue();
        }
        try (InputStream stream = ImageFile.open(packed).stream()) {
            assertThat(stream.readNBytes(100)).isEqualTo(Arrays.copyOf(noise, 100));
        }
        byte[] damaged = Files.readAllBytes(packed);
        damaged[5 << 20] ^= 4;
        Files.write(packed, damaged);
        assertThatThrownBy(() -> {
                    try (InputStream stream = ImageFile.open(packed).stream()) {
                        stream.transferTo(java.io.OutputStream.nullOutputStream());
                    }
                })
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("noise.img.xz is not a whole xz file");
    }

    /** A container read from a pipe does not say how much it holds; what was made here is known all the same, and held to it. */
    @Test
    void aKnownSizeIsBelievedAndHeldTo() throws IOException {
        byte[] content = new byte[300_000];
        new Random(14).nextBytes(content);
        Path plain = Files.write(folder.resolve("plain.img"), content);
        Path packed = folder.resolve("piped.img.zst");
        GeneralTools.run("sh", "-c", "cat " + plain + " | zstd -q > " + packed);
        ImageFile image = ImageFile.open(packed);
        assertThat(image.uncompressedSize()).isEmpty();
        ImageFile known = image.ofKnownSize(ByteSize.of(content.length));
        assertThat(known.uncompressedSize()).contains(ByteSize.of(content.length));
        try (InputStream stream = known.stream()) {
            assertThat(Arrays.equals(stream.readAllBytes(), content)).isTrue();
        }
        for (int wrong : new int[] {-1, 1}) {
            assertThatThrownBy(() -> {
                        try (InputStream stream = image.ofKnownSize(ByteSize.of(content.length + wrong)).stream()) {
                            stream.transferTo(java.io.OutputStream.nullOutputStream());
                        }
                    })
                    .isInstanceOf(UnreadableInput.class);
        }
    }

    /** Two streams in one file with padding between them, which the format allows (The .xz File Format, 2.2). */
    @Test
    void severalStreamsInOneLargeXzComeOutOneAfterTheOther() throws IOException {
        byte[] noise = new byte[4 << 20];
        new Random(13).nextBytes(noise);
        Path one = Files.write(folder.resolve("one"), noise);
        GeneralTools.run(
                "sh",
                "-c",
                "cd " + folder
                        + " && xz -0 -T1 -c one > two.img.xz && printf '\\0\\0\\0\\0' >> two.img.xz && xz -0 -T1 -c -C crc32 "
                        + one + " >> two.img.xz");
        try (InputStream stream = ImageFile.open(folder.resolve("two.img.xz")).stream()) {
            assertThat(Arrays.equals(stream.readNBytes(noise.length), noise)).isTrue();
            assertThat(Arrays.equals(stream.readAllBytes(), noise)).isTrue();
        }
    }
}
