// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.DelegatingDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A write that is killed anywhere goes on from its journal; what ends verified is compared by the system's own cmp. */
class ResumeTest {
    private static final int IMAGE_BYTES = 9 * (1 << 20) + 4096;
    private static final int KILLS = Integer.getInteger("exordium.kills", 30);

    @TempDir
    Path folder;

    private Path image;
    private Path target;
    private Path journal;

    /** What a process that is killed leaves: no handler of the program runs. */
    private static final class Killed extends Error {
        private static final long serialVersionUID = 1L;
    }

    private static final class Mortal extends DelegatingDevice {
        private final int dies;
        private int deeds;

        Mortal(BlockDevice inner, int dies) {
            super(inner);
            this.dies = dies;
        }

        private void deed() {
            if (deeds++ == dies) {
                throw new Killed();
            }
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            deed();
            super.write(position, source);
        }

        @Override
        public void readBack(long position, ByteBuffer buffer) throws IOException {
            deed();
            super.readBack(position, buffer);
        }

        @Override
        public void flush() throws IOException {
            deed();
            super.flush();
        }
    }

    @BeforeEach
    void files() throws IOException {
        byte[] content = new byte[IMAGE_BYTES];
        new Random(42).nextBytes(content);
        image = Files.write(folder.resolve("image.img"), content);
        target = folder.resolve("target.img");
        journal = folder.resolve("1.journal");
        DiskBuilder.blank(target, 16 * DiskBuilder.MIB);
    }

    private WritePlan plan(WriteMode mode) throws IOException {
        return WritePlan.of(
                ImageFile.open(image),
                ByteSize.of(IMAGE_BYTES),
                new WritePlan.TargetDescription(
                        "target.img",
                        target,
                        ByteSize.of(16 * DiskBuilder.MIB),
                        Optional.empty(),
                        Optional.empty(),
                        Optional.empty(),
                        List.of()),
                new WritePlan.Options(mode, true, false),
                "target.img");
    }

    private WriteReport run(WriteMode mode, int dies) throws IOException {
        WritePlan plan = plan(mode);
        try (BlockDevice device = new Mortal(FileDevice.forWriting(target, ByteSize.of(16 * DiskBuilder.MIB)), dies);
                JournalFile notes = JournalFile.open(journal, JournalFile.Head.of(plan, "S1"), Duration.ZERO)) {
            return new WriteRun(List.of(new WriteRun.Lane(plan, device, TransferWatch.NONE, notes)))
                    .executeAll()
                    .get(0);
        }
    }

    private boolean cmpAgrees() {
        return GeneralTools.exitOf("cmp", "-n", String.valueOf(IMAGE_BYTES), image.toString(), target.toString()) == 0;
    }

    @Test
    void killedAnywhereItGoesOnToAVerifiedTarget() throws IOException {
        long seed = System.nanoTime();
        System.out.println("kill points from seed " + seed);
        Random random = new Random(seed);
        int resumed = 0;
        for (int run = 0; run < KILLS; run++) {
            Files.deleteIfExists(journal);
            WriteMode mode = run % 5 == 4 ? WriteMode.CHANGED : WriteMode.WHOLE;
            boolean ended = false;
            // Killed twice, then left alone.
            for (int round = 0; round < 3 && !ended; round++) {
                try {
                    WriteReport report = run(mode, round == 2 ? Integer.MAX_VALUE : random.nextInt(14));
                    assertThat(report.verdict()).as("run " + run).isEqualTo(Verdict.VERIFIED);
                    ended = true;
                    resumed += round > 0 ? 1 : 0;
                } catch (Killed e) {
                    assertThat(JournalFile.read(journal).bytes()).isBetween(0L, (long) IMAGE_BYTES);
                }
            }
            assertThat(ended).isTrue();
            if (run % 25 == 0) {
                assertThat(cmpAgrees()).as("run " + run).isTrue();
            }
        }
        assertThat(resumed).isPositive();
    }

    @Test
    void whatWasBroughtOnIsNotWrittenTwice() throws IOException {
        assertThatThrownBy(() -> run(WriteMode.WHOLE, 6)).isInstanceOf(Killed.class);
        assertThat(JournalFile.read(journal).chunks()).isNotEmpty();
        WriteReport report = run(WriteMode.WHOLE, Integer.MAX_VALUE);
        assertThat(report.verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(report.skippedBytes()).isPositive();
        assertThat(cmpAgrees()).isTrue();
    }

    @Test
    void aTargetThatWasChangedBetweenIsNoticedAndWrittenAnew() throws IOException {
        assertThatThrownBy(() -> run(WriteMode.WHOLE, 6)).isInstanceOf(Killed.class);
        int chunk = JournalFile.read(journal).chunks().keySet().iterator().next();
        DiskBuilder.flip(target, (long) chunk * WriteGranularity.USUAL.chunk() + 5);
        WriteReport report = run(WriteMode.WHOLE, Integer.MAX_VALUE);
        assertThat(report.verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(report.sentence()).contains("1 chunk was not as it had been left");
        assertThat(cmpAgrees()).isTrue();
    }

    @Test
    void anotherImageOrTargetIsRefused() throws IOException {
        assertThatThrownBy(() -> run(WriteMode.WHOLE, 6)).isInstanceOf(Killed.class);
        assertThatThrownBy(() ->
                        JournalFile.open(journal, JournalFile.Head.of(plan(WriteMode.WHOLE), "S2"), Duration.ZERO))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("the target is not the one it was");
        assertThatThrownBy(() ->
                        JournalFile.open(journal, JournalFile.Head.of(plan(WriteMode.CHANGED), "S1"), Duration.ZERO))
                .hasMessageContaining("begun in mode whole");
        Files.setLastModifiedTime(image, FileTime.from(Instant.EPOCH));
        assertThatThrownBy(() -> run(WriteMode.WHOLE, 6)).hasMessageContaining("the image has changed since");
    }

    /** The same size and the same date do not make it the same image. */
    @Test
    void anImageExchangedUnderItsOwnNameIsRefusedByItsBytes() throws IOException {
        assertThatThrownBy(() -> run(WriteMode.WHOLE, 6)).isInstanceOf(Killed.class);
        FileTime date = Files.getLastModifiedTime(image);
        for (int at = 3; at < IMAGE_BYTES; at += 1 << 20) {
            DiskBuilder.flip(image, at);
        }
        Files.setLastModifiedTime(image, date);
        WriteReport report = run(WriteMode.WHOLE, Integer.MAX_VALUE);
        assertThat(report.verdict()).isEqualTo(Verdict.FAILED);
        assertThat(report.sentence()).contains("not the one this write was begun with");
    }

    @Test
    void aTornLineIsNotCountedAndRubbishIsNoJournal() throws IOException {
        assertThatThrownBy(() -> run(WriteMode.WHOLE, 6)).isInstanceOf(Killed.class);
        int before = JournalFile.read(journal).chunks().size();
        Files.writeString(journal, "77 12", java.nio.file.StandardOpenOption.APPEND);
        assertThat(JournalFile.read(journal).chunks()).hasSize(before);
        assertThatThrownBy(() -> JournalFile.read(image)).isInstanceOf(UnreadableInput.class);
        Files.writeString(journal, "");
        assertThatThrownBy(() -> JournalFile.read(journal)).hasMessageContaining("is no journal");
    }

    /** Several targets from one reading; the one that fails drops out and the others are proven. */
    @Test
    void severalTargetsAreWrittenTogetherAndOneThatFailsDropsOut() throws IOException {
        Path second = folder.resolve("second.img");
        DiskBuilder.blank(second, 16 * DiskBuilder.MIB);
        WritePlan plan = plan(WriteMode.WHOLE);
        try (BlockDevice good = FileDevice.forWriting(target, ByteSize.of(16 * DiskBuilder.MIB));
                BlockDevice also = FileDevice.forWriting(second, ByteSize.of(16 * DiskBuilder.MIB))) {
            BlockDevice breaks = new DelegatingDevice(also) {
                @Override
                public void write(long position, ByteBuffer source) throws IOException {
                    if (position >= 8 << 20) {
                        throw new IOException("gave up");
                    }
                    super.write(position, source);
                }
            };
            List<WriteReport> reports = new WriteRun(List.of(
                            new WriteRun.Lane(plan, breaks, TransferWatch.NONE, WriteJournal.NONE),
                            new WriteRun.Lane(plan, good, TransferWatch.NONE, WriteJournal.NONE)))
                    .executeAll();
            assertThat(reports).extracting(WriteReport::verdict).containsExactly(Verdict.FAILED, Verdict.VERIFIED);
        }
        assertThat(cmpAgrees()).isTrue();
    }
}
