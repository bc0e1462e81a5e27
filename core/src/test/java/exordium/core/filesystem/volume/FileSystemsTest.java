// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.volume;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystemSummary;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** File systems are made by mkfs.vfat and mke2fs and looked into by mtools, debugfs, dumpe2fs and blkid. */
class FileSystemsTest {
    @TempDir
    Path folder;

    private Path blank(long mib) throws IOException {
        Path file = folder.resolve("fs.img");
        Files.deleteIfExists(file);
        DiskBuilder.blank(file, mib * DiskBuilder.MIB);
        return file;
    }

    /** FAT type follows the count of clusters (FAT specification): under 4085, under 65525, or more. */
    @ParameterizedTest
    @CsvSource({"2, 12, fat12", "8, 16, fat16", "40, 32, fat32"})
    void tellsTheThreeFatsApartAsBlkidDoes(int mib, String bits, String code) throws IOException {
        Path file = blank(mib);
        String cluster = bits.equals("12") ? "8" : "1";
        GeneralTools.run("mkfs.vfat", "-F", bits, "-s", cluster, "-n", "MARSH", "-i", "1a2b3c4d", file.toString());
        try (FileDevice device = FileDevice.forReading(file)) {
            FileSystemSummary summary = FileSystems.summarise(device);
            assertThat(summary.kind().code()).isEqualTo(code);
            assertThat(summary.label()).isEqualTo("MARSH");
            assertThat(summary.uuid()).isEqualTo("1A2B-3C4D");
            String told = GeneralTools.run("blkid", "-p", file.toString());
            assertThat(told).contains("VERSION=\"FAT" + bits + "\"").contains("UUID=\"1A2B-3C4D\"");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"12", "16", "32"})
    void usedBytesOfAFatAgreeWithFsck(String bits) throws IOException {
        Path file = blank(bits.equals("32") ? 40 : bits.equals("16") ? 12 : 3);
        GeneralTools.run("mkfs.vfat", "-F", bits, "-s", bits.equals("12") ? "4" : "1", file.toString());
        Path big = Files.write(folder.resolve("big.bin"), new byte[777_777]);
        GeneralTools.run("mcopy", "-i", file.toString(), big.toString(), "::big.bin");
        String report = GeneralTools.run("fsck.fat", "-n", "-v", file.toString());
        Matcher clusters = Pattern.compile("(\\d+)/(\\d+) clusters").matcher(report);
        Matcher size = Pattern.compile("(\\d+) bytes per cluster").matcher(report);
        assertThat(clusters.find() && size.find()).isTrue();
        long expected = Long.parseLong(clusters.group(1)) * Long.parseLong(size.group(1));
        try (FileDevice device = FileDevice.forReading(file)) {
            assertThat(FileSystems.summarise(device).used()).contains(ByteSize.of(expected));
        }
    }

    @Test
    void readsAndWritesFatFilesAndFsckAgrees() throws IOException {
        Path file = blank(40);
        GeneralTools.run("mkfs.vfat", "-F", "32", "-s", "1", file.toString());
        Path text = Files.writeString(folder.resolve("a long name with spaces.txt"), "one two");
        GeneralTools.run("mcopy", "-i", file.toString(), text.toString(), "::");
        try (FileDevice device = FileDevice.forWriting(file, ByteSize.of(Files.size(file)))) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.list("/")).contains("a long name with spaces.txt");
            assertThat(reader.read("/a long name with spaces.txt"))
                    .contains("one two".getBytes(StandardCharsets.UTF_8));
            assertThat(reader.read("/missing")).isEmpty();
            FatWriter.write(device, "cmdline.txt", "root=/dev/x\n".getBytes(StandardCharsets.UTF_8));
            FatWriter.write(device, "cmdline.txt", "a longer line than before\n".getBytes(StandardCharsets.UTF_8));
            FatWriter.write(device, "ssh", new byte[0]);
        }
        assertThat(GeneralTools.run("mtype", "-i", file.toString(), "::cmdline.txt"))
                .isEqualTo("a longer line than before\n");
        assertThat(GeneralTools.run("mdir", "-b", "-i", file.toString(), "::").toLowerCase(Locale.ROOT))
                .contains("::/ssh");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", file.toString())).isZero();
    }

    /** Names as mdir, a general tool, lists them: small letters too where a name has no long form. */
    @ParameterizedTest
    @CsvSource({"12, 1", "16, 20", "32, 40"})
    void fatNamesAreWrittenAsMdirWritesThem(String bits, int mib) throws IOException {
        Path file = blank(mib);
        GeneralTools.run("mkfs.vfat", "-F", bits, "-s", "1", file.toString());
        GeneralTools.run("mmd", "-i", file.toString(), "::overlays", "::Tide tables", "::Tide tables/old");
        for (String name : List.of("config.txt", "KERNEL8.IMG", "start.ELF", "A long name.txt", "fixup.dat")) {
            Path each = Files.writeString(folder.resolve(name), name);
            for (String into : List.of("::", "::overlays/", "::Tide tables/old/")) {
                GeneralTools.run("mcopy", "-i", file.toString(), each.toString(), into);
            }
        }
        try (FileDevice device = FileDevice.forReading(file)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            for (String into : List.of("/", "/overlays", "/Tide tables/old")) {
                List<String> told = GeneralTools.run("mdir", "-b", "-i", file.toString(), "::" + into)
                        .lines()
                        .map(line -> line.replaceFirst("/$", ""))
                        .map(line -> line.substring(line.lastIndexOf('/') + 1))
                        .toList();
                assertThat(reader.list(into)).containsExactlyInAnyOrderElementsOf(told);
            }
            assertThat(reader.read("/overlays/config.txt")).contains("config.txt".getBytes(StandardCharsets.UTF_8));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "-t ext2 -b 1024",
                "-t ext2 -b 4096",
                "-t ext3 -b 1024",
                "-t ext3 -b 2048",
                "-t ext4 -b 1024",
                "-t ext4 -b 4096",
                "-t ext4 -O ^64bit",
                "-t ext4 -O 64bit,metadata_csum",
                "-t ext4 -O ^has_journal,^flex_bg",
                "-t ext4 -O sparse_super2",
                "-t ext4 -I 128",
                "-t ext4 -O ^extents,^64bit",
                "-t ext4 -g 1024 -b 1024",
            })
    void readsEveryCommonExtAsDebugfsDoes(String options) throws IOException {
        Path tree = Files.createDirectories(folder.resolve("tree"));
        Files.createDirectories(tree.resolve("etc/deep/deeper"));
        Files.writeString(tree.resolve("etc/os-release"), "NAME=marshlinux\n");
        byte[] noise = new byte[2_345_678];
        new Random(1).nextBytes(noise);
        Files.write(tree.resolve("etc/deep/deeper/noise.bin"), noise);
        Files.createSymbolicLink(tree.resolve("etc/short"), Path.of("os-release"));
        Files.createSymbolicLink(tree.resolve("etc/absolute"), Path.of("/etc/deep/../os-release"));
        Files.createSymbolicLink(tree.resolve("long"), Path.of("etc/" + "./".repeat(40) + "os-release"));
        for (int i = 0; i < 300; i++) {
            Files.writeString(tree.resolve("etc/deep/file-with-a-rather-long-name-" + i), "content " + i);
        }
        Path file = blank(24);
        String[] words = ("mke2fs -q -F -L ROOT -d " + tree + " " + options + " " + file).split(" ");
        GeneralTools.run(words);
        try (FileDevice device = FileDevice.forReading(file)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.read("/etc/os-release")).contains("NAME=marshlinux\n".getBytes(StandardCharsets.UTF_8));
            assertThat(reader.read("/etc/short")).contains("NAME=marshlinux\n".getBytes(StandardCharsets.UTF_8));
            assertThat(reader.read("/long")).contains("NAME=marshlinux\n".getBytes(StandardCharsets.UTF_8));
            assertThat(reader.read("/etc/deep/deeper/noise.bin")).contains(noise);
            assertThat(reader.list("/etc/deep")).hasSize(301).contains("file-with-a-rather-long-name-299");
            assertThat(reader.read("/etc/nothing")).isEmpty();
            assertThat(reader.read("/etc")).isEmpty();
            FileSystemSummary summary = reader.summary();
            String told = GeneralTools.run("dumpe2fs", "-h", file.toString());
            long free = number(told, "Free blocks") * number(told, "Block size");
            long all = number(told, "Block count") * number(told, "Block size");
            assertThat(summary.used()).contains(ByteSize.of(all - free));
            assertThat(summary.label()).isEqualTo("ROOT");
            String blkid = GeneralTools.run("blkid", "-p", file.toString());
            assertThat(blkid)
                    .contains("TYPE=\"" + summary.kind().code() + "\"")
                    .contains("UUID=\"" + summary.uuid() + "\"");
            assertThat(GeneralTools.run(
                            "debugfs", "-R", "cat /etc/deep/file-with-a-rather-long-name-17", file.toString()))
                    .isEqualTo(new String(
                            reader.read("/etc/deep/file-with-a-rather-long-name-17")
                                    .orElseThrow(),
                            StandardCharsets.UTF_8));
        }
    }

    private static long number(String report, String key) {
        Matcher match = Pattern.compile(key + ":\\s+(\\d+)").matcher(report);
        assertThat(match.find()).as(key).isTrue();
        return Long.parseLong(match.group(1));
    }

    @Test
    void aHoleInAFileReadsAsZero() throws IOException {
        Path tree = Files.createDirectories(folder.resolve("tree"));
        try (RandomAccessFile sparse =
                new RandomAccessFile(tree.resolve("holes").toFile(), "rw")) {
            sparse.seek(500_000);
            sparse.write(7);
        }
        Path file = blank(8);
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", "-d", tree.toString(), file.toString());
        try (FileDevice device = FileDevice.forReading(file)) {
            byte[] content =
                    FileSystems.open(device).orElseThrow().read("/holes").orElseThrow();
            assertThat(content).hasSize(500_001);
            assertThat(content[499_999]).isZero();
            assertThat(content[500_000]).isEqualTo((byte) 7);
        }
    }

    @Test
    void linksThatTurnInCirclesEnd() throws IOException {
        Path tree = Files.createDirectories(folder.resolve("tree"));
        Files.createSymbolicLink(tree.resolve("a"), Path.of("b"));
        Files.createSymbolicLink(tree.resolve("b"), Path.of("a"));
        Path file = blank(8);
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", "-d", tree.toString(), file.toString());
        try (FileDevice device = FileDevice.forReading(file)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThatThrownBy(() -> reader.read("/a"))
                    .isInstanceOf(FileSystemException.class)
                    .hasMessageContaining("symbolic links");
        }
    }

    @Test
    void aFeatureThatMovesThingsIsRefusedClearly() throws IOException {
        Path file = blank(24);
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", "-O", "bigalloc", file.toString());
        try (FileDevice device = FileDevice.forReading(file)) {
            assertThatThrownBy(() -> FileSystems.open(device))
                    .isInstanceOf(FileSystemException.class)
                    .hasMessageContaining("bigalloc");
            assertThat(FileSystems.summarise(device).kind()).isEqualTo(FileSystemKind.EXT4);
        }
    }

    @Test
    void swapIsRecognisedWithItsLabel() throws IOException {
        Path file = blank(2);
        GeneralTools.run("mkswap", "-L", "SWAPPY", file.toString());
        try (FileDevice device = FileDevice.forReading(file)) {
            FileSystemSummary summary = FileSystems.summarise(device);
            assertThat(summary.kind()).isEqualTo(FileSystemKind.SWAP);
            assertThat(summary.label()).isEqualTo("SWAPPY");
            assertThat(GeneralTools.run("blkid", "-p", file.toString())).contains("UUID=\"" + summary.uuid() + "\"");
        }
    }

    @Test
    void nothingIsUnknown() throws IOException {
        try (FileDevice device = FileDevice.forReading(blank(1))) {
            assertThat(FileSystems.summarise(device).kind()).isEqualTo(FileSystemKind.UNKNOWN);
            assertThat(FileSystems.open(device)).isEmpty();
        }
    }

    /** Broken structures end in the typed error or in some answer, and always end. */
    @ParameterizedTest
    @ValueSource(strings = {"ext4", "vfat"})
    void mutatedVolumesEndInTypedErrorsOnly(String type) throws IOException {
        Path tree = Files.createDirectories(folder.resolve("tree/etc"));
        Files.writeString(tree.resolve("os-release"), "NAME=marshlinux\n");
        Path file = blank(type.equals("ext4") ? 4 : 40);
        if (type.equals("ext4")) {
            GeneralTools.run(
                    "mke2fs", "-q", "-t", "ext4", "-d", tree.getParent().toString(), file.toString());
        } else {
            GeneralTools.run("mkfs.vfat", "-F", "32", "-s", "1", file.toString());
            GeneralTools.run(
                    "mcopy", "-i", file.toString(), tree.resolve("os-release").toString(), "::");
        }
        Random random = new Random(5);
        byte[] head = new byte[200_000];
        try (RandomAccessFile bytes = new RandomAccessFile(file.toFile(), "rw")) {
            bytes.readFully(head);
            for (int run = 0; run < 300; run++) {
                for (int i = 0; i < 40; i++) {
                    int at = type.equals("ext4") ? 1024 + random.nextInt(120_000) : random.nextInt(20_000);
                    bytes.seek(at);
                    bytes.write(random.nextInt(256));
                }
                try (FileDevice device = FileDevice.forReading(file)) {
                    var reader = FileSystems.open(device);
                    if (reader.isPresent()) {
                        reader.get().list("/");
                        reader.get().read("/etc/os-release");
                        reader.get().summary();
                    }
                } catch (FileSystemException | exordium.core.block.MediumException e) {
                    assertThat(e).hasMessageNotContaining("null");
                }
                bytes.seek(0);
                bytes.write(head);
            }
        }
    }
}
