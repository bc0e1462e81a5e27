// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.github.luben.zstd.Zstd;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A copy of a vault written here by hand, as docs/formats/vault.md has it, and read anywhere; and the first bytes of a raw image. */
class CopyDeviceTest {
    /** Not a whole number of chunks, and half of them holes. */
    private static final int SIZE = 9 * Chunk.BYTES + 70_000;

    @TempDir
    private Path folder;

    private final byte[] drive = new byte[SIZE];
    private Path copy;
    private Path index;

    @BeforeEach
    void aVaultByHand() throws IOException {
        Files.createDirectories(folder.resolve("packs"));
        copy = Files.createDirectories(folder.resolve("board")).resolve("board-x.copy");
        index = folder.resolve("packs/a.index");
        Random random = new Random(5);
        List<CopyManifest.Place> places = new ArrayList<>();
        StringBuilder lines = new StringBuilder();
        ByteBuffer pack = ByteBuffer.allocate(2 * SIZE);
        for (int at = 0; at < SIZE; at += 2 * Chunk.BYTES) {
            byte[] bytes = new byte[Math.min(Chunk.BYTES, SIZE - at)];
            random.nextBytes(bytes);
            System.arraycopy(bytes, 0, drive, at, bytes.length);
            Chunk chunk = Chunk.of(bytes, 0, bytes.length);
            byte[] packed = Zstd.compress(bytes);
            places.add(new CopyManifest.Place(at, bytes.length, chunk));
            lines.append(chunk.hex() + " " + pack.position() + " " + packed.length + " " + bytes.length + "\n");
            pack.put(packed);
        }
        Files.write(folder.resolve("packs/a.pack"), Arrays.copyOf(pack.array(), pack.position()));
        Files.writeString(index, lines);
        new CopyManifest(ByteSize.of(SIZE), 512, Map.of("board", "board"), places).save(copy);
    }

    @Test
    void itIsReadAnywhere() throws IOException {
        Random random = new Random(9);
        try (BlockDevice device = CopyDevice.open(copy)) {
            assertThat(device.size().bytes()).isEqualTo(SIZE);
            assertThat(device.readOnly()).isTrue();
            for (int i = 0; i < 300; i++) {
                int from = random.nextInt(SIZE);
                int length = 1 + random.nextInt(Math.min(3 * Chunk.BYTES, SIZE - from));
                assertThat(device.bytes(from, length)).isEqualTo(Arrays.copyOfRange(drive, from, from + length));
            }
            assertThatThrownBy(() -> device.bytes(SIZE - 10, 11)).isInstanceOf(MediumException.class);
        }
        try (InputStream stream = ImageFile.open(copy).stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(drive);
        }
        assertThat(CopyManifest.load(copy).fact("board")).contains("board");
        assertThat(CopyManifest.verify(copy)).hasSize(64);
    }

    /** Passing over does not unpack what lies between. */
    @Test
    void whatIsPassedOverIsNotUnpacked() throws IOException {
        try (ImageReader reader = ImageFile.open(copy).reader()) {
            assertThat(reader.passOver(4L * Chunk.BYTES)).isTrue();
            ByteBuffer rest = ByteBuffer.allocate(SIZE);
            reader.fill(rest);
            assertThat(rest.position()).isEqualTo(SIZE - 4 * Chunk.BYTES);
            assertThat(Arrays.copyOf(rest.array(), rest.position()))
                    .isEqualTo(Arrays.copyOfRange(drive, 4 * Chunk.BYTES, SIZE));
        }
    }

    /** Lines of an index that are none are passed by: what they should name is found in the pack; where it is not, the copies say what is missing. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "nonsense",
                "zz 0 1 2",
                "0 0 0",
                "%s 0 99999999 131072",
                "%s 999999999999 10 131072",
                "%s 0 10 999999"
            })
    void aBrokenIndexIsNoEndOfTheOthers(String line) throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(index));
        String first = lines.get(0).substring(0, 64);
        lines.set(0, line.formatted(first));
        Files.write(index, lines);
        // It lies in the pack all the same.
        try (InputStream stream = ImageFile.open(copy).stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(drive);
        }
        DiskBuilder.flip(folder.resolve("packs/a.pack"), 1000);
        assertThatThrownBy(() -> CopyDevice.open(copy))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("1 of its 5 chunks");
        // A later pack that has it counts.
        byte[] bytes = Arrays.copyOf(drive, Chunk.BYTES);
        byte[] packed = Zstd.compress(bytes);
        Files.write(folder.resolve("packs/b.pack"), packed);
        Files.writeString(folder.resolve("packs/b.index"), first + " 0 " + packed.length + " " + bytes.length + "\n");
        try (InputStream stream = ImageFile.open(copy).stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(drive);
        }
    }

    /** Two lines exchanged, or a later index that lies: what is given out is what the digest says, or nothing is. */
    @Test
    void anIndexThatLiesGivesNoOtherBytes() throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(index));
        String one = lines.get(0);
        String other = lines.get(1);
        lines.set(0, one.substring(0, 64) + other.substring(64));
        lines.set(1, other.substring(0, 64) + one.substring(64));
        Files.write(index, lines);
        try (InputStream stream = ImageFile.open(copy).stream()) {
            assertThatThrownBy(stream::readAllBytes).isInstanceOf(UnreadableInput.class);
        }
        lines.set(0, one);
        lines.set(1, other);
        Files.write(index, lines);
        Files.copy(folder.resolve("packs/a.pack"), folder.resolve("packs/z.pack"));
        Files.writeString(folder.resolve("packs/z.index"), one.substring(0, 64) + other.substring(64) + "\n");
        try (InputStream stream = ImageFile.open(copy).stream()) {
            assertThat(stream.readAllBytes())
                    .as("an earlier index has it where it is")
                    .isEqualTo(drive);
        }
    }

    /** A pipe or a file without an end in the place of an index stops nobody. */
    @Test
    void anIndexThatIsNoFileIsPassedBy() throws IOException {
        Files.delete(index);
        GeneralTools.run("mkfifo", index.toString());
        Files.createSymbolicLink(folder.resolve("packs/b.index"), Path.of("/dev/zero"));
        Files.write(folder.resolve("packs/b.pack"), new byte[100]);
        try (InputStream stream = ImageFile.open(copy).stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(drive);
        }
    }

    @Test
    void aPackThatIsGoneIsSaid() throws IOException {
        Files.delete(folder.resolve("packs/a.pack"));
        assertThatThrownBy(() -> CopyDevice.open(copy))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("5 of its 5 chunks are in no pack");
    }

    /** The first bytes of a drive's file, for one that goes on a smaller drive. */
    @Test
    void aRawImageIsCut() throws IOException {
        Path raw = folder.resolve("raw.img");
        Files.write(raw, drive);
        ImageFile cut = ImageFile.open(raw).first(ByteSize.of(100_000));
        assertThat(cut.uncompressedSize()).contains(ByteSize.of(100_000));
        try (InputStream stream = cut.stream()) {
            assertThat(stream.readAllBytes()).isEqualTo(Arrays.copyOf(drive, 100_000));
        }
        try (ImageReader reader = cut.reader()) {
            ByteBuffer all = ByteBuffer.allocate(SIZE);
            reader.fill(all);
            assertThat(all.position()).isEqualTo(100_000);
        }
        assertThatThrownBy(() -> ImageFile.open(raw).first(ByteSize.of(SIZE + 1)))
                .isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> ImageFile.open(copy).first(ByteSize.of(10)))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
