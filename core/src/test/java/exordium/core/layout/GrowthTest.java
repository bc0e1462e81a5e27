// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.finding.Refused;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What was grown is looked at by sfdisk and sgdisk. */
class GrowthTest {
    private static final long MIB = DiskBuilder.MIB;

    @TempDir
    Path folder;

    private Growth grow(Path disk, int tail) throws IOException {
        try (FileDevice device = FileDevice.forWriting(disk, ByteSize.of(java.nio.file.Files.size(disk)))) {
            Growth growth = Growth.plan(device, tail);
            growth.apply();
            return growth;
        }
    }

    private void enlarge(Path disk, int mib) throws IOException {
        DiskBuilder.blank(disk, mib * MIB);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 10})
    void theLastPartitionOfAnMbrReachesToTheTail(int tail) throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        enlarge(disk, 200);
        Growth growth = grow(disk, tail);
        assertThat(growth.finding().text()).contains("Partition 2 grows from 16.8 MB");
        String told = GeneralTools.run("sfdisk", "-d", disk.toString());
        long end = 200 * MIB / 100 * (100 - tail) / MIB * MIB;
        assertThat(told.replace(" ", "")).contains("size=" + (end - 44 * MIB) / 512 + ",type=83");
        assertThat(GeneralTools.exitOf("sfdisk", "-V", disk.toString())).isZero();
        // The first partition and the identifier are as they were.
        assertThat(told).contains("0x5eed0001").contains("bootable");
        try (FileDevice device = FileDevice.forReading(disk)) {
            assertThat(Growth.plan(device, tail).changes()).isFalse();
            assertThat(Growth.plan(device, tail).finding().code()).isEqualTo("grow-nothing");
        }
    }

    @Test
    void aGptMovesItsBackupToTheEndAndSgdiskFindsNothingWrong() throws IOException {
        Path disk = folder.resolve("gpt.img");
        enlarge(disk, 60);
        GeneralTools.run("sgdisk", "-n", "1:2048:+20M", "-t", "1:ef00", "-n", "2:0:+30M", disk.toString());
        enlarge(disk, 300);
        assertThat(GeneralTools.run("sgdisk", "-v", disk.toString())).doesNotContain("No problems found");
        grow(disk, 1);
        assertThat(GeneralTools.run("sgdisk", "-v", disk.toString())).contains("No problems found");
        try (FileDevice device = FileDevice.forReading(disk)) {
            PartitionTable table = PartitionTables.read(device);
            assertThat(table.findings()).isEmpty();
            assertThat(table.number(2).orElseThrow().endByte()).isEqualTo(297 * MIB);
            assertThat(table.backupByte()).contains(300 * MIB - 512);
        }
    }

    /** The system's own resize2fs takes the grown partition and e2fsck is content. */
    @Test
    void theFileSystemInsideCanBeGrownByItsOwnTool() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        enlarge(disk, 120);
        Growth growth = grow(disk, 1);
        Path alone = folder.resolve("root.img");
        GeneralTools.run(
                "dd",
                "if=" + disk,
                "of=" + alone,
                "bs=1M",
                "iflag=skip_bytes",
                "skip=" + growth.partition().orElseThrow().startByte());
        GeneralTools.run("sh", "-c", "e2fsck -f -p " + alone + "; [ $? -le 1 ]");
        GeneralTools.run("resize2fs", alone.toString(), "70M");
        assertThat(GeneralTools.exitOf("e2fsck", "-f", "-n", alone.toString())).isZero();
    }

    @Test
    void whatCannotBeGrownIsRefusedInASentence() throws IOException {
        Path none = folder.resolve("none.img");
        enlarge(none, 10);
        assertThatThrownBy(() -> grow(none, 1)).isInstanceOf(Refused.class).hasMessageContaining("no partition");
        Path behind = folder.resolve("behind.img");
        enlarge(behind, 60);
        GeneralTools.feed("label: dos\nsize=10M\nsize=20M,type=5\n", "sfdisk", "-q", behind.toString());
        assertThatThrownBy(() -> grow(behind, 1)).isInstanceOf(Refused.class).hasMessageContaining("extended");
    }

    /** sfdisk, a general tool, made the chain and reads it back. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3})
    void theLastLogicalPartitionGrowsWithWhatHoldsIt(int logicals) throws IOException {
        Path disk = folder.resolve("logical.img");
        enlarge(disk, 60);
        GeneralTools.feed(
                "label: dos\nsize=10M,type=c\ntype=5\n" + "size=10M\n".repeat(logicals),
                "sfdisk",
                "-q",
                disk.toString());
        String before = starts(disk);
        enlarge(disk, 400);
        grow(disk, 5);
        assertThat(starts(disk)).isEqualTo(before);
        assertThat(GeneralTools.exitOf("sfdisk", "-V", disk.toString())).isZero();
        try (FileDevice device = FileDevice.forReading(disk)) {
            PartitionTable table = PartitionTables.read(device);
            assertThat(table.findings()).isEmpty();
            long end = 380 * MIB;
            assertThat(table.number(2).orElseThrow().endByte()).isEqualTo(end);
            assertThat(table.number(4 + logicals).orElseThrow().endByte()).isEqualTo(end);
        }
        String told = GeneralTools.run("sfdisk", "-J", disk.toString());
        assertThat(told.lines().filter(line -> line.contains("\"node\""))).hasSize(2 + logicals);
    }

    private static String starts(Path disk) {
        return GeneralTools.run("sfdisk", "-d", disk.toString()).replaceAll("size=\\s*\\d+", "");
    }

    /** Whatever is wrong with the first copy, both are whole afterwards, made from the second; sgdisk has the last word. */
    @ParameterizedTest
    @ValueSource(strings = {"header zeroed", "header garbled", "entries zeroed", "entries elsewhere"})
    void aDamagedFirstGptIsMadeAnewFromTheSecond(String damage) throws IOException {
        Path disk = folder.resolve("damaged.img");
        enlarge(disk, 60);
        GeneralTools.feed("label: gpt\nsize=8MiB\nsize=20MiB\n", "sfdisk", "-q", disk.toString());
        try (var file = new java.io.RandomAccessFile(disk.toFile(), "rw")) {
            switch (damage) {
                case "header zeroed" -> {
                    file.seek(512);
                    file.write(new byte[512]);
                }
                case "header garbled" -> {
                    file.seek(512 + 60);
                    file.write(77);
                }
                case "entries zeroed" -> {
                    file.seek(1024);
                    file.write(new byte[16_384]);
                }
                default -> {
                    file.seek(512 + 72);
                    file.write(new byte[] {(byte) 0xFF, (byte) 0xFF, 1, 0, 0, 0, 0, 0});
                }
            }
        }
        Growth growth = grow(disk, 0);
        assertThat(growth.finding().code()).isEqualTo("grow");
        assertThat(GeneralTools.run("sgdisk", "-v", disk.toString())).contains("No problems found");
        assertThat(GeneralTools.run("sfdisk", "-d", disk.toString()).lines().filter(line -> line.contains("start=")))
                .hasSize(2);
    }
}
