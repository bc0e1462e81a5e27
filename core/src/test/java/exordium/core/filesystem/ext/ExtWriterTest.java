// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.StagedDevice;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is changed in ext file systems, held against e2fsprogs: e2fsck finds nothing, debugfs reads what was written. */
class ExtWriterTest {
    @TempDir
    private Path folder;

    private Path made(String options, int files) throws IOException {
        Path tree = Files.createDirectories(folder.resolve("tree" + options.hashCode()));
        Path etc = Files.createDirectories(tree.resolve("etc"));
        Files.writeString(etc.resolve("hostname"), "marsh\n");
        Files.createSymbolicLink(etc.resolve("localtime"), Path.of("hostname"));
        Files.createSymbolicLink(tree.resolve("settings"), Path.of("etc"));
        for (int i = 0; i < files; i++) {
            Files.writeString(etc.resolve("a-file-with-a-long-name-" + i), "content " + i + "\n");
        }
        Path image = folder.resolve("fs.img");
        List<String> command = new ArrayList<>(List.of("mke2fs", "-q", "-F", "-d", tree.toString()));
        command.addAll(List.of(options.split(" ")));
        command.addAll(List.of(image.toString(), "24M"));
        GeneralTools.run(command.toArray(String[]::new));
        if (files > 0) {
            // Hashes the names of large folders, as a kernel would have; exit 1 means that it did.
            GeneralTools.exitOf("e2fsck", "-fyD", image.toString());
        }
        return image;
    }

    private static BlockDevice open(Path image) throws IOException {
        return FileDevice.forWriting(image, ByteSize.of(Files.size(image)));
    }

    private static void soundAs(Path image, Map<String, FileBody> wanted) {
        assertThat(GeneralTools.exitOf("e2fsck", "-fn", image.toString()))
                .as(() -> GeneralTools.said("e2fsck", "-fn", image.toString()))
                .isZero();
        wanted.forEach((path, body) -> {
            if (body.link()) {
                assertThat(GeneralTools.run("debugfs", "-R", "stat " + path, image.toString()))
                        .contains(body.text().length() < 60 ? "Fast link dest: \"" + body.text() + "\"" : "symlink");
            } else {
                assertThat(GeneralTools.run("debugfs", "-R", "cat " + path, image.toString()))
                        .isEqualTo(body.text());
            }
        });
    }

    /** Any order of making, replacing, linking and taking out, on every kind of file system people have. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "-t ext4 -b 4096",
                "-t ext4 -b 1024",
                "-t ext4 -O ^metadata_csum,uninit_bg",
                "-t ext4 -O ^metadata_csum,^64bit",
                "-t ext4 -O metadata_csum_seed -I 256",
                "-t ext4 -I 128",
                "-t ext3 -b 1024",
                "-t ext2 -b 1024",
                "-t ext4 -O meta_bg,^resize_inode"
            })
    void whateverIsChangedIsSound(String options) throws IOException {
        Path image = made(options, options.contains("4096") ? 300 : 40);
        Random random = new Random(options.hashCode());
        Map<String, FileBody> wanted = new TreeMap<>();
        try (BlockDevice device = open(image)) {
            for (int i = 0; i < 50; i++) {
                String path = List.of("/etc/hostname", "/etc/fresh-" + random.nextInt(30), "/var/lib/deep/x" + i % 7)
                        .get(random.nextInt(3));
                if (wanted.containsKey(path) && random.nextInt(3) == 0) {
                    ExtWriter.of(device).remove(path);
                    wanted.remove(path);
                    assertThat(FileSystems.open(device).orElseThrow().body(path))
                            .isEmpty();
                } else {
                    FileBody body = random.nextInt(5) == 0
                            ? FileBody.linkTo("/usr/share/" + "z".repeat(random.nextInt(90)))
                            : FileBody.of("line\n".repeat(random.nextInt(2000)));
                    ExtWriter.of(device).write(path, body);
                    wanted.put(path, body);
                    assertThat(FileSystems.open(device).orElseThrow().body(path))
                            .hasValueSatisfying(
                                    back -> assertThat(back.same(body)).isTrue());
                }
            }
        }
        soundAs(image, wanted);
        assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/a-file-with-a-long-name-7", image.toString()))
                .isEqualTo("content 7\n");
    }

    @Test
    void ownersAndPermissionsOfWhatIsReplacedStay() throws IOException {
        Path image = made("-t ext4", 0);
        GeneralTools.run("debugfs", "-w", "-R", "sif /etc/hostname mode 0100600", image.toString());
        GeneralTools.run("debugfs", "-w", "-R", "sif /etc/hostname uid 1001", image.toString());
        try (BlockDevice device = open(image)) {
            ExtWriter.of(device).write("/etc/hostname", FileBody.of("tide-clock\n"));
            ExtWriter.of(device).write("/settings/secret", FileBody.secret("key\n"));
        }
        assertThat(GeneralTools.run("debugfs", "-R", "stat /etc/hostname", image.toString()))
                .contains("Mode:  0600")
                .contains("User:  1001");
        assertThat(GeneralTools.run("debugfs", "-R", "stat /etc/secret", image.toString()))
                .contains("Mode:  0600")
                .contains("User:     0");
        soundAs(image, Map.of("/etc/hostname", FileBody.of("tide-clock\n")));
    }

    /** Refused before the first byte changes: not let go cleanly, features that are not followed, no room, no file. */
    @Test
    void whatCannotBeChangedRightlyIsNotChangedAtAll() throws IOException {
        Path image = made("-t ext4", 0);
        try (BlockDevice device = open(image)) {
            ExtWriter writer = ExtWriter.of(device);
            assertThatThrownBy(() -> writer.remove("/etc/nothing")).hasMessageContaining("/etc/nothing");
            assertThatThrownBy(() -> writer.remove("/etc")).hasMessageContaining("is no file");
            assertThatThrownBy(() -> writer.write("/etc/hostname/below", FileBody.of("x")))
                    .hasMessageContaining("no folder");
        }
        GeneralTools.run("debugfs", "-w", "-R", "ssv state 0", image.toString());
        refused(image, "not let go cleanly");
        Path inline = made("-t ext4 -O inline_data", 0);
        refused(inline, "features that are not followed");
    }

    private static void refused(Path image, String why) throws IOException {
        byte[] before = Files.readAllBytes(image);
        try (BlockDevice device = open(image)) {
            assertThatThrownBy(() -> ExtWriter.of(device)).hasMessageContaining(why);
        }
        assertThat(Files.readAllBytes(image)).isEqualTo(before);
    }

    /** Whatever a broken or made-up file system says: a typed error, or a change; never anything else, and never without end. */
    @ParameterizedTest
    @ValueSource(strings = {"-t ext4 -b 1024", "-t ext2 -b 1024", "-t ext4 -O meta_bg,^resize_inode"})
    void brokenFileSystemsAreToldAndNothingElse(String options) throws IOException {
        Path sound = made(options, 40);
        Random random = new Random(11);
        for (int i = 0; i < 50; i++) {
            try (FileDevice behind = FileDevice.forReading(sound);
                    BlockDevice device = new StagedDevice(behind)) {
                for (int hit = 0; hit < 1 + random.nextInt(6); hit++) {
                    // Superblock, descriptors, maps, inodes and folders stand in front.
                    byte[] other = {(byte) random.nextInt(256)};
                    device.write(1024 + random.nextInt(i % 2 == 0 ? 1024 : 256 << 10), ByteBuffer.wrap(other));
                }
                ExtWriter.of(device).write("/etc/hostname", FileBody.of("tide-clock\n"));
                ExtWriter.of(device).write("/etc/new/file", FileBody.linkTo("somewhere"));
                ExtWriter.of(device).remove("/etc/a-file-with-a-long-name-3");
            } catch (FileSystemException | exordium.core.block.MediumException e) {
                assertThat(e).hasMessageMatching("(?s).+");
            }
        }
    }
}
