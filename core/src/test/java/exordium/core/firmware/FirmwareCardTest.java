// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ArchiveFiles;
import exordium.core.layout.DiskIdentifier;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Cards that carry firmware: archives made by zip and tar, the card looked into by mtools and fsck. */
class FirmwareCardTest {
    private static final ByteSize FOUR = ByteSize.parse("4 GB");
    private static final ByteSize EIGHT = ByteSize.parse("8 GB");

    @TempDir
    Path folder;

    private BoardProfile dunlin;
    private Path tree;
    private final byte[] payload = new byte[1_900_000];

    @BeforeEach
    void archiveOfARelease() throws IOException {
        dunlin = BoardProfiles.shipped().require("dunlin-u");
        new Random(4).nextBytes(payload);
        tree = folder.resolve("tree/firmware-1.4");
        Files.createDirectories(tree.resolve("overlays"));
        Files.write(tree.resolve("DUNLIN.fd"), payload);
        Files.writeString(tree.resolve("start4.elf"), "start");
        Files.writeString(tree.resolve("Readme.md"), "read me");
        Files.writeString(tree.resolve("overlays/LICENCE.txt"), "words");
        Files.writeString(tree.resolve("overlays/upstream pmu.dtbo"), "overlay");
        Files.writeString(tree.resolve("config.txt"), "arm_64bit=1\r\nenable_uart=1\r\n");
    }

    private Path packed(String kind) {
        String into = folder.resolve("firmware." + kind).toString();
        String tools = "cd " + tree.getParent() + " && "
                + switch (kind) {
                    case "zip" -> "zip -qr " + into + " .";
                    case "tar" -> "tar cf " + into + " firmware-1.4";
                    case "tar.gz" -> "tar czf " + into + " ./firmware-1.4";
                    default -> "tar cJf " + into + " firmware-1.4";
                };
        GeneralTools.run("sh", "-c", tools);
        return Path.of(into);
    }

    private FirmwareCard card(Path archive, ByteSize memory) throws IOException {
        return FirmwareCard.of("it", ArchiveFiles.read(archive), dunlin, memory);
    }

    @ParameterizedTest
    @ValueSource(strings = {"zip", "tar", "tar.gz", "tar.xz"})
    void anArchiveLiesStraightAtTheTopOfAFat32Card(String kind) throws IOException {
        FirmwareCard card = card(packed(kind), EIGHT);
        assertThat(card.files())
                .containsOnlyKeys("DUNLIN.fd", "start4.elf", "overlays/upstream pmu.dtbo", "config.txt");
        assertThat(card.leftOut()).containsExactlyInAnyOrder("Readme.md", "overlays/LICENCE.txt");
        Path image = folder.resolve("card.img");
        card.image(image, new DiskIdentifier("5eed0042"));
        assertThat(GeneralTools.run("sfdisk", "--disk-id", image.toString())).contains("0x5eed0042");
        String slice = image + "@@1M";
        assertThat(GeneralTools.run("mdir", "-b", "-/", "-i", slice, "::").lines())
                .containsExactlyInAnyOrder(
                        "::/DUNLIN.fd",
                        "::/start4.elf",
                        "::/overlays/",
                        "::/overlays/upstream pmu.dtbo",
                        "::/config.txt");
        Path out = folder.resolve("out");
        GeneralTools.run("mcopy", "-i", slice, "::DUNLIN.fd", out.toString());
        assertThat(Arrays.equals(Files.readAllBytes(out), payload)).isTrue();
        Path partition = folder.resolve("partition");
        GeneralTools.run("dd", "status=none", "bs=1M", "skip=1", "if=" + image, "of=" + partition);
        assertThat(GeneralTools.run("fsck.fat", "-n", "-v", partition.toString()))
                .contains("32 bit");
    }

    @Test
    void aSmallBoardGivesTheGraphicsTheLeastAndKeepsTheOtherLines() throws IOException {
        FirmwareCard card = card(packed("zip"), FOUR);
        assertThat(card.settings()).contains("gpu_mem=16");
        assertThat(new String(card.files().get("config.txt"), StandardCharsets.UTF_8))
                .startsWith("arm_64bit=1\r\nenable_uart=1\r\n")
                .contains("gpu_mem=16");
        assertThat(card.findings())
                .extracting(Finding::code)
                .contains("firmware-card-graphics", "firmware-card-memory-cap");
        FirmwareCard large = card(packed("tar"), EIGHT);
        assertThat(large.settings()).isEmpty();
        assertThat(new String(large.files().get("config.txt"), StandardCharsets.UTF_8))
                .isEqualTo("arm_64bit=1\r\nenable_uart=1\r\n");
        assertThat(large.findings()).anySatisfy(each -> assertThat(each.text()).contains("3.00 GB of the 8.00 GB"));
        Files.delete(tree.resolve("config.txt"));
        assertThat(new String(card(packed("tar.gz"), FOUR).files().get("config.txt"), StandardCharsets.UTF_8))
                .contains("gpu_mem=16");
    }

    @Test
    void aPracticeCardAndAnotherFamilyAreTold() throws IOException {
        FirmwareCard nothing =
                FirmwareCard.of("notes.zip", Map.of("a/notes.txt", new byte[3], "b/x", new byte[1]), dunlin, EIGHT);
        assertThat(nothing.findings().get(0).code()).isEqualTo("firmware-card-empty");
        assertThat(nothing.findings().get(0).stops()).isTrue();
        BoardProfile chip = BoardProfiles.shipped().require("plover-5");
        assertThatThrownBy(() -> FirmwareCard.of("x", Map.of("start4.elf", new byte[1]), chip, EIGHT))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("chip");
        assertThatThrownBy(() -> FirmwareCard.of("x", Map.of("start*.elf", new byte[1]), dunlin, EIGHT))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("FAT");
        assertThatThrownBy(() -> FirmwareCard.of(
                        "x", Map.of("start4.elf", new byte[1], "a", new byte[1], "A/b", new byte[1]), dunlin, EIGHT))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("as a file and as a folder");
    }

    private Path zipOf(String... names) throws IOException {
        Path file = folder.resolve("made.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
            for (String name : names) {
                zip.putNextEntry(new ZipEntry(name));
                zip.write('x');
            }
        }
        return file;
    }

    @ParameterizedTest
    @ValueSource(strings = {"../start4.elf", "/start4.elf", "a/../../b", "..\\b", "C:\\b", "a\nb"})
    void pathsThatLeadOutAreRefused(String name) throws IOException {
        Path file = zipOf("start4.elf", name);
        assertThatThrownBy(() -> ArchiveFiles.read(file))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("outside");
    }

    @Test
    void hostileArchivesAreNamedAndBounded() throws IOException {
        Path twins = zipOf("start4.elf", "START4.ELF");
        assertThatThrownBy(() -> ArchiveFiles.read(twins)).hasMessageContaining("twice");
        String[] many = new String[2100];
        Arrays.setAll(many, i -> "f" + i);
        Path crowd = zipOf(many);
        assertThatThrownBy(() -> ArchiveFiles.read(crowd)).isInstanceOf(OverBound.class);
        Path bomb = folder.resolve("bomb.tar.gz");
        GeneralTools.run("sh", "-c", "cd " + folder + " && truncate -s 300M zeros && tar czf bomb.tar.gz zeros");
        assertThatThrownBy(() -> ArchiveFiles.read(bomb)).isInstanceOf(OverBound.class);
        Path cut = packed("zip");
        byte[] whole = Files.readAllBytes(cut);
        Files.write(cut, Arrays.copyOf(whole, whole.length / 2));
        assertThatThrownBy(() -> ArchiveFiles.read(cut)).isInstanceOf(UnreadableInput.class);
        whole[whole.length / 3] ^= 8;
        Files.write(cut, whole);
        assertThatThrownBy(() -> ArchiveFiles.read(cut)).isInstanceOf(UnreadableInput.class);
        Path text = Files.writeString(folder.resolve("text.zip"), "no archive at all, only words\n".repeat(60));
        assertThatThrownBy(() -> ArchiveFiles.read(text)).isInstanceOf(UnreadableInput.class);
        Path empty = Files.createFile(folder.resolve("empty.tar"));
        assertThatThrownBy(() -> ArchiveFiles.read(empty)).isInstanceOf(UnreadableInput.class);
        Random random = new Random(9);
        byte[] tar = Files.readAllBytes(packed("tar"));
        Path broken = folder.resolve("broken.tar");
        for (int i = 0; i < 60; i++) {
            byte[] other = tar.clone();
            for (int j = 0; j < 5; j++) {
                other[random.nextInt(4096)] = (byte) random.nextInt();
            }
            try (OutputStream out = Files.newOutputStream(broken)) {
                out.write(other);
            }
            try {
                assertThat(ArchiveFiles.read(broken)).isNotEmpty();
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).contains("broken.tar");
            }
        }
    }
}
