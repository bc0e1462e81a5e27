// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

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
        ImageFile image = ImageFile.open(cut);
        assertThatThrownBy(() -> {
                    try (InputStream stream = image.stream()) {
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
        for (int run = 0; run < 40; run++) {
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
        assertThatThrownBy(() -> ImageFile.open(folder.resolve("two.zip"))).hasMessageContaining("holds 2 files");
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

    @Test
    void aChecksumOfAnotherFileIsNotTaken() throws IOException {
        Files.writeString(folder.resolve("SHA256SUMS"), PublishedChecksum.sha256(raw) + "  other.img\n");
        assertThat(PublishedChecksum.besides(raw)).isEmpty();
    }
}
