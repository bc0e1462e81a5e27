// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.StagedDevice;
import exordium.core.filesystem.FileSystemException;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is changed in FAT volumes, held against dosfstools and mtools. */
class FatWriterTest {
    @TempDir
    private Path folder;

    private Path made(int width, String size) {
        Path image = folder.resolve("fat.img");
        GeneralTools.run("truncate", "-s", size, image.toString());
        GeneralTools.run("mkfs.vfat", "-F", Integer.toString(width), "-s", "1", image.toString());
        return image;
    }

    private static BlockDevice open(Path image) throws IOException {
        return FileDevice.forWriting(image, ByteSize.of(Files.size(image)));
    }

    @ParameterizedTest
    @ValueSource(ints = {12, 16, 32})
    void whateverIsChangedIsSound(int width) throws IOException {
        Path image = made(width, width == 12 ? "1M" : width == 16 ? "8M" : "40M");
        Path other = Files.writeString(folder.resolve("other"), "never touched\n");
        GeneralTools.run("mcopy", "-i", image.toString(), other.toString(), "::A long name of another file.txt");
        Random random = new Random(width);
        Map<String, byte[]> wanted = new TreeMap<>();
        try (BlockDevice device = open(image)) {
            for (int i = 0; i < 60; i++) {
                String path = (i % 3 == 0 ? "folder with a name/" : "") + "File number " + random.nextInt(12) + ".conf";
                if (wanted.containsKey(path) && random.nextInt(3) == 0) {
                    FatWriter.remove(device, path);
                    wanted.remove(path);
                } else {
                    byte[] content = "x=1\n".repeat(random.nextInt(900)).getBytes(StandardCharsets.US_ASCII);
                    FatWriter.write(device, path, content);
                    wanted.put(path, content);
                }
            }
        }
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", image.toString()))
                .as(() -> GeneralTools.said("fsck.fat", "-n", image.toString()))
                .isZero();
        for (Map.Entry<String, byte[]> each : wanted.entrySet()) {
            assertThat(GeneralTools.run("mtype", "-i", image.toString(), "::" + each.getKey()))
                    .isEqualTo(new String(each.getValue(), StandardCharsets.US_ASCII));
        }
        assertThat(GeneralTools.run("mtype", "-i", image.toString(), "::A long name of another file.txt"))
                .isEqualTo("never touched\n");
    }

    @Test
    void whatHasNoRoomIsNotBegun() throws IOException {
        Path image = made(12, "1M");
        byte[] before = Files.readAllBytes(image);
        try (BlockDevice device = open(image)) {
            assertThatThrownBy(() -> FatWriter.write(device, "large", new byte[2 << 20]))
                    .hasMessageContaining("bytes left");
            assertThatThrownBy(() -> FatWriter.remove(device, "nothing")).hasMessageContaining("nothing");
        }
        assertThat(Files.readAllBytes(image)).isEqualTo(before);
    }

    /** Names of every kind, each with its own short name; read by mtools, which tells both. */
    @ParameterizedTest
    @ValueSource(ints = {12, 32})
    void namesOfEveryKindHaveAShortNameOfTheirOwn(int width) throws IOException {
        Path image = made(width, width == 12 ? "1M" : "40M");
        List<String> names = List.of(
                "README.TXT",
                "readme.md",
                "config.txt",
                "cmdline.txt",
                "network-config",
                "a.b.c.d",
                ".profile",
                "two words.conf",
                "two  words.conf",
                "plover-4-b-rev2.dtb",
                "plover-4-b-rev1.dtb",
                "plover-4-c.dtb",
                "Möwe.txt",
                "x".repeat(255),
                "x".repeat(254) + "y",
                "thirteen13.tx",
                "KERNEL.IMG",
                "kernel8.img");
        try (BlockDevice device = open(image)) {
            for (String name : names) {
                FatWriter.write(device, name, name.getBytes(StandardCharsets.UTF_8));
                FatWriter.write(device, "below/" + name, new byte[0]);
            }
            for (String wrong : List.of("a:b", "what?", "a\nb", "end.", "end ", "x".repeat(256))) {
                assertThatThrownBy(() -> FatWriter.write(device, wrong, new byte[1]))
                        .hasMessageContaining("no name that a FAT volume can hold");
            }
            assertThatThrownBy(() -> FatWriter.write(device, "below", new byte[1]))
                    .hasMessageContaining("is a folder");
            assertThatThrownBy(() -> FatWriter.write(device, "KERNEL.IMG/x", new byte[1]))
                    .hasMessageContaining("is no folder");
        }
        whole(image);
        for (String folder : List.of("", "below")) {
            String told = GeneralTools.run("sh", "-c", "LC_ALL=C.UTF-8 mdir -/ -b -i " + image + " ::" + folder);
            for (String name : names) {
                assertThat(told).contains("/" + name + "\n");
            }
        }
        List<String> shorts = GeneralTools.run(
                        "sh", "-c", "LC_ALL=C.UTF-8 mdir -i " + image + " :: | cut -c1-12 | grep -v '^ ' | sort")
                .lines()
                .filter(line -> !line.isBlank() && !line.startsWith("Dir"))
                .toList();
        assertThat(shorts)
                .doesNotHaveDuplicates()
                .contains("README   TXT", "CONFIG   TXT", "PLOVER~1 DTB", "PLOVER~2 DTB");
        try (BlockDevice device = open(image)) {
            for (String name : names) {
                FatWriter.remove(device, name.toUpperCase(java.util.Locale.ROOT));
            }
        }
        whole(image);
    }

    /** Sixteen entries to a cluster of 512 bytes: a folder grows, is emptied, filled again, and grows no further than it has to. */
    @Test
    void aFolderGrowsByClustersAndTheFixedOneDoesNot() throws IOException {
        Path image = made(32, "40M");
        try (BlockDevice device = open(image)) {
            for (int round = 0; round < 2; round++) {
                for (int i = 0; i < 40; i++) {
                    FatWriter.write(device, "deep/down/a file with a name " + i, new byte[600]);
                }
                whole(image);
                for (int i = 0; i < 40; i += 2) {
                    FatWriter.remove(device, "deep/down/a file with a name " + i);
                }
                whole(image);
            }
        }
        Path small = folder.resolve("small.img");
        GeneralTools.run("truncate", "-s", "1M", small.toString());
        GeneralTools.run("mkfs.vfat", "-F", "12", "-r", "16", small.toString());
        try (BlockDevice device = open(small)) {
            for (int i = 0; i < 16; i++) {
                FatWriter.write(device, "F" + i, new byte[0]);
            }
            byte[] before = Files.readAllBytes(small);
            assertThatThrownBy(() -> FatWriter.write(device, "ONE.MORE", new byte[1]))
                    .hasMessageContaining("no room for ONE.MORE");
            assertThat(Files.readAllBytes(small)).isEqualTo(before);
            FatWriter.remove(device, "F3");
            FatWriter.write(device, "ONE", new byte[1]);
        }
        whole(small);
    }

    /** A volume filled to its last cluster: what fits is there, what does not is not begun, and the count of free ones is right. */
    @ParameterizedTest
    @ValueSource(ints = {12, 16, 32})
    void aVolumeIsFilledToItsLastCluster(int width) throws IOException {
        Path image = made(width, width == 12 ? "1M" : width == 16 ? "8M" : "34M");
        Path large = folder.resolve("large");
        String free = GeneralTools.run("sh", "-c", "mdir -i " + image + " :: | tail -n 2 | tr -dc 0-9");
        GeneralTools.run("truncate", "-s", String.valueOf(Long.parseLong(free) - 40 * 512), large.toString());
        GeneralTools.run("mcopy", "-i", image.toString(), large.toString(), "::large");
        try (BlockDevice device = open(image)) {
            int count = 0;
            while (count < 100) {
                int number = count;
                byte[] before = Files.readAllBytes(image);
                try {
                    FatWriter.write(device, "f" + number, new byte[513]);
                } catch (FileSystemException e) {
                    assertThat(e).hasMessageContaining("bytes left");
                    assertThat(Files.readAllBytes(image)).isEqualTo(before);
                    break;
                }
                count++;
            }
            assertThat(count).isBetween(15, 20);
            whole(image);
            FatWriter.write(device, "f1", new byte[0]);
            FatWriter.write(device, "last", new byte[1024]);
        }
        whole(image);
    }

    /** Cut off after any of its writes to the staged device, the medium is as it was; carried out whole it is as it should be. */
    @Test
    void onAStagedDeviceNothingMovesBeforeAllIsWorkedOut() throws IOException {
        Path image = made(32, "40M");
        byte[] before = Files.readAllBytes(image);
        try (BlockDevice device = open(image)) {
            StagedDevice staged = new StagedDevice(device);
            FatWriter.write(staged, "some/where/file.txt", new byte[3000]);
            assertThat(Files.readAllBytes(image)).isEqualTo(before);
            assertThat(staged.changes()).hasSizeLessThan(12);
            assertThat(new FatReader(staged).read("some/where/file.txt")).isPresent();
            for (StagedDevice.Page page : staged.changes()) {
                device.write(page.position(), java.nio.ByteBuffer.wrap(page.after()));
            }
        }
        whole(image);
        assertThat(GeneralTools.run("sh", "-c", "mtype -i " + image + " ::some/where/file.txt | wc -c")
                        .strip())
                .isEqualTo("3000");
    }

    /** The count of free clusters as well. */
    private static void whole(Path image) {
        assertThat(GeneralTools.run("fsck.fat", "-n", "-v", image.toString())).doesNotContain("wrong");
    }
}
