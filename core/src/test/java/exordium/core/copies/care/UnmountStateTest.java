// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.inspection.Inspector;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How sure a copy is: file systems made by general tools, and left by debugfs as a power cut leaves them. */
class UnmountStateTest {
    private static final long FAT = 4 * DiskBuilder.MIB;
    private static final long ROOT = 44 * DiskBuilder.MIB;

    @TempDir
    private Path folder;

    private Path disk;

    @BeforeEach
    void aDisk() throws IOException {
        disk = new DiskBuilder(folder).build("card.img");
    }

    private UnmountState read() throws IOException {
        try (BlockDevice device = FileDevice.forReading(disk)) {
            return UnmountState.of(device, Inspector.inspect(device));
        }
    }

    @Test
    void whatWasLetGoSaysSo() throws IOException {
        assertThat(read()).isEqualTo(new UnmountState(true, java.util.List.of()));
    }

    /** debugfs(8), set_super_value and feature: what e2fsck and the kernel go by. */
    @ParameterizedTest
    @CsvSource({
        "ssv state 0, was not let go",
        "ssv state 3, has noted errors",
        "feature needs_recovery, has not been carried out"
    })
    void anExtRootTellsHowItWasLeft(String command, String words) throws IOException {
        Path root = folder.resolve("root.ext");
        GeneralTools.run("dd", "if=" + disk, "of=" + root, "bs=1M", "skip=44", "status=none");
        GeneralTools.run("debugfs", "-w", "-R", command, root.toString());
        DiskBuilder.place(root, disk, ROOT);
        UnmountState left = read();
        assertThat(left.clean()).isFalse();
        assertThat(left.why())
                .singleElement()
                .asString()
                .contains("partition 2")
                .contains(words);
    }

    /** FAT specification, FAT[1]: ClnShutBitMask 0x08000000; fsck.fat says the same of such a disk. */
    @Test
    void aFatTellsItToo() throws IOException {
        try (RandomAccessFile bytes = new RandomAccessFile(disk.toFile(), "rw")) {
            bytes.seek(FAT + 14);
            int reserved = bytes.read() | bytes.read() << 8;
            // The highest byte of the second entry of the first FAT; the sectors of this one have 512 bytes.
            long place = FAT + reserved * 512L + 7;
            bytes.seek(place);
            int before = bytes.read();
            bytes.seek(place);
            bytes.write(before & ~0x08);
        }
        UnmountState left = read();
        assertThat(left.clean()).isFalse();
        assertThat(left.why())
                .singleElement()
                .asString()
                .contains("partition 1")
                .contains("was not let go");
        Path start = folder.resolve("start.fat");
        GeneralTools.run("dd", "if=" + disk, "of=" + start, "bs=1M", "skip=4", "count=40", "status=none");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", start.toString())).isNotZero();
    }

    /** A partition that ends past the drive is left out, and no error. */
    @Test
    void whatIsCutOffIsLeftOut() throws IOException {
        try (RandomAccessFile bytes = new RandomAccessFile(disk.toFile(), "rw")) {
            bytes.setLength(ROOT + 4096);
        }
        assertThat(read().clean()).isTrue();
    }
}
