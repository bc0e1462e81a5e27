// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Volumes made by mkfs.vfat and mtools, whole and damaged: what fsck.fat finds fault with is not written to. */
class FatCheckTest {
    private static final int RESERVED = 32;

    @TempDir
    Path folder;

    private Path volume;
    private int first;

    @BeforeEach
    void made() throws IOException {
        volume = folder.resolve("volume.fat");
        DiskBuilder.blank(volume, 40 * DiskBuilder.MIB);
        GeneralTools.run("mkfs.vfat", "-F", "32", "-s", "1", "-R", "" + RESERVED, volume.toString());
        byte[] large = new byte[5000];
        java.util.Arrays.fill(large, (byte) 'x');
        Path file = Files.write(folder.resolve("large.bin"), large);
        Path small = Files.writeString(folder.resolve("cmdline.txt"), "root=/dev/x\n");
        GeneralTools.run("mmd", "-i", volume.toString(), "::overlays");
        GeneralTools.run("mcopy", "-i", volume.toString(), file.toString(), "::large.bin");
        GeneralTools.run("mcopy", "-i", volume.toString(), small.toString(), "::cmdline.txt");
        GeneralTools.run("mcopy", "-i", volume.toString(), small.toString(), "::overlays/one.txt");
        String shown = GeneralTools.run("mshowfat", "-i", volume.toString(), "::large.bin");
        first = Integer.parseInt(shown.replaceAll("(?s).*<(\\d+)[-,>].*", "$1"));
    }

    private void entry(long cluster, long value) throws IOException {
        byte[] bytes = new byte[4];
        LittleEndian.putU32(bytes, 0, value);
        try (RandomAccessFile file = new RandomAccessFile(volume.toFile(), "rw")) {
            file.seek(RESERVED * 512L + cluster * 4);
            file.write(bytes);
        }
    }

    private void write() throws IOException {
        try (FileDevice device = FileDevice.forWriting(volume, ByteSize.of(Files.size(volume)))) {
            FatWriter.write(device, "cmdline.txt", new byte[] {'a', '\n'});
        }
    }

    @Test
    void aWholeVolumeIsWrittenToAndStaysWhole() throws IOException {
        write();
        assertThat(GeneralTools.run("mtype", "-i", volume.toString(), "::cmdline.txt"))
                .isEqualTo("a\n");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", volume.toString())).isZero();
    }

    @ParameterizedTest
    @CsvSource({"loop", "crossed", "free", "past-end", "all-taken", "too-large", "nowhere", "copies", "apart"})
    void aDamagedVolumeIsLeftAloneWithASentence(String damage) throws IOException {
        switch (damage) {
            case "loop" -> entry(first + 3, first);
            case "crossed" -> entry(first + 3, first - 1);
            case "free" -> entry(first + 3, 0);
            case "past-end" -> entry(first + 3, 0x0ABCDEF);
            case "all-taken" -> {
                for (int cluster = 2; cluster < 80_000; cluster++) {
                    entry(cluster, 0x0FFFFFFF);
                }
            }
            case "copies" -> entry(70_000, 0x0FFFFFFF);
            case "apart" -> {
                try (RandomAccessFile file = new RandomAccessFile(volume.toFile(), "rw")) {
                    file.seek(40);
                    file.write(0x81);
                }
            }
            case "too-large" -> size(0xFFFFFFFFL);
            default -> size(0);
        }
        byte[] before = Files.readAllBytes(volume);
        assertThatThrownBy(this::write)
                .isInstanceOf(FileSystemException.class)
                .hasMessageContaining("nothing was changed");
        assertThat(Files.readAllBytes(volume)).isEqualTo(before);
    }

    /** The length of large.bin, in its entry of the top folder. */
    private void size(long bytes) throws IOException {
        byte[] all = Files.readAllBytes(volume);
        byte[] name = "LARGE   BIN".getBytes(java.nio.charset.StandardCharsets.US_ASCII);
        for (int at = 0; at + 32 < all.length; at += 32) {
            if (java.util.Arrays.equals(all, at, at + 11, name, 0, 11)) {
                LittleEndian.putU32(all, at + 28, bytes);
            }
        }
        Files.write(volume, all);
    }
}
