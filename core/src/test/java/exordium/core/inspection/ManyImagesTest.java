// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.image.ImageFile;
import exordium.core.layout.Partition;
import exordium.core.layout.PartitionTable;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Images made by general tools, and what those tools say of them: sfdisk of tables, blkid of file systems, dumpe2fs and
 * fsck.fat of what is taken, xz and zstd of containers.
 */
class ManyImagesTest {
    private static final Pattern FREE = Pattern.compile("Free blocks: ([0-9, -]*)");

    @TempDir
    Path folder;

    private Path image(String script, int mib) throws IOException {
        Path image = folder.resolve("image.img");
        DiskBuilder.blank(image, mib * DiskBuilder.MIB);
        GeneralTools.run(folder, "sh", "-ec", script.replace("IMG", "image.img"));
        return image;
    }

    /** Bare file systems, by what makes them. */
    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '"',
            value = {
                "fat12                  |  2 | mkfs.vfat -F 12 -n SMALL IMG",
                "fat12, big clusters    | 16 | mkfs.vfat -F 12 -s 64 IMG",
                "fat16                  | 16 | mkfs.vfat -F 16 -n MIDDLE IMG",
                "fat16, no label        | 64 | mkfs.vfat -F 16 IMG",
                "fat32                  | 64 | mkfs.vfat -F 32 -s 1 -n LARGE IMG",
                "fat32, with files      | 64 | mkfs.vfat -F 32 -s 1 IMG; seq 90000 > f; mcopy -i IMG f ::a; mmd -i IMG ::b; mcopy -i IMG f ::b/c",
                "fat32, 4096 sectors    | 600 | mkfs.vfat -S 4096 -F 32 -s 2 IMG",
                "ext2                   |  8 | mke2fs -q -t ext2 -L old IMG",
                "ext2, revision 0       |  8 | mke2fs -q -t ext2 -r 0 IMG",
                "ext2, 1 KiB blocks     | 40 | mke2fs -q -t ext2 -b 1024 IMG",
                "ext3                   | 16 | mke2fs -q -t ext3 -L journal IMG",
                "ext4                   | 40 | mke2fs -q -t ext4 -L root IMG",
                "ext4, 1 KiB            | 40 | mke2fs -q -t ext4 -b 1024 IMG",
                "ext4, 2 KiB            | 40 | mke2fs -q -t ext4 -b 2048 IMG",
                "ext4, 64 KiB           | 64 | mke2fs -q -t ext4 -b 65536 -F IMG",
                "ext4, no 64bit         | 40 | mke2fs -q -t ext4 -O ^64bit IMG",
                "ext4, no flex_bg       | 300 | mke2fs -q -t ext4 -O ^flex_bg IMG",
                "ext4, no checksums     | 40 | mke2fs -q -t ext4 -O ^metadata_csum IMG",
                "ext4, uninit_bg        | 600 | mke2fs -q -t ext4 -O ^metadata_csum,uninit_bg IMG",
                "ext4, sparse_super2    | 600 | mke2fs -q -t ext4 -O sparse_super2 IMG",
                "ext4, every superblock | 600 | mke2fs -q -t ext4 -O ^sparse_super,^resize_inode IMG",
                "ext4, meta_bg          | 600 | mke2fs -q -t ext4 -O meta_bg,^resize_inode IMG",
                "ext4, meta_bg 1 KiB    | 300 | mke2fs -q -t ext4 -b 1024 -O meta_bg,^resize_inode IMG",
                "ext4, many groups      | 900 | mke2fs -q -t ext4 -b 1024 IMG",
                "ext4, with files       | 60 | mkdir d; seq 300000 > d/f; mkdir d/e; seq 900 > d/e/g; mke2fs -q -t ext4 -d d IMG",
                "swap                   | 16 | mkswap -L tide IMG",
                "exfat                  | 64 | mkfs.exfat -L ATLAS IMG",
                "ntfs                   | 64 | mkfs.ntfs -q -F -L Office IMG",
                "btrfs                  | 200 | mkfs.btrfs -q -L leaf IMG",
                "f2fs                   | 100 | mkfs.f2fs -q -l flash IMG",
                "squashfs               |  1 | mkdir d; seq 9000 > d/f; rm IMG; mksquashfs d IMG -quiet -no-progress",
                "iso                    |  1 | mkdir d; seq 9000 > d/f; rm IMG; xorriso -as mkisofs -quiet -V CHART -o IMG d",
            })
    void fileSystemsAreWhatTheToolsSay(String name, int mib, String script) throws IOException {
        Path image = image(script, mib);
        try (UnpackedImage open = UnpackedImage.open(ImageFile.open(image), false, TransferWatch.NONE)) {
            DriveInspection inspection = Inspector.inspect(open.device());
            assertThat(inspection.table().kind()).isEqualTo(PartitionTable.TableKind.NONE);
            assertThat(inspection.partitions()).hasSize(1);
            agreesWithBlkid(inspection.partitions().get(0), image);
            whatIsTaken(open.device(), image, 0, inspection.partitions().get(0));
        }
    }

    /** Tables and what lies in their partitions. */
    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiterString = " :: ",
            quoteCharacter = '"',
            value = {
                "mbr, the usual pair :: printf 'label: dos\\nlabel-id: 0x5eed0001\\nstart=8192,size=81920,type=c,bootable\\ntype=83\\n' | sfdisk -q --no-tell-kernel IMG; mkfs.vfat -F 32 -s 1 -n START --offset 8192 IMG 40960; mke2fs -q -t ext4 -E offset=46137344 IMG 50m",
                "mbr, four primaries :: printf 'label: dos\\nsize=20M\\nsize=20M\\nsize=20M\\n' | sfdisk -q --no-tell-kernel IMG; printf 'size=20M\\n' | sfdisk -q --no-tell-kernel -a IMG",
                "mbr, logical ones :: printf 'label: dos\\nsize=20M,type=c\\ntype=5\\nsize=10M\\nsize=15M\\n' | sfdisk -q --no-tell-kernel IMG",
                "mbr, gap in front :: printf 'label: dos\\nstart=40000,size=20000,type=b\\n' | sfdisk -q --no-tell-kernel IMG",
                "gpt, the usual pair :: sgdisk -n 1:8192:+40M -t 1:ef00 -n 2:0:0 -t 2:8300 IMG; mkfs.vfat -F 32 -s 1 --offset 8192 IMG 40960",
                "gpt, named and many :: sgdisk -n 1:0:+4M -n 2:0:+4M -n 3:0:+4M -n 4:0:+4M -n 5:0:+4M -c 3:log IMG",
                "gpt, large table :: sgdisk -S 256 -n 130:0:+4M IMG || sgdisk -n 1:0:+4M IMG",
                "gpt, hybrid :: sgdisk -n 1:8192:+40M -t 1:0700 -n 2:0:0 -h 1 IMG",
                "iso, hybrid :: mkdir d; seq 9000 > d/f; rm IMG; dd if=/dev/zero of=d/b bs=2048 count=8; xorriso -as mkisofs -quiet -V CHART -b b -no-emul-boot --mbr-force-bootable -partition_offset 16 -o IMG d",
            })
    void tablesAreWhatTheToolsSay(String name, String script) throws IOException {
        Path image = image(script, 100);
        JsonNode told = new ObjectMapper()
                .readTree(GeneralTools.run("sfdisk", "-J", image.toString()))
                .get("partitiontable");
        try (UnpackedImage open = UnpackedImage.open(ImageFile.open(image), false, TransferWatch.NONE)) {
            DriveInspection inspection = Inspector.inspect(open.device());
            PartitionTable table = inspection.table();
            assertThat(table.kind().code()).isEqualTo(told.get("label").asText().replace("dos", "mbr"));
            assertThat(table.diskId().orElseThrow().text())
                    .isEqualToIgnoringCase(told.get("id").asText().replace("0x", ""));
            Map<Integer, Partition> ours = new HashMap<>();
            table.partitions().forEach(each -> ours.put(each.number(), each));
            for (JsonNode each : told.get("partitions")) {
                String node = each.get("node").asText();
                Partition partition = ours.remove(Integer.parseInt(node.replaceAll(".*img", "")));
                assertThat(partition.startByte()).isEqualTo(each.get("start").asLong() * 512);
                assertThat(partition.size().bytes()).isEqualTo(each.get("size").asLong() * 512);
                assertThat(partition.type()).isEqualTo(each.get("type").asText());
            }
            assertThat(ours).isEmpty();
            for (PartitionContent content : inspection.partitions()) {
                if (content.fileSystem().kind() != FileSystemKind.UNKNOWN
                        && !content.partition().holdsOthers()) {
                    agreesWithBlkid(content, image);
                    whatIsTaken(
                            content.partition().on(open.device()),
                            image,
                            content.partition().startByte(),
                            content);
                }
            }
            if (name.contains("hybrid")) {
                assertThat(inspection.findings())
                        .extracting(finding -> finding.code())
                        .containsAnyOf("hybrid-table", "iso-starts-by-record");
            }
        }
    }

    /** A root pulled out while it was in use: its maps lag behind its journal, so all of it counts. */
    @Test
    void aRootWhoseJournalWasNotPlayedBackCountsWhole() throws IOException {
        Path image = image("mke2fs -q -t ext4 IMG; debugfs -w -R 'feature needs_recovery' IMG", 40);
        try (UnpackedImage open = UnpackedImage.open(ImageFile.open(image), false, TransferWatch.NONE)) {
            assertThat(UsedMap.of(open.device()).bytes()).isEqualTo(ByteSize.ofMebibytes(40));
        }
    }

    private void agreesWithBlkid(PartitionContent content, Path image) {
        Map<String, String> told = new HashMap<>();
        String out = GeneralTools.run(
                "blkid",
                "-p",
                "-o",
                "export",
                "-O",
                String.valueOf(content.partition().startByte()),
                "-S",
                String.valueOf(content.partition().size().bytes()),
                image.toString());
        out.lines()
                .filter(line -> line.contains("="))
                .forEach(line -> told.put(
                        line.substring(0, line.indexOf('=')),
                        line.substring(line.indexOf('=') + 1).replace("\\", "")));
        FileSystemKind kind = content.fileSystem().kind();
        assertThat(kind.isFat() ? "vfat" : kind.code()).isEqualTo(told.get("TYPE"));
        if (kind.isFat()) {
            assertThat(kind.code()).isEqualToIgnoringCase(told.get("VERSION"));
        }
        assertThat(content.fileSystem().label()).isEqualTo(told.getOrDefault("LABEL", ""));
        assertThat(content.fileSystem().uuid()).isEqualTo(told.getOrDefault("UUID", ""));
    }

    /** Block by block of ext, cluster by cluster of FAT, and whole of what is not read. */
    private void whatIsTaken(BlockDevice slice, Path image, long start, PartitionContent content) throws IOException {
        FileSystemKind kind = content.fileSystem().kind();
        if (kind.isExt()) {
            Path alone = folder.resolve("alone.img");
            GeneralTools.run(
                    "dd",
                    "if=" + image,
                    "of=" + alone,
                    "bs=1M",
                    "iflag=skip_bytes,count_bytes",
                    "conv=sparse",
                    "skip=" + start,
                    "count=" + slice.size().bytes());
            String told = GeneralTools.run("dumpe2fs", alone.toString());
            int block = number(told, "Block size:");
            BitSet free = new BitSet();
            Matcher lists = FREE.matcher(told.substring(told.indexOf("Group 0")));
            while (lists.find()) {
                for (String range : lists.group(1).split(", ?")) {
                    if (!range.isBlank()) {
                        String[] ends = range.strip().split("-");
                        free.set(Integer.parseInt(ends[0]), Integer.parseInt(ends[ends.length - 1]) + 1);
                    }
                }
            }
            BitSet taken = new BitSet();
            reader(slice).allocated((from, length) -> taken.set((int) (from / block), (int) ((from + length) / block)));
            BitSet wanted = new BitSet();
            wanted.set(0, number(told, "Block count:"));
            wanted.andNot(free);
            taken.xor(wanted);
            assertThat(taken.cardinality())
                    .as("blocks told differently, from " + taken.nextSetBit(0) + " to " + taken.length())
                    .isZero();
        } else if (kind.isFat() && start > 0) {
            assertThat(UsedMap.of(slice).bytes().bytes())
                    .isLessThan(slice.size().bytes());
        } else if (kind.isFat()) {
            String told = GeneralTools.run("sh", "-c", "fsck.fat -n -v " + image + " || true");
            Matcher clusters = Pattern.compile("(\\d+)/(\\d+) clusters").matcher(told);
            Matcher size = Pattern.compile("(\\d+) bytes per cluster").matcher(told);
            assertThat(clusters.find() && size.find()).isTrue();
            assertThat(content.fileSystem().used())
                    .contains(ByteSize.of(Long.parseLong(clusters.group(1)) * Long.parseLong(size.group(1))));
        } else {
            assertThat(UsedMap.of(slice).bytes()).isEqualTo(slice.size());
        }
    }

    private static FileSystemReader reader(BlockDevice slice) throws IOException {
        return FileSystems.open(slice).orElseThrow();
    }

    private static int number(String text, String field) {
        Matcher match = Pattern.compile(field + "\\s+(\\d+)").matcher(text);
        assertThat(match.find()).as(field).isTrue();
        return Integer.parseInt(match.group(1));
    }

    /** Sizes as xz and zstd list them. */
    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '"',
            value = {
                "xz -T1 -0             | xz --robot -lv | totals.\\d+.\\d+.\\d+.(\\d+)",
                "xz -T2 --block-size=1MiB -0 | xz --robot -lv | totals.\\d+.\\d+.\\d+.(\\d+)",
                "xz -0 --check=sha256  | xz --robot -lv | totals.\\d+.\\d+.\\d+.(\\d+)",
                "zstd -q -1            | zstd -lv | Decompressed Size: [^(]*\\((\\d+) B",
                "zstd -q -T2 --long=24 | zstd -lv | Decompressed Size: [^(]*\\((\\d+) B",
            })
    void containersHoldWhatTheToolsSay(String pack, String list, String pattern) throws IOException {
        image("seq 700000 | dd of=IMG conv=notrunc", 12);
        GeneralTools.run(folder, "sh", "-ec", pack + " -c image.img > packed");
        Matcher told = Pattern.compile(pattern.strip())
                .matcher(GeneralTools.run(folder, "sh", "-ec", list.strip() + " packed 2>&1"));
        assertThat(told.find()).isTrue();
        assertThat(ImageFile.open(folder.resolve("packed")).uncompressedSize())
                .contains(ByteSize.of(Long.parseLong(told.group(1))));
    }
}
