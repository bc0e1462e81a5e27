// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.block.FileDevice;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables are made and read by sfdisk; what is read here must agree with it. */
class PartitionTablesTest {
    private static final String EFI = "C12A7328-F81F-11D2-BA4B-00A0C93EC93B";

    @TempDir
    Path folder;

    private Path disk(long mib, String script) throws IOException {
        Path disk = folder.resolve("disk-" + script.hashCode() + ".img");
        Files.deleteIfExists(disk);
        DiskBuilder.blank(disk, mib * DiskBuilder.MIB);
        GeneralTools.feed(script, "sfdisk", "-q", disk.toString());
        return disk;
    }

    private static PartitionTable read(Path disk) throws IOException {
        try (FileDevice device = FileDevice.forReading(disk)) {
            return PartitionTables.read(device);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "label: dos\nlabel-id: 0x7c41e0b2\n,,83\n",
                "label: dos\nlabel-id: 0x00000001\nsize=8MiB, type=c, bootable\ntype=83\n",
                "label: dos\nsize=4MiB, type=6\nsize=4MiB, type=e\nsize=4MiB, type=82\ntype=83\n",
                "label: dos\nd1 : size=8MiB, type=c\nd2 : size=40MiB, type=5\nd5 : size=8MiB, type=83\nd6 : size=8MiB, type=83\nd7 : size=8MiB, type=83\n",
                "label: dos\nd1 : size=8MiB, type=c\nd2 : size=30MiB, type=f\nd5 : size=8MiB, type=83\nd6 : size=6MiB, type=82\n",
                "label: gpt\nsize=8MiB, type=" + EFI + "\n",
                "label: gpt\nsize=8MiB, type=" + EFI + "\nsize=20MiB, type=0FC63DAF-8483-4772-8E79-3D69D8477DE4\n",
                "label: gpt\nlabel-id: 0B1D2C3E-0000-4000-8000-00000000BEEF\nsize=5MiB\nsize=6MiB\nsize=7MiB\nsize=8MiB\nsize=9MiB\n",
                "label: gpt\nfirst-lba: 34\nstart=34, size=2048\nstart=4096, size=1000\n",
            })
    void agreesWithSfdisk(String script) throws IOException {
        Path disk = disk(64, script);
        PartitionTable table = read(disk);
        JsonNode told = new ObjectMapper()
                .readTree(GeneralTools.run("sfdisk", "-J", disk.toString()))
                .get("partitiontable");
        assertThat(table.kind().code()).isEqualTo(told.get("label").asText().equals("dos") ? "mbr" : "gpt");
        assertThat(table.diskId().orElseThrow().text())
                .isEqualToIgnoringCase(told.get("id").asText().replaceFirst("^0x", ""));
        assertThat(table.partitions()).hasSize(told.get("partitions").size());
        for (JsonNode part : told.get("partitions")) {
            String node = part.get("node").asText();
            int number = Integer.parseInt(node.substring(node.lastIndexOf("img") + 3));
            Partition found = table.number(number).orElseThrow();
            assertThat(found.startByte()).isEqualTo(part.get("start").asLong() * 512);
            assertThat(found.size().bytes()).isEqualTo(part.get("size").asLong() * 512);
            assertThat(found.type()).isEqualToIgnoringCase(part.get("type").asText());
            assertThat(found.active()).isEqualTo(part.has("bootable"));
            if (part.has("uuid")) {
                assertThat(found.partUuid())
                        .isEqualToIgnoringCase(part.get("uuid").asText());
            }
        }
        assertThat(table.findings()).noneMatch(Finding::stops);
    }

    @Test
    void theLeastMediumEndsWithTheLastPartition() throws IOException {
        PartitionTable table =
                read(disk(64, "label: dos\nstart=2048, size=16384, type=c\nstart=20480, size=2048, type=83\n"));
        assertThat(table.leastMedium()).isEqualTo(ByteSize.of((20_480 + 2048) * 512L));
    }

    @Test
    void aGptWithItsFirstHeaderBrokenIsReadFromTheSecond() throws IOException {
        Path disk = disk(16, "label: gpt\nsize=8MiB\n");
        DiskBuilder.flip(disk, 512 + 40);
        PartitionTable table = read(disk);
        assertThat(table.partitions()).hasSize(1);
        assertThat(table.findings()).extracting(Finding::code).contains("gpt-first-broken");
    }

    @Test
    void aGptCopiedToABiggerDriveSaysWhereItsBackupIs() throws IOException {
        Path disk = disk(16, "label: gpt\nsize=8MiB\n");
        try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "rw")) {
            file.setLength(32 * DiskBuilder.MIB);
        }
        assertThat(read(disk).findings()).extracting(Finding::code).containsExactly("gpt-backup-not-at-end");
    }

    @Test
    void aGptBrokenTwiceStops() throws IOException {
        Path disk = disk(16, "label: gpt\nsize=8MiB\n");
        DiskBuilder.flip(disk, 512 + 40);
        DiskBuilder.flip(disk, 16 * DiskBuilder.MIB - 512 + 40);
        PartitionTable table = read(disk);
        assertThat(table.kind()).isEqualTo(PartitionTable.TableKind.NONE);
        assertThat(table.findings()).extracting(Finding::code).containsExactly("gpt-broken");
    }

    @Test
    void aBrokenEntryTableIsNotedThroughItsChecksum() throws IOException {
        Path disk = disk(16, "label: gpt\nsize=8MiB\n");
        DiskBuilder.flip(disk, 1024 + 33);
        assertThat(read(disk).findings()).extracting(Finding::code).contains("gpt-first-broken");
    }

    @Test
    void partitionsPastTheEndAndOverlapsAreStops() throws IOException {
        Path disk = disk(64, "label: dos\nstart=2048, size=16384, type=c\nstart=20480, size=80000, type=83\n");
        try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "rw")) {
            file.setLength(20 * DiskBuilder.MIB);
            file.seek(446 + 16 + 8);
            file.write(new byte[] {0, 16, 0, 0});
        }
        assertThat(read(disk).findings())
                .extracting(Finding::code)
                .contains("partitions-overlap", "partition-past-end");
    }

    @Test
    void aFatWithoutATableIsNoTable() throws IOException {
        Path fat = folder.resolve("fat.img");
        DiskBuilder.blank(fat, 8 * DiskBuilder.MIB);
        GeneralTools.run("mkfs.vfat", fat.toString());
        assertThat(read(fat).kind()).isEqualTo(PartitionTable.TableKind.NONE);
        assertThat(read(fat).partitions()).isEmpty();
    }

    @Test
    void emptyAndTinyFilesHaveNoTable() throws IOException {
        Path tiny = Files.write(folder.resolve("tiny"), new byte[700]);
        assertThat(read(tiny).kind()).isEqualTo(PartitionTable.TableKind.NONE);
        Path zero = folder.resolve("zero");
        DiskBuilder.blank(zero, DiskBuilder.MIB);
        assertThat(read(zero).kind()).isEqualTo(PartitionTable.TableKind.NONE);
    }

    @Test
    void aChainOfLogicalPartitionsThatBitesItsTailEnds() throws IOException {
        Path disk = disk(
                64,
                "label: dos\nd1 : size=8MiB, type=c\nd2 : size=40MiB, type=5\nd5 : size=8MiB, type=83\nd6 : size=8MiB, type=83\n");
        long extended = read(disk).number(2).orElseThrow().startByte();
        try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "rw")) {
            file.seek(extended + 446 + 16 + 8);
            file.write(new byte[] {0, 0, 0, 0});
            file.seek(extended + 446 + 16 + 4);
            file.write(5);
        }
        assertThat(read(disk).partitions()).hasSizeBetween(3, 4);
    }

    /** Whatever the bytes: no hang, no exception other than the typed ones, bounded lists. */
    @Test
    void mutatedTablesNeverThrow() throws IOException {
        Random random = new Random(11);
        for (String label : List.of("dos", "gpt")) {
            String parts = label.equals("dos")
                    ? "d1 : size=4MiB, type=c\nd2 : size=20MiB, type=5\nd5 : size=4MiB, type=83\n"
                    : "size=4MiB\nsize=4MiB\n";
            Path mutant = disk(32, "label: " + label + "\n" + parts);
            byte[] head = new byte[20 * 512];
            try (RandomAccessFile file = new RandomAccessFile(mutant.toFile(), "r")) {
                file.readFully(head);
            }
            for (int run = 0; run < 150; run++) {
                try (RandomAccessFile file = new RandomAccessFile(mutant.toFile(), "rw")) {
                    file.write(head);
                    for (int i = 0; i < 1 + random.nextInt(12); i++) {
                        int at = label.equals("dos") ? 440 + random.nextInt(72) : 440 + random.nextInt(1200);
                        file.seek(at);
                        file.write(random.nextInt(256));
                    }
                }
                PartitionTable table = read(mutant);
                assertThat(table.partitions().size())
                        .as(String.format(Locale.ROOT, "%s run %d", label, run))
                        .isLessThanOrEqualTo(128);
            }
        }
    }
}
