// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.core.block.BlockDevice;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.layout.GrownTable;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Comparison;
import exordium.core.writing.Verdict;
import exordium.core.writing.Verification;
import exordium.jobs.bench.Targets;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code verify}: compares an image with a target byte by byte. */
@Command(name = "verify", description = "Compare an image with a target, byte by byte.")
public final class VerifyCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "IMAGE")
    private Path image;

    @Parameters(index = "1", paramLabel = "TARGET")
    private Path target;

    private record VerifyOut(WriteCommand.VerificationOut verification, String verdict, String text) {}

    @Override
    public Integer call() throws IOException {
        ImageFile file = ImageFile.open(image);
        if (!Files.exists(target)) {
            throw new UnreadableInput("There is no " + target + ".");
        }
        Targets.Target found = common.readable().at(target, ByteSize.ZERO);
        Verification result;
        boolean grown = false;
        try (ConsoleProgress progress = common.progress(false);
                BlockDevice device = found.read(progress.meter())) {
            result = Comparison.whole(file, device, progress.meter());
            if (!result.agrees()) {
                Verification without = withoutGrowth(file, device, result);
                grown = without.agrees();
                result = without;
            }
        }
        Verdict verdict = result.agrees() ? Verdict.VERIFIED : Verdict.DIFFERENT;
        String text = result.agrees()
                ? "All " + ByteSize.of(result.checkedBytes()).exact() + " agree"
                        + (grown ? ", but for the last partition's entry, which was made larger since." : ".")
                : "They differ in " + result.differences().size() + " places, first at byte "
                        + result.differences().get(0).offset() + ".";
        common.print(
                new VerifyOut(
                        WriteCommand.verification(result.checkedBytes(), result.pastCache(), result.differences()),
                        verdict.code(),
                        text),
                List.of(verdict.code() + ": " + text));
        return WriteCommand.code(verdict);
    }

    /** A last partition that was made larger after the write is as expected; anything else is not. */
    private static Verification withoutGrowth(ImageFile file, BlockDevice device, Verification found)
            throws IOException {
        List<GrownTable.Extent> expected;
        try (InputStream image = file.stream()) {
            expected = GrownTable.expected(image, ByteSize.of(found.checkedBytes()), device);
        }
        return new Verification(
                found.checkedBytes(),
                found.pastCache(),
                found.differences().stream()
                        .filter(each ->
                                expected.stream().noneMatch(extent -> extent.holds(each.offset(), each.bytes())))
                        .toList());
    }
}
