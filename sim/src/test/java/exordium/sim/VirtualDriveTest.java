// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.core.writing.WriteRun;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class VirtualDriveTest {
    private static final int MIB = 1 << 20;
    private static final int IMAGE = 9 * MIB + 512;
    private static final ProfileReader PROFILES = new ProfileReader();

    @TempDir
    Path folder;

    private VirtualDrive drive(long bytes, String... faults) throws IOException {
        Path file = folder.resolve("drive" + faults.length + ".img");
        VirtualDrive.create(
                PROFILES,
                file,
                new DriveDescription(
                        "Tidewell 16",
                        "sd",
                        "TW16-1",
                        ByteSize.of(bytes),
                        Optional.empty(),
                        Optional.empty(),
                        List.of(faults)));
        return VirtualDrive.open(PROFILES, file, true);
    }

    private static ByteBuffer aligned(byte[] content) {
        ByteBuffer buffer = AlignedBuffers.allocate((content.length + 4095) / 4096 * 4096);
        return buffer.put(content).flip();
    }

    private static byte[] random(int length) {
        byte[] content = new byte[length];
        new Random(7).nextBytes(content);
        return content;
    }

    private static byte[] read(VirtualDrive drive, long position, int length) throws IOException {
        ByteBuffer buffer = AlignedBuffers.allocate((length + 4095) / 4096 * 4096);
        buffer.limit(length);
        drive.readBack(position, buffer);
        byte[] content = new byte[length];
        buffer.flip().get(content);
        return content;
    }

    private WriteReport write(VirtualDrive drive, WriteMode mode) throws IOException {
        Path image = folder.resolve("image.img");
        if (!Files.exists(image)) {
            Files.write(image, random(IMAGE));
        }
        WritePlan.TargetDescription target = new WritePlan.TargetDescription(
                drive.name(),
                folder.resolve("none"),
                drive.size(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of());
        ImageFile file = ImageFile.open(image);
        UsedMap used;
        try (BlockDevice device = file.device().orElseThrow()) {
            used = UsedMap.of(device);
        }
        WritePlan plan = WritePlan.of(
                file,
                ByteSize.of(IMAGE),
                target,
                new WritePlan.Options(mode, true, false, Optional.of(used)),
                drive.name());
        return new WriteRun(plan, drive, TransferWatch.NONE).execute();
    }

    @Test
    void aNewDriveIsAsLargeAsItSaysAndTakesNoSpace() throws IOException {
        try (VirtualDrive drive = drive(64L << 30)) {
            assertThat(drive.size()).isEqualTo(ByteSize.of(64L << 30));
            assertThat(Files.size(folder.resolve("drive0.img"))).isEqualTo(64L << 30);
            assertThat(read(drive, 40L << 30, 4096)).containsOnly(0);
        }
        assertThat(PROFILES.own(folder.resolve("drive0.img.drive.yaml"), DriveDescription.class)
                        .serial())
                .isEqualTo("TW16-1");
    }

    @Test
    void aNewDriveDoesNotReplaceAFile() throws IOException {
        drive(MIB).close();
        assertThatThrownBy(() -> drive(MIB)).isInstanceOf(UnreadableInput.class).hasMessageContaining("already");
    }

    @Test
    void whatWasWrittenIsReadBack() throws IOException {
        byte[] content = random(8192);
        try (VirtualDrive drive = drive(16 * MIB)) {
            drive.write(MIB, aligned(content));
            drive.flush();
            assertThat(read(drive, MIB, 8192)).isEqualTo(content);
        }
        assertThat(Arrays.copyOfRange(Files.readAllBytes(folder.resolve("drive0.img")), MIB, MIB + 8192))
                .isEqualTo(content);
    }

    @Test
    void nothingReachesPastTheEnd() throws IOException {
        try (VirtualDrive drive = drive(MIB)) {
            assertThatThrownBy(() -> drive.write(MIB - 4096, aligned(random(8192))))
                    .isInstanceOf(MediumException.class);
            assertThatThrownBy(() -> read(drive, MIB, 4096)).isInstanceOf(MediumException.class);
        }
    }

    @Test
    void aFlippedBitIsAlwaysTheSameBit() throws IOException {
        byte[] content = random(8192);
        try (VirtualDrive drive = drive(MIB, "flip:5000")) {
            drive.write(0, aligned(content));
            byte[] back = read(drive, 0, 8192);
            assertThat(Arrays.mismatch(content, back)).isEqualTo(5000);
            assertThat(back[5000] ^ content[5000]).isEqualTo(1);
        }
    }

    @Test
    void aWrappingDriveGivesBackWhatWasWrittenLast() throws IOException {
        byte[] first = random(4096);
        byte[] second = new byte[4096];
        Arrays.fill(second, (byte) 0x5A);
        try (VirtualDrive drive = drive(2 * MIB, "wrap:" + MIB)) {
            drive.write(0, aligned(first));
            drive.write(MIB, aligned(second));
            assertThat(read(drive, 0, 4096)).isEqualTo(second);
            assertThat(read(drive, MIB, 4096)).isEqualTo(second);
        }
    }

    @Test
    void aBadStretchFailsByName() throws IOException {
        try (VirtualDrive drive = drive(MIB, "bad:8192+4096")) {
            drive.write(0, aligned(random(8192)));
            assertThatThrownBy(() -> drive.write(8192, aligned(random(4096))))
                    .isInstanceOf(MediumException.class)
                    .hasMessageContaining("8192");
            assertThatThrownBy(() -> read(drive, 4096, 8192)).isInstanceOf(MediumException.class);
        }
    }

    /** Whatever the fault, a target that differs from the image is never passed as good. */
    @ParameterizedTest
    @CsvSource({
        "flip:5000000, DIFFERENT, at byte 5000000",
        "flip:0, DIFFERENT, at byte 0",
        "wrap:8388608, DIFFERENT, differs",
        "bad:6000000+4096, FAILED, 6000000",
        "unplug:5000000, FAILED, gone",
    })
    void noFaultEndsVerified(String fault, Verdict verdict, String words) throws IOException {
        try (VirtualDrive drive = drive(16 * MIB, fault)) {
            WriteReport report = write(drive, WriteMode.WHOLE);
            assertThat(report.verdict()).isEqualTo(verdict);
            assertThat(report.sentence()).contains(words).contains("not to be used");
            assertThat(report.finding().stops()).isTrue();
        }
    }

    @ParameterizedTest
    @EnumSource(WriteMode.class)
    void aSoundDriveEndsVerified(WriteMode mode) throws IOException {
        try (VirtualDrive drive = drive(16 * MIB)) {
            assertThat(write(drive, mode).verdict()).isEqualTo(Verdict.VERIFIED);
        }
    }

    @Test
    void aPaceIsKept() throws IOException {
        Path file = folder.resolve("slow.img");
        VirtualDrive.create(
                PROFILES,
                file,
                new DriveDescription(
                        "slow",
                        "sd",
                        "",
                        ByteSize.of(16 * MIB),
                        Optional.of(ByteRate.ofMegabytes(20)),
                        Optional.empty(),
                        List.of()));
        try (VirtualDrive drive = VirtualDrive.open(PROFILES, file, true)) {
            long begin = System.nanoTime();
            for (int i = 0; i < 4; i++) {
                drive.write((long) i * MIB, aligned(random(MIB)));
            }
            // 4 MiB at 20 MB/s are 0.21 s; a loaded machine may only be slower.
            assertThat((System.nanoTime() - begin) / 1e9).isGreaterThan(0.19);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "flip",
                "flip:",
                "flip:-1",
                "bad:5",
                "wrap:0",
                "slow:5",
                "melt:5",
                "flip:99999999999999999999"
            })
    void whatIsNoFaultIsNamed(String text) {
        assertThatThrownBy(() -> DriveFault.parse(text))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("\"" + text + "\"");
    }

    @Test
    void everyFaultIsRead() throws UnreadableInput {
        assertThat(DriveFault.parse("slow:100@5000")).isEqualTo(new DriveFault.Slow(100, new ByteRate(5000)));
        assertThat(DriveFault.parse("bad:10+20")).isEqualTo(new DriveFault.Bad(10, 20));
        assertThat(DriveFault.parse("unplug:3")).isEqualTo(new DriveFault.Unplug(3));
    }
}
