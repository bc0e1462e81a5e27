// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.PageJournal;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.UsedMap;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.CapacityProof;
import exordium.core.writing.Clearing;
import exordium.core.writing.Difference;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Drives that lie about their size, and drives with bad places; invented, in the ways the trade knows. */
class CapacityProofTest {
    private static final long MIB = DiskBuilder.MIB;
    private static final long BYTES = 96 * MIB;

    @TempDir
    Path folder;

    private final ProfileReader profiles = new ProfileReader();

    private VirtualDrive drive(String... faults) throws IOException {
        Path file = folder.resolve("drive.img");
        Files.deleteIfExists(file);
        Files.deleteIfExists(VirtualDrive.descriptionOf(file));
        VirtualDrive.create(
                profiles,
                file,
                new DriveDescription(
                        "drive", "sd", "", ByteSize.of(BYTES), Optional.empty(), Optional.empty(), List.of(faults)));
        return VirtualDrive.open(profiles, file, true);
    }

    @Test
    void aSoundDriveIsProvenWhole() throws IOException {
        try (VirtualDrive drive = drive()) {
            CapacityProof.Report report = CapacityProof.whole(drive, Optional.empty(), 7, TransferWatch.NONE);
            assertThat(report.sound()).isTrue();
            assertThat(report.proven()).isEqualTo(ByteSize.of(BYTES));
            assertThat(report.writeRate()).isPresent();
            assertThat(report.sentence("drive.img")).startsWith("Every byte of");
        }
    }

    /** Any size to a block: counterfeits are not always powers of two. */
    @ParameterizedTest
    @ValueSource(longs = {8 << 20, 32 << 20, 48 << 20, 20_480_000, 70_004_736})
    void aCounterfeitIsFoundWithItsTrueSizeBothWays(long real) throws IOException {
        try (VirtualDrive drive = drive("wrap:" + real)) {
            CapacityProof.Report quick = CapacityProof.quick(drive, 9, new KeptInMemory(drive), TransferWatch.NONE);
            assertThat(quick.real()).contains(ByteSize.of(real));
            assertThat(quick.sentence("drive.img")).contains("counterfeit");
            CapacityProof.Report whole = CapacityProof.whole(drive, Optional.empty(), 7, TransferWatch.NONE);
            assertThat(whole.real()).contains(ByteSize.of(real));
        }
    }

    /** Smaller than the window the marks are looked for in. */
    @Test
    void aTinySoundDriveIsNotTakenForACounterfeit() throws IOException {
        Path tiny = folder.resolve("tiny.img");
        DiskBuilder.blank(tiny, 2 * MIB);
        try (FileDevice device = FileDevice.forWriting(tiny, ByteSize.of(2 * MIB))) {
            KeptInMemory kept = new KeptInMemory(device);
            assertThat(CapacityProof.quick(device, 3, kept, TransferWatch.NONE).sound())
                    .isTrue();
            assertThat(kept.restored).isTrue();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "wrap:20480000", "wrap:33554432"})
    void theQuickProofLeavesEverythingAsItWas(String fault) throws IOException {
        try (VirtualDrive drive = fault.isEmpty() ? drive() : drive(fault)) {
            byte[] noise = new byte[1 << 20];
            new Random(3).nextBytes(noise);
            for (long at = 0; at < 19 * MIB; at += noise.length) {
                drive.write(at, java.nio.ByteBuffer.wrap(noise));
            }
            drive.flush();
            String before =
                    GeneralTools.run("sha256sum", folder.resolve("drive.img").toString());
            CapacityProof.quick(drive, 5, new KeptInMemory(drive), TransferWatch.NONE);
            assertThat(GeneralTools.run("sha256sum", folder.resolve("drive.img").toString()))
                    .isEqualTo(before);
        }
    }

    @Test
    void badPlacesAreNamedAndTheRestIsProven() throws IOException {
        try (VirtualDrive drive = drive("wrong:20000000+5000", "bad:50000000+100", "flip:70000000")) {
            CapacityProof.Report report = CapacityProof.whole(drive, Optional.empty(), 7, TransferWatch.NONE);
            assertThat(report.sound()).isFalse();
            assertThat(report.real()).isEmpty();
            for (long at : new long[] {20_000_000, 20_004_999, 50_000_000, 70_000_000}) {
                assertThat(report.bad()).anyMatch(each -> covers(each, at));
            }
            assertThat(report.proven().bytes()).isGreaterThan(BYTES - 5 * MIB);
            assertThat(report.sentence("drive.img")).contains("Replace it");
        }
    }

    private static boolean covers(Difference difference, long at) {
        return at >= difference.offset() && at < difference.offset() + difference.bytes();
    }

    /** Over free space alone, what file systems hold stays. */
    @Test
    void freeSpaceIsProvenAroundWhatIsThere() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        DiskBuilder.blank(disk, 128 * MIB);
        try (FileDevice device = FileDevice.forWriting(disk, ByteSize.of(128 * MIB))) {
            UsedMap keep = UsedMap.of(device);
            CapacityProof.Report report = CapacityProof.whole(device, Optional.of(keep), 7, TransferWatch.NONE);
            assertThat(report.sound()).isTrue();
            assertThat(report.proven().bytes() + keep.bytes().bytes()).isEqualTo(128 * MIB);
            assertThat(Inspector.inspect(device).system()).isPresent();
        }
        GeneralTools.run(
                "sh",
                "-c",
                "dd if=" + disk + " of=" + folder + "/r bs=1M skip=44 count=16 2>/dev/null; e2fsck -f -n " + folder
                        + "/r");
        GeneralTools.run(
                "sh",
                "-c",
                "dd if=" + disk + " of=" + folder + "/f bs=1M skip=4 count=40 2>/dev/null; fsck.fat -n " + folder
                        + "/f");
    }

    @Test
    void aClearedDriveHasNoTableAndNoFileSystemLeft() throws IOException {
        Path disk = folder.resolve("gpt.img");
        DiskBuilder.blank(disk, 128 * MIB);
        GeneralTools.run("sgdisk", "-n", "1:2048:+40M", "-n", "2:0:0", disk.toString());
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", "-F", "-E", "offset=1048576", disk.toString(), "40m");
        try (FileDevice device = FileDevice.forWriting(disk, ByteSize.of(128 * MIB))) {
            Clearing.Report report = Clearing.run(device, TransferWatch.NONE);
            assertThat(report.partitions()).isEqualTo(2);
            assertThat(report.sentence("gpt.img")).contains("read back as empty");
        }
        assertThat(GeneralTools.exitOf("blkid", "-p", disk.toString())).isEqualTo(2);
        assertThat(GeneralTools.exitOf("blkid", "-p", "-O", "1048576", disk.toString()))
                .isEqualTo(2);
        assertThat(GeneralTools.exitOf("sfdisk", "-d", disk.toString())).isNotZero();
    }

    @Test
    void aDriveThatKeepsWhatWasClearedIsNotCalledCleared() throws IOException {
        try (VirtualDrive sound = drive("stale:0+4096")) {
            // The stale stretch is given something to hold on to by its file.
            Files.write(folder.resolve("drive.img"), new byte[] {1, 2, 3}, java.nio.file.StandardOpenOption.WRITE);
            assertThatThrownBy(() -> Clearing.run(sound, TransferWatch.NONE)).hasMessageContaining("kept something");
        }
    }

    /** Keeps blocks where a test can look at them. */
    private static final class KeptInMemory implements CapacityProof.Keeper {
        private final BlockDevice device;
        private boolean restored;

        KeptInMemory(BlockDevice device) {
            this.device = device;
        }

        @Override
        public PageJournal keep(List<StagedDevice.Page> pages) {
            return new PageJournal(
                    new PageJournal.Head(
                            PageJournal.Direction.BACK,
                            "drive",
                            "drive",
                            device.size().bytes(),
                            1),
                    pages);
        }

        @Override
        public void restored() {
            restored = true;
        }
    }
}
