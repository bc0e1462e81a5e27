// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.BlockDevice;
import exordium.core.block.DelegatingDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Severity;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What a write leaves on the target is compared with the image by the system's own cmp. */
class WriteRunTest {
    private static final int IMAGE_BYTES = 13 * (1 << 20) + 777;

    @TempDir
    Path folder;

    private Path image;
    private Path target;

    @BeforeEach
    void files() throws IOException {
        byte[] content = new byte[IMAGE_BYTES];
        new Random(42).nextBytes(content);
        image = Files.write(folder.resolve("image.img"), content);
        target = folder.resolve("target.img");
        DiskBuilder.blank(target, 20 * DiskBuilder.MIB);
    }

    private WritePlan plan(Path from, WriteMode mode, boolean verify) throws IOException {
        ImageFile file = ImageFile.open(from);
        return WritePlan.of(
                file,
                file.uncompressedSize().orElseThrow(),
                target(ByteSize.of(Files.size(target))),
                new WritePlan.Options(mode, verify, false),
                "target.img");
    }

    private WritePlan.TargetDescription target(ByteSize size) {
        return new WritePlan.TargetDescription(
                "target.img", target, size, Optional.empty(), Optional.empty(), Optional.empty(), List.of());
    }

    private WriteReport write(Path from, WriteMode mode) throws IOException {
        try (FileDevice device = FileDevice.forWriting(target, ByteSize.of(Files.size(target)))) {
            return new WriteRun(plan(from, mode, true), device, TransferWatch.NONE).execute();
        }
    }

    private boolean cmpAgrees() throws IOException {
        return GeneralTools.exitOf("cmp", "-n", String.valueOf(IMAGE_BYTES), image.toString(), target.toString()) == 0;
    }

    @ParameterizedTest
    @EnumSource(
            value = WriteMode.class,
            names = {"WHOLE", "CHANGED"})
    void aVerifiedTargetIsTheImageByteForByte(WriteMode mode) throws IOException {
        WriteReport report = write(image, mode);
        assertThat(report.verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(report.verification().orElseThrow().checkedBytes()).isEqualTo(IMAGE_BYTES);
        assertThat(cmpAgrees()).isTrue();
        assertThat(Files.size(target)).isEqualTo(20 * DiskBuilder.MIB);
    }

    @Test
    void aCompressedImageIsWrittenUncompressed() throws IOException {
        GeneralTools.run("xz", "-k", "-0", image.toString());
        assertThat(write(folder.resolve("image.img.xz"), WriteMode.WHOLE).verdict())
                .isEqualTo(Verdict.VERIFIED);
        assertThat(cmpAgrees()).isTrue();
    }

    @Test
    void onlyChunksThatDifferAreWrittenInModeChanged() throws IOException {
        write(image, WriteMode.WHOLE);
        WriteReport same = write(image, WriteMode.CHANGED);
        assertThat(same.writtenBytes()).isZero();
        assertThat(same.skippedBytes()).isEqualTo(IMAGE_BYTES);
        assertThat(same.verdict()).isEqualTo(Verdict.VERIFIED);
        DiskBuilder.flip(target, 9 << 20);
        WriteReport mended = write(image, WriteMode.CHANGED);
        assertThat(mended.verdict()).isEqualTo(Verdict.VERIFIED);
        // The piece that differed, the first chunk, which is blanked while anything is unfinished, and the piece of the
        // mark.
        assertThat(mended.writtenBytes())
                .isLessThanOrEqualTo(WriteGranularity.USUAL.chunk() + 2L * Pieces.PIECE)
                .isGreaterThanOrEqualTo(WriteGranularity.USUAL.chunk() + Pieces.PIECE);
        assertThat(mended.sentence()).contains("were right already").contains("that much wear");
        assertThat(cmpAgrees()).isTrue();
    }

    @ParameterizedTest
    @ValueSource(longs = {0, 1, 4_194_303, 4_194_304, 9_000_000, IMAGE_BYTES - 1})
    void oneByteThatComesBackWrongIsFoundAndNamed(long at) throws IOException {
        try (BlockDevice device = new Twisted(FileDevice.forWriting(target, ByteSize.of(Files.size(target))), at)) {
            WriteReport report = new WriteRun(plan(image, WriteMode.WHOLE, true), device, TransferWatch.NONE).execute();
            assertThat(report.verdict()).isEqualTo(Verdict.DIFFERENT);
            assertThat(report.verification().orElseThrow().differences()).containsExactly(new Difference(at, 1));
            assertThat(report.sentence()).contains("byte " + at);
        }
    }

    @Test
    void comparingAgreesWithCmpOnEveryDifference() throws IOException {
        write(image, WriteMode.WHOLE);
        for (long at : new long[] {3, 4, 5, 5_000_000, IMAGE_BYTES - 1}) {
            DiskBuilder.flip(target, at);
        }
        try (FileDevice device = FileDevice.forReading(target)) {
            Verification found = Comparison.whole(ImageFile.open(image), device, TransferWatch.NONE);
            assertThat(found.differences())
                    .containsExactly(
                            new Difference(3, 3), new Difference(5_000_000, 1), new Difference(IMAGE_BYTES - 1, 1));
        }
    }

    @Test
    void aTargetThatIsTooSmallIsRefusedBeforeAnythingHappens() throws IOException {
        ImageFile file = ImageFile.open(image);
        WritePlan plan = WritePlan.of(
                file,
                ByteSize.of(IMAGE_BYTES),
                target(ByteSize.of(IMAGE_BYTES - 1)),
                WritePlan.Options.USUAL,
                "target.img");
        assertThat(plan.findings())
                .filteredOn(Finding::stops)
                .extracting(Finding::code)
                .containsExactly("target-too-small");
        try (FileDevice device = FileDevice.forWriting(target, ByteSize.of(IMAGE_BYTES - 1))) {
            WriteRun run = new WriteRun(plan, device, TransferWatch.NONE);
            assertThatThrownBy(run::execute).isInstanceOf(Refused.class).hasMessageContaining("1 B too few");
        }
    }

    @Test
    void theNameMustBeTheTargetsOwn() throws IOException {
        ImageFile file = ImageFile.open(image);
        for (String typed : new String[] {"", "other.img", "TARGET.IMG"}) {
            WritePlan plan = WritePlan.of(
                    file, ByteSize.of(IMAGE_BYTES), target(ByteSize.ofMebibytes(20)), WritePlan.Options.USUAL, typed);
            assertThat(plan.findings())
                    .filteredOn(Finding::stops)
                    .extracting(Finding::code)
                    .containsExactly("target-not-confirmed");
        }
    }

    @Test
    void anImageIsNeverWrittenOverItself() throws IOException {
        ImageFile file = ImageFile.open(image);
        WritePlan.TargetDescription itself = new WritePlan.TargetDescription(
                "image.img",
                image,
                ByteSize.of(IMAGE_BYTES),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of());
        assertThat(WritePlan.of(file, ByteSize.of(IMAGE_BYTES), itself, WritePlan.Options.USUAL, "image.img")
                        .findings())
                .extracting(Finding::code)
                .contains("target-is-image");
    }

    @Test
    void thePlanSaysHowLongItWillTake() throws IOException {
        WritePlan.TargetDescription paced = new WritePlan.TargetDescription(
                "target.img",
                target,
                ByteSize.ofMebibytes(20),
                Optional.of(new ByteRate(IMAGE_BYTES / 10.0)),
                Optional.of(new ByteRate(IMAGE_BYTES / 4.0)),
                Optional.of("Everything will be lost."),
                List.of());
        WritePlan plan = WritePlan.of(
                ImageFile.open(image), ByteSize.of(IMAGE_BYTES), paced, WritePlan.Options.USUAL, "target.img");
        assertThat(plan.estimate().orElseThrow().toSeconds()).isEqualTo(14);
        assertThat(plan.findings())
                .extracting(Finding::code)
                .containsExactly("target-loses", "target-fits", "write-time");
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3})
    void aStoppedWriteLeavesNoTableAndIsNeverCalledGood(int after) throws IOException {
        List<Long> written = new ArrayList<>();
        TransferWatch stops = new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                written.add(position);
            }

            @Override
            public boolean cancelled() {
                return written.size() >= after;
            }
        };
        Files.write(target, new byte[] {1, 2, 3, 4}, java.nio.file.StandardOpenOption.WRITE);
        try (FileDevice device = FileDevice.forWriting(target, ByteSize.of(Files.size(target)))) {
            WriteReport report = new WriteRun(plan(image, WriteMode.WHOLE, true), device, stops).execute();
            assertThat(report.verdict()).isEqualTo(Verdict.CANCELLED);
            assertThat(report.sentence()).contains("incomplete");
            assertThat(device.bytes(0, 4096)).containsOnly(0);
        }
    }

    @Test
    void aMediumThatFailsHalfWayEndsInFailed() throws IOException {
        try (BlockDevice device =
                new Failing(FileDevice.forWriting(target, ByteSize.of(Files.size(target))), 8L << 20)) {
            WriteReport report = new WriteRun(plan(image, WriteMode.WHOLE, true), device, TransferWatch.NONE).execute();
            assertThat(report.verdict()).isEqualTo(Verdict.FAILED);
            assertThat(report.sentence()).contains("gave up").contains("not to be used");
            assertThat(report.verdict().good()).isFalse();
        }
    }

    @Test
    void anImageThatUnpacksToMoreThanItSaysFails() throws IOException {
        GeneralTools.run("gzip", "-k", image.toString());
        ImageFile file = ImageFile.open(folder.resolve("image.img.gz"));
        for (long wrong : new long[] {IMAGE_BYTES - 5, IMAGE_BYTES + 5}) {
            WritePlan plan = WritePlan.of(
                    file, ByteSize.of(wrong), target(ByteSize.ofMebibytes(20)), WritePlan.Options.USUAL, "target.img");
            try (FileDevice device = FileDevice.forWriting(target, ByteSize.ofMebibytes(20))) {
                assertThat(new WriteRun(plan, device, TransferWatch.NONE)
                                .execute()
                                .verdict())
                        .isEqualTo(Verdict.FAILED);
            }
        }
    }

    @Test
    void notReadingBackIsSaidAndIsNotVerified() throws IOException {
        WritePlan plan = plan(image, WriteMode.WHOLE, false);
        assertThat(plan.findings()).extracting(Finding::code).contains("not-verified");
        try (FileDevice device = FileDevice.forWriting(target, ByteSize.of(Files.size(target)))) {
            WriteReport report = new WriteRun(plan, device, TransferWatch.NONE).execute();
            assertThat(report.verdict()).isEqualTo(Verdict.WRITTEN);
            assertThat(report.verification()).isEmpty();
        }
    }

    @Test
    void theDigestIsThatOfTheSystemsOwnTool() throws IOException {
        ImageFile file = ImageFile.open(image);
        WritePlan plan = WritePlan.of(
                file,
                ByteSize.of(IMAGE_BYTES),
                target(ByteSize.ofMebibytes(20)),
                new WritePlan.Options(WriteMode.WHOLE, true, true),
                "target.img");
        try (FileDevice device = FileDevice.forWriting(target, ByteSize.ofMebibytes(20))) {
            assertThat(new WriteRun(plan, device, TransferWatch.NONE).execute().imageSha256())
                    .contains(GeneralTools.run("sha256sum", image.toString()).split(" ")[0]);
        }
    }

    /** A device whose one byte always comes back with its lowest bit turned. */
    private static class Twisted extends DelegatingDevice {
        private final long at;

        Twisted(BlockDevice inner, long at) {
            super(inner);
            this.at = at;
        }

        @Override
        public void readBack(long position, ByteBuffer target) throws IOException {
            int start = target.position();
            int length = target.remaining();
            super.readBack(position, target);
            if (at >= position && at < position + length) {
                int index = start + (int) (at - position);
                target.put(index, (byte) (target.get(index) ^ 1));
            }
        }
    }

    /** A device that gives up writing past a place. */
    private static class Failing extends DelegatingDevice {
        private final long from;

        Failing(BlockDevice inner, long from) {
            super(inner);
            this.from = from;
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            if (position >= from) {
                throw new MediumException(name(), position, "gave up");
            }
            super.write(position, source);
        }
    }

    @Test
    void thePlanTellsEveryStageAndItsTime() throws IOException {
        WritePlan.TargetDescription timed = new WritePlan.TargetDescription(
                "target.img",
                target,
                ByteSize.of(20 * DiskBuilder.MIB),
                Optional.of(ByteRate.ofMegabytes(2)),
                Optional.of(ByteRate.ofMegabytes(4)),
                Optional.empty(),
                List.of());
        WritePlan planned = WritePlan.of(
                ImageFile.open(image), ByteSize.of(8_000_000), timed, WritePlan.Options.USUAL, "target.img");
        assertThat(planned.estimate()).contains(Duration.ofSeconds(6));
        assertThat(planned.stages().stream()
                        .map(stage -> stage.time().orElse(Duration.ZERO))
                        .reduce(Duration.ZERO, Duration::plus))
                .isEqualTo(Duration.ofSeconds(6));
        assertThat(planned.stages())
                .first()
                .extracting(WritePlan.Stage::text)
                .asString()
                .contains("starts nothing");
        assertThat(plan(image, WriteMode.CHANGED, false).stages())
                .extracting(WritePlan.Stage::text)
                .noneMatch(text -> text.contains("back past the page cache"))
                .anyMatch(text -> text.contains("only the pieces that differ"));
    }

    @Test
    void aReportIsOneFindingOfTheRightWeight() throws IOException {
        assertThat(write(image, WriteMode.WHOLE).finding().severity()).isEqualTo(Severity.NOTE);
        try (FileDevice device = FileDevice.forWriting(target, ByteSize.of(Files.size(target)))) {
            WriteReport unread =
                    new WriteRun(plan(image, WriteMode.WHOLE, false), device, TransferWatch.NONE).execute();
            assertThat(unread.finding().severity()).isEqualTo(Severity.CAUTION);
        }
    }
}
