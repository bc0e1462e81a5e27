// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class InspectorTest {
    @TempDir
    Path folder;

    @Test
    void tellsTheWholeOfAUsualDisk() throws IOException {
        Path disk = new DiskBuilder(folder).id("7c41e0b2").build("disk.img");
        try (FileDevice device = FileDevice.forReading(disk)) {
            DriveInspection inspection = Inspector.inspect(device);
            assertThat(inspection.system().orElseThrow().title()).isEqualTo("marshlinux 2026.10");
            assertThat(inspection.partitions())
                    .extracting(each -> each.fileSystem().kind())
                    .containsExactly(FileSystemKind.FAT32, FileSystemKind.EXT4);
            assertThat(inspection.table().diskId().orElseThrow().partition(2)).isEqualTo("7c41e0b2-02");
            assertThat(inspection.leastMedium()).isEqualTo(ByteSize.ofMebibytes(60));
            assertThat(inspection.unallocated()).isEqualTo(ByteSize.ofMebibytes(5));
            assertThat(inspection.used().bytes()).isLessThan(20 * DiskBuilder.MIB);
            assertThat(inspection.findings()).isEmpty();
        }
    }

    @Test
    void aFileSystemWithoutATableCountsWhole() throws IOException {
        Path disk = folder.resolve("floppy.img");
        DiskBuilder.blank(disk, 8 * DiskBuilder.MIB);
        GeneralTools.run("mkfs.vfat", disk.toString());
        try (FileDevice device = FileDevice.forReading(disk)) {
            DriveInspection inspection = Inspector.inspect(device);
            assertThat(inspection.partitions()).hasSize(1);
            assertThat(inspection.partitions().get(0).partition().number()).isZero();
            assertThat(inspection.leastMedium()).isEqualTo(ByteSize.ofMebibytes(8));
        }
    }

    @Test
    void anEmptyDriveSaysSo() throws IOException {
        Path disk = folder.resolve("empty.img");
        DiskBuilder.blank(disk, 8 * DiskBuilder.MIB);
        try (FileDevice device = FileDevice.forReading(disk)) {
            assertThat(Inspector.inspect(device).findings())
                    .extracting(finding -> finding.code())
                    .containsExactly("nothing-recognised");
        }
    }

    @Test
    void aCompressedImageIsUnpackedWithItsDigestAndLeavesNothingBehind() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        String sum = GeneralTools.run("sha256sum", disk.toString()).split(" ")[0];
        GeneralTools.run("xz", "-1", disk.toString());
        long before = temporaryFiles();
        try (UnpackedImage image =
                UnpackedImage.open(ImageFile.open(folder.resolve("disk.img.xz")), true, TransferWatch.NONE)) {
            assertThat(image.sha256()).contains(sum);
            assertThat(Inspector.inspect(image.device()).partitions()).hasSize(2);
        }
        assertThat(temporaryFiles()).isEqualTo(before);
    }

    @Test
    void unpackingCanBeStopped() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        GeneralTools.run("xz", "-1", disk.toString());
        ImageFile image = ImageFile.open(folder.resolve("disk.img.xz"));
        assertThatThrownBy(() -> UnpackedImage.open(image, false, new TransferWatch() {
                    @Override
                    public void moved(Phase phase, long position, int bytes, long nanos, long total) {}

                    @Override
                    public boolean cancelled() {
                        return true;
                    }
                }))
                .isInstanceOf(CancellationException.class);
    }

    private static long temporaryFiles() throws IOException {
        try (var files = Files.list(Path.of(System.getProperty("java.io.tmpdir")))) {
            return files.filter(file -> file.getFileName().toString().matches("exordium-.*\\.img"))
                    .count();
        }
    }

    /** The form of the file: freedesktop.org, os-release. */
    @Test
    void readsOsReleaseWithQuotesAndComments() {
        InstalledSystem system =
                InstalledSystem.parse("# comment\nNAME='Fenix lite'\nID=fenix-lite\nVERSION_ID=\"2026.07\"\nBROKEN\n"
                        .getBytes(java.nio.charset.StandardCharsets.UTF_8));
        assertThat(system).isEqualTo(new InstalledSystem("fenix-lite", "Fenix lite", "2026.07"));
        assertThat(InstalledSystem.parse(new byte[0]).title()).isEmpty();
    }
}
