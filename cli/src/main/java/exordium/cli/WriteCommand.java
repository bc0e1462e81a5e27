// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.core.finding.Finding;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Difference;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.TargetHistory;
import exordium.jobs.Targets;
import exordium.jobs.Workbench;
import exordium.jobs.WriteJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code write}: writes an image to a target and proves it. */
@Command(name = "write", description = "Write an image to a target and read it back.")
final class WriteCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "IMAGE")
    private Path image;

    @Parameters(index = "1", paramLabel = "TARGET")
    private Path target;

    @Option(
            names = "--confirm",
            required = true,
            paramLabel = "NAME",
            description = "the target's own name, to prove it is meant")
    private String confirm;

    @Option(names = "--mode", paramLabel = "whole|changed", defaultValue = "whole")
    private WriteMode mode;

    @Option(names = "--no-verify", description = "do not read back")
    private boolean noVerify;

    @Option(names = "--digest", description = "work out the SHA-256 of the uncompressed image on the way")
    private boolean digest;

    @Option(names = "--allow-real-drives", description = "allow a drive of this machine for this call")
    private boolean allowReal;

    record DifferenceOut(long offset, long bytes) {}

    record VerificationOut(long checkedBytes, boolean pastCache, List<DifferenceOut> differences) {}

    private record Out(
            long plannedBytes,
            long writtenBytes,
            long skippedBytes,
            double seconds,
            Optional<String> imageSha256,
            Optional<VerificationOut> verification,
            String verdict,
            String text,
            List<Common.FindingOut> findings) {}

    @Override
    public Integer call() throws IOException {
        ImageFile file = ImageFile.open(image);
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), !noVerify)) {
            TransferMeter meter = progress.meter();
            ByteSize size = WriteJob.sizeOf(file, meter);
            Workbench workbench = common.workbench();
            boolean allowed = allowReal || workbench.workspace().settings().realDrives();
            Targets.Target found =
                    new TargetHistory(workbench).known(common.targets(allowed).at(target, size));
            WritePlan plan = WritePlan.of(
                    file, size, found.description(), new WritePlan.Options(mode, !noVerify, digest), confirm);
            plan.findings().stream()
                    .filter(finding -> !finding.stops())
                    .forEach(finding -> common.message(line(finding)));
            WriteReport report = WriteJob.run(workbench.workspace(), plan, found, holder(workbench), meter);
            common.print(out(report, plan), List.of(report.verdict().code() + ": " + report.sentence()));
            return code(report.verdict());
        }
    }

    /** The board whose medium the target is, so that its page knows of the write. */
    private Optional<String> holder(Workbench workbench) throws IOException {
        boolean ours = target.toAbsolutePath()
                .normalize()
                .startsWith(workbench.workspace().drives().toAbsolutePath().normalize());
        return ours
                ? workbench.holder(String.valueOf(target.getFileName())).map(board -> board.register()
                        .id())
                : Optional.empty();
    }

    private static String line(Finding finding) {
        return finding.severity().code() + ": " + finding.text();
    }

    private static Out out(WriteReport report, WritePlan plan) {
        return new Out(
                report.plannedBytes(),
                report.writtenBytes(),
                report.skippedBytes(),
                report.seconds(),
                report.imageSha256(),
                report.verification()
                        .map(each -> verification(each.checkedBytes(), each.pastCache(), each.differences())),
                report.verdict().code(),
                report.sentence(),
                Common.out(plan.findings()));
    }

    static VerificationOut verification(long checked, boolean pastCache, List<Difference> differences) {
        List<DifferenceOut> list = new ArrayList<>();
        differences.forEach(each -> list.add(new DifferenceOut(each.offset(), each.bytes())));
        return new VerificationOut(checked, pastCache, list);
    }

    static int code(Verdict verdict) {
        return switch (verdict) {
            case VERIFIED, WRITTEN -> ExitCode.DONE;
            case DIFFERENT -> ExitCode.DIFFERENT;
            case CANCELLED, FAILED -> ExitCode.FAILED;
        };
    }
}
