// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.ImageComparison.FileChange;
import exordium.core.inspection.ImageComparison.FileChange.ChangeKind;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Two disks made by general tools that differ in what the test changed, and in nothing else. */
class ImageComparisonTest {
    @TempDir
    Path folder;

    private ImageComparison compare(Path first, Path second) throws IOException {
        try (FileDevice a = FileDevice.forReading(first);
                FileDevice b = FileDevice.forReading(second)) {
            return ImageComparison.of(a, b, TransferWatch.NONE);
        }
    }

    @Test
    void anImageIsTheSameAsItsCopy() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        ImageComparison same = compare(disk, Files.copy(disk, folder.resolve("copy.img")));
        assertThat(same.same()).isTrue();
        assertThat(same.files()).isEmpty();
    }

    @Test
    void filesThatChangedCameAndWentAreNamed() throws IOException {
        Path first = new DiskBuilder(folder)
                .root("etc/motd", "low tide\n")
                .start("old.txt", "x")
                .build("first.img");
        Path second = new DiskBuilder(folder)
                .root("etc/motd", "high tide\n")
                .root("etc/new", "n\n")
                .start("config.txt", "arm_64bit=0\n")
                .build("second.img");
        ImageComparison found = compare(first, second);
        assertThat(found.layout()).isEmpty();
        assertThat(found.files())
                .contains(
                        new FileChange(1, "/config.txt", ChangeKind.CHANGED),
                        new FileChange(1, "/old.txt", ChangeKind.GONE),
                        new FileChange(2, "/etc/motd", ChangeKind.CHANGED),
                        new FileChange(2, "/etc/new", ChangeKind.NEW));
        assertThat(found.files()).hasSize(4);
        assertThat(found.pieces()).isPositive().isLessThan(found.piecesInBoth() / 4);
    }

    @Test
    void anotherLayoutIsSaidInSentences() throws IOException {
        Path first = new DiskBuilder(folder).build("first.img");
        Path second = new DiskBuilder(folder).id("77777777").sizes(50, 16).build("second.img");
        assertThat(compare(first, second).layout())
                .anyMatch(words -> words.contains("5eed0001 and 77777777"))
                .anyMatch(words -> words.startsWith("Partition 2 is"));
    }

    /** Listing and contents, large files and files with holes among them, as debugfs and mtools give them. */
    @ParameterizedTest
    @CsvSource({"ext4, -t ext4", "ext3, -t ext3 -b 1024", "ext2, -t ext2 -b 4096"})
    void filesOfAnySizeComeOutAsDebugfsGivesThem(String name, String options) throws IOException {
        Path tree = Files.createDirectories(folder.resolve("tree/deep/er"));
        byte[] large = new byte[23_000_001];
        new Random(2).nextBytes(large);
        Files.write(tree.resolve("large.bin"), large);
        GeneralTools.run(
                tree, "sh", "-c", "truncate -s 30M holes; printf tide | dd of=holes bs=1 seek=29000000 conv=notrunc");
        Path image = folder.resolve(name + ".img");
        DiskBuilder.blank(image, 100 * DiskBuilder.MIB);
        GeneralTools.run(folder, "sh", "-ec", "mke2fs -q " + options + " -d tree " + image);
        try (FileDevice device = FileDevice.forReading(image)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.entries("/deep/er"))
                    .contains(
                            new FileEntry("large.bin", FileEntry.EntryKind.FILE, large.length),
                            new FileEntry("holes", FileEntry.EntryKind.FILE, 30 << 20));
            assertThat(reader.entries("/")).extracting(FileEntry::name).contains("deep", "lost+found");
            for (String file : new String[] {"large.bin", "holes"}) {
                GeneralTools.run(
                        "debugfs", "-R", "dump /deep/er/" + file + " " + folder.resolve("dumped"), image.toString());
                ByteArrayOutputStream out = new ByteArrayOutputStream();
                assertThat(reader.copy("/deep/er/" + file, out)).isTrue();
                assertThat(out.toByteArray()).isEqualTo(Files.readAllBytes(folder.resolve("dumped")));
            }
            assertThat(reader.copy("/deep", new ByteArrayOutputStream())).isFalse();
            assertThat(reader.copy("/none", new ByteArrayOutputStream())).isFalse();
        }
    }

    @Test
    void filesOfAFatComeOutAsMtoolsGivesThem() throws IOException {
        Path disk = new DiskBuilder(folder)
                .start("A long name.txt", "long\n".repeat(90_000))
                .build("disk.img");
        try (FileDevice device = FileDevice.forReading(disk)) {
            FileSystemReader reader = FileSystems.open(Inspector.inspect(device)
                            .partitions()
                            .get(0)
                            .partition()
                            .on(device))
                    .orElseThrow();
            assertThat(reader.entries("/"))
                    .contains(new FileEntry("A long name.txt", FileEntry.EntryKind.FILE, 450_000));
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            assertThat(reader.copy("/A long name.txt", out)).isTrue();
            assertThat(out.toString(StandardCharsets.UTF_8))
                    .isEqualTo(GeneralTools.run("mtype", "-i", disk + "@@4M", "::A long name.txt"));
        }
    }

    /** Sums as the coreutils' tools write them, beside the file and pasted. */
    @ParameterizedTest
    @CsvSource({
        "md5sum, md5, MD5SUMS",
        "sha1sum, sha1, SHA1SUMS",
        "sha256sum, sha256, SHA256SUMS",
        "sha512sum, sha512, SHA512SUMS"
    })
    void publishedSumsOfEveryLengthAreRecognised(String tool, String suffix, String list) throws IOException {
        Path image = Files.write(folder.resolve("image.img"), new byte[] {1, 2, 3});
        assertThat(PublishedChecksum.check(image)).isEqualTo(PublishedChecksum.State.NONE_KNOWN);
        String line = GeneralTools.run(folder, tool, "image.img");
        assertThat(PublishedChecksum.check(image, line)).isEqualTo(PublishedChecksum.State.AGREES);
        assertThat(PublishedChecksum.check(image, line.split(" ")[0].toUpperCase(java.util.Locale.ROOT)))
                .isEqualTo(PublishedChecksum.State.AGREES);
        Files.writeString(folder.resolve(list), "00" + line.substring(2, 10) + "\n" + line);
        assertThat(PublishedChecksum.check(image)).isEqualTo(PublishedChecksum.State.AGREES);
        Files.delete(folder.resolve(list));
        Files.writeString(folder.resolve("image.img." + suffix), line.split(" ")[0]);
        assertThat(PublishedChecksum.check(image)).isEqualTo(PublishedChecksum.State.AGREES);
        Files.write(image, new byte[] {1, 2, 4});
        assertThat(PublishedChecksum.check(image)).isEqualTo(PublishedChecksum.State.DIFFERS);
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> PublishedChecksum.check(image, "abc"))
                .hasMessageContaining("is no checksum");
    }
}
