// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A volume made here takes files and folders in whatever order they come; read back by mtools and checked by fsck.fat. */
class FatOrderTest {
    private static final List<String> NAMES = List.of(
            "curlew-e-b.dtb",
            "everyday/curlew-e-b.dtb",
            "everyday/kernel-32.img",
            "everyday/kernel-64.img",
            "everyday/plover-4-b.dtb",
            "everyday/plover-5-b.dtb",
            "extlinux/extlinux.conf",
            "kernel-64.img",
            "plover-4-b.dtb",
            "plover-5-b.dtb",
            "start4.elf",
            "trial/kernel-32.img",
            "trial/kernel-64.img",
            "trial/plover-4-b.dtb",
            "trial/plover-5-b.dtb");

    @TempDir
    Path folder;

    @Test
    void foldersAndFilesAtTheTopComeInAnyOrder() throws IOException {
        Path image = folder.resolve("fat.img");
        Files.createFile(image);
        try (FileDevice device = FileDevice.forWriting(image, ByteSize.ofMebibytes(40))) {
            FatFormat.fat32(device, "START", "a volume of a test");
            for (String name : NAMES) {
                FatWriter.write(device, name, name.getBytes(StandardCharsets.UTF_8));
            }
        }
        GeneralTools.run("fsck.fat", "-n", image.toString());
        for (String name : NAMES) {
            assertThat(GeneralTools.run("mtype", "-i", image.toString(), "::" + name))
                    .isEqualTo(name);
        }
    }

    /** Sixteen entries to a cluster: files of two and of three, and folders, fill it exactly again and again. */
    @Test
    void aTopFolderThatFillsItsClustersExactlyKeepsItsLabel() throws IOException {
        Path image = folder.resolve("full.img");
        Files.createFile(image);
        List<String> written = new ArrayList<>();
        try (FileDevice device = FileDevice.forWriting(image, ByteSize.ofMebibytes(40))) {
            FatFormat.fat32(device, "START", "a volume of a test");
            for (int i = 0; i < 26; i++) {
                String name = i % 5 == 4 ? "folder" + i + "/in.txt" : (i % 7 == 3 ? "a-much-longer-name-" : "f") + i;
                FatWriter.write(device, name, name.getBytes(StandardCharsets.UTF_8));
                written.add(name);
                requireWhole(image, written);
            }
            while (written.size() > 1) {
                FatWriter.remove(device, written.remove(written.size() / 2));
                requireWhole(image, written);
            }
        }
    }

    /** Files of another system's making, of one entry each, and long and short ones of ours, written and taken out at random. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3})
    void anyHistoryOfATopFolderLeavesAWholeVolume(int seed) throws IOException {
        Path image = folder.resolve("any.img");
        Files.createFile(image);
        Random random = new Random(seed);
        List<String> files = new ArrayList<>();
        try (FileDevice device = FileDevice.forWriting(image, ByteSize.ofMebibytes(40))) {
            GeneralTools.run("mkfs.vfat", "-F", "32", "-s", "1", "-n", "START", image.toString());
            for (int i = 0; i < 5 + seed; i++) {
                Path short8 = Files.writeString(folder.resolve("SHORT" + i + ".TXT"), "of another");
                GeneralTools.run("mcopy", "-i", image.toString(), short8.toString(), "::");
                files.add(short8.getFileName().toString());
            }
            for (int i = 0; i < 40; i++) {
                int foreign = 5 + seed;
                if (files.size() > foreign && random.nextInt(3) == 0) {
                    FatWriter.remove(device, files.remove(foreign + random.nextInt(files.size() - foreign)));
                } else {
                    String name = "n".repeat(1 + random.nextInt(30)) + i;
                    FatWriter.write(device, name, new byte[random.nextInt(2000)]);
                    files.add(name);
                }
                requireWhole(image, files);
            }
        }
    }

    private static void requireWhole(Path image, List<String> files) {
        requireWholeOf("START", image, files);
    }

    private static void requireWholeOf(String label, Path image, List<String> files) {
        // The count of free clusters as well.
        assertThat(GeneralTools.run("fsck.fat", "-n", "-v", image.toString())).doesNotContain("wrong");
        assertThat(GeneralTools.run("mlabel", "-s", "-i", image.toString(), "::"))
                .contains(label);
        assertThat(GeneralTools.run("sh", "-c", "mdir -/ -b -i " + image + " :: | sed 's/^...//'")
                        .lines()
                        .filter(line -> !line.endsWith("/")))
                .containsExactlyInAnyOrderElementsOf(files);
    }

    /** What a volume made here says of itself, as fsck.fat and mtools read it, from the smallest there may be on. */
    @ParameterizedTest
    @ValueSource(longs = {34, 64, 260, 512, 2048, 9000, 40_000})
    void aVolumeOfAnySizeIsWhole(long mebibytes) throws IOException {
        Path image = folder.resolve("sized.img");
        Files.createFile(image);
        try (FileDevice device = FileDevice.forWriting(image, ByteSize.ofMebibytes(mebibytes))) {
            FatFormat.fat32(device, "Start", "identity-" + mebibytes);
            FatWriter.write(device, "folder/file.txt", new byte[70_000]);
        }
        requireWholeOf("START", image, List.of("folder/file.txt"));
        assertThat(GeneralTools.run("blkid", "-p", "-o", "value", "-s", "VERSION", image.toString())
                        .strip())
                .isEqualTo("FAT32");
    }

    @Test
    void whatIsTooSmallIsRefused() throws IOException {
        Path image = folder.resolve("tiny.img");
        Files.createFile(image);
        try (FileDevice device = FileDevice.forWriting(image, ByteSize.ofMebibytes(32))) {
            assertThatThrownBy(() -> FatFormat.fat32(device, "START", "x")).hasMessageContaining("too small for FAT32");
        }
    }
}
