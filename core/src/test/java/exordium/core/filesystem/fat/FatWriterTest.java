// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
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
}
