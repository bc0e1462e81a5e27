// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumException;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What was read of a disk made with general tools answers as the disk itself does, and nothing else. */
class AsReadTest {
    private static final Instant AT = Instant.parse("2026-11-12T10:00:00Z");
    private static final List<String> FAMILIES = List.of("plover-4", "plover-5", "curlew-e", "dunlin-u");

    @TempDir
    Path folder;

    private Path disk;
    private Path kept;

    @BeforeEach
    void read() throws IOException {
        disk = new DiskBuilder(folder).start("ssh", "").build("card.img");
        kept = folder.resolve("card.zip");
        try (BlockDevice device = FileDevice.forReading(disk)) {
            AsRead.of(device, AT, AsReadTest::ask).save(kept);
        }
    }

    private static void ask(BlockDevice device) throws IOException {
        Inspector.inspect(device);
        for (String family : FAMILIES) {
            contents(device, family);
        }
    }

    private static MediumContents contents(BlockDevice device, String family) throws IOException {
        BoardProfile profile = Benches.profile(family);
        return ContentsReader.read(device, profile.startFiles());
    }

    @Test
    void itAnswersAsTheDiskDoesForEveryFamily() throws IOException {
        AsRead reading = AsRead.load(kept);
        assertThat(reading.at()).isEqualTo(AT);
        assertThat(reading.size().bytes()).isEqualTo(Files.size(disk));
        try (BlockDevice real = FileDevice.forReading(disk)) {
            assertThat(Inspector.inspect(reading.device()))
                    .usingRecursiveComparison()
                    .isEqualTo(Inspector.inspect(real));
            for (String family : FAMILIES) {
                assertThat(contents(reading.device(), family))
                        .as(family)
                        .usingRecursiveComparison()
                        .isEqualTo(contents(real, family));
            }
        }
    }

    /** Only what was asked for is kept: a small part of the disk, and any zip tool takes it apart. */
    @Test
    void itIsSmallAndAnOpenFile() throws IOException {
        assertThat(Files.size(kept)).isLessThan(Files.size(disk) / 50);
        String listed = GeneralTools.run("python3", "-m", "zipfile", "-l", kept.toString());
        assertThat(listed).contains("medium.json").contains("pages");
    }

    @Test
    void aPlaceThatWasNotReadIsRefusedAndNeverZeros() throws IOException {
        BlockDevice device = AsRead.load(kept).device();
        long middleOfTheRoot = Files.size(disk) - 3 * DiskBuilder.MIB;
        assertThatThrownBy(() -> device.bytes(middleOfTheRoot, 512))
                .isInstanceOf(MediumException.class)
                .hasMessageContaining("not read");
        assertThatThrownBy(() -> device.bytes(Files.size(disk), 1)).isInstanceOf(MediumException.class);
    }

    @Test
    void aDamagedFileEndsInOneSentence() throws IOException {
        byte[] whole = Files.readAllBytes(kept);
        for (int i = 0; i < 60; i++) {
            byte[] damaged = whole.clone();
            damaged[whole.length * i / 60] ^= 0x55;
            Path file = Files.write(folder.resolve("damaged.zip"), damaged);
            try {
                assertThat(AsRead.load(file).size().bytes()).isEqualTo(Files.size(disk));
            } catch (UnreadableInput e) {
                assertThat(e).hasMessageContaining("damaged.zip is damaged");
            }
        }
        Path cut = Files.write(folder.resolve("cut.zip"), java.util.Arrays.copyOf(whole, whole.length / 2));
        assertThatThrownBy(() -> AsRead.load(cut)).isInstanceOf(UnreadableInput.class);
    }
}
