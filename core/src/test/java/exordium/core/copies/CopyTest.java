// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.care.CopyAdvice;
import exordium.core.copies.care.CopyCare;
import exordium.core.copies.care.QuietTimes;
import exordium.core.copies.care.WayBack;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.vault.CopyReport;
import exordium.core.copies.vault.CopyRun;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CopyTest {
    private static final LocalDate TODAY = LocalDate.parse("2026-11-24");

    @TempDir
    Path folder;

    /** Every 30 days, 90 when lightly used: common practice, no source. */
    @ParameterizedTest
    @CsvSource({
        "2026-11-12, false, 2026-12-12, 0, 12",
        "2026-10-25, false, 2026-11-24, 0, 30",
        "2026-10-24, false, 2026-11-23, 1, 31",
        "2026-10-21, false, 2026-11-20, 4, 34",
        "2026-09-24, true, 2026-12-23, 0, 61",
        "2026-08-25, true, 2026-11-23, 1, 91",
    })
    void theNextCopyIsDueByTheHouseRule(LocalDate last, boolean light, LocalDate due, long overdue, long age) {
        CopyRule.Due next = CopyRule.USUAL.next(Optional.of(last), light, TODAY);
        assertThat(next.date()).isEqualTo(due);
        assertThat(next.overdueDays()).isEqualTo(overdue);
        assertThat(next.ageDays()).isEqualTo(age);
        assertThat(next.reason()).contains(String.valueOf(age));
    }

    @Test
    void withoutACopyItIsDueToday() {
        CopyRule.Due next = CopyRule.USUAL.next(Optional.empty(), true, TODAY);
        assertThat(next.date()).isEqualTo(TODAY);
        assertThat(next.overdue()).isTrue();
        assertThatThrownBy(() -> new CopyRule(0, 90, true)).isInstanceOf(IllegalArgumentException.class);
    }

    private CopyReport copy(Path disk, Path file, TransferWatch watch) throws IOException {
        try (FileDevice device = FileDevice.forReading(disk)) {
            return CopyRun.execute(device, file, watch);
        }
    }

    @Test
    void aCopyHoldsTheDriveToItsLastPartitionAndGeneralToolsReadIt() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        try (RandomAccessFile larger = new RandomAccessFile(disk.toFile(), "rw")) {
            larger.setLength(200 * DiskBuilder.MIB);
        }
        Path file = folder.resolve("vault/board/copy.img.zst");
        CopyReport report = copy(disk, file, TransferWatch.NONE);
        assertThat(report.sourceBytes()).isEqualTo(60 * DiskBuilder.MIB);
        GeneralTools.run("zstd", "-q", "-t", file.toString());
        GeneralTools.run(
                "zstd",
                "-q",
                "-d",
                file.toString(),
                "-o",
                folder.resolve("back.img").toString());
        assertThat(GeneralTools.exitOf(
                        "cmp",
                        "-n",
                        String.valueOf(report.sourceBytes()),
                        disk.toString(),
                        folder.resolve("back.img").toString()))
                .isZero();
        GeneralTools.run(file.getParent(), "sha256sum", "-c", "copy.img.zst.sha256");
        assertThat(report.fileSha256())
                .isEqualTo(GeneralTools.run("sha256sum", file.toString()).split(" ")[0]);
    }

    @Test
    void aStoppedCopyLeavesNothingBehind() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Path file = folder.resolve("vault/copy.img.zst");
        int[] moved = {0};
        TransferWatch stops = new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                moved[0]++;
            }

            @Override
            public boolean cancelled() {
                return moved[0] > 3;
            }
        };
        assertThatThrownBy(() -> copy(disk, file, stops)).isInstanceOf(CancellationException.class);
        try (var files = Files.list(folder.resolve("vault"))) {
            assertThat(files).isEmpty();
        }
    }

    @Test
    void anEarlierCopyIsKeptWhenTheNewOneCannotBeProven() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Path file = folder.resolve("copy.img.zst");
        copy(disk, file, TransferWatch.NONE);
        byte[] before = Files.readAllBytes(file);
        TransferWatch stops = new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {}

            @Override
            public boolean cancelled() {
                return true;
            }
        };
        assertThatThrownBy(() -> copy(disk, file, stops)).isInstanceOf(CancellationException.class);
        assertThat(Files.readAllBytes(file)).isEqualTo(before);
    }

    @Test
    void aDriveWithNothingOnItIsNotCopied() throws IOException {
        Path tableOnly = folder.resolve("table.img");
        DiskBuilder.blank(tableOnly, 4 * DiskBuilder.MIB);
        GeneralTools.feed("label: dos\n", "sfdisk", "-q", tableOnly.toString());
        assertThatThrownBy(() -> copy(tableOnly, folder.resolve("x.zst"), TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("nothing to copy");
    }

    @Test
    void adviceSaysWhatIsDueHowMuchAndHowLong() {
        CopyRule.Due late = CopyRule.USUAL.next(Optional.of(TODAY.minusDays(34)), false, TODAY);
        var advice = CopyAdvice.of(
                CopyRule.USUAL,
                late,
                Optional.of(new CopyAdvice.Source(
                        ByteSize.ofGigabytes(15.8), ByteSize.ofGigabytes(15.8), ByteRate.ofMegabytes(22))),
                WayBack.COPY.finding(Optional.of(TODAY.minusDays(34))),
                new CopyCare("the sound server.", "sound in the hall", QuietTimes.kept("mon 18:00-20:00")));
        assertThat(advice)
                .extracting(Finding::code)
                .containsExactly(
                        "copy-due",
                        "copy-quiet",
                        "copy-extent",
                        "way-back",
                        "copy-services",
                        "copy-times",
                        "copy-identifiers");
        assertThat(advice.get(1).text()).startsWith("Stop first: the sound server. Then switch it off");
        // 15.8e9 / 22e6 = 718.2 s
        assertThat(advice.get(2).text()).contains("15.8 GB").contains("11 min 58 s");
        CopyRule.Due early = CopyRule.USUAL.next(Optional.of(TODAY), false, TODAY);
        assertThat(CopyAdvice.of(
                        CopyRule.USUAL, early, Optional.empty(), WayBack.COPY.finding(Optional.empty()), CopyCare.NONE))
                .extracting(Finding::code)
                .containsExactly("way-back", "copy-quiet", "copy-in-time", "copy-identifiers");
    }
}
