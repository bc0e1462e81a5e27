// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.cli.common.TakeIn;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.OverBound;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Difference;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.DriveWork;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Path;
import java.security.SecureRandom;
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
public final class WriteCommand implements Callable<Integer> {
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
            description = "the target's own name, to prove it is meant; once for each target")
    private List<String> confirm;

    @Option(names = "--also", paramLabel = "TARGET", description = "a further target, written from the same reading")
    private List<Path> also = new ArrayList<>();

    @Option(names = "--grow", description = "make the last partition as large as the free tail of the house allows")
    private boolean grow;

    @Option(
            names = "--take-in",
            paramLabel = "NAME",
            description = "a drive that is in no register is taken in first, under this name; once for each target")
    private List<String> takeIn = new ArrayList<>();

    @Option(
            names = "--kind",
            paramLabel = "KIND",
            description = "what it is, with --take-in (default: the likely kind)")
    private String kind;

    @Option(names = "--resume", description = "go on with a write to this target that was cut off")
    private boolean resume;

    @Option(names = "--mode", paramLabel = "whole|used|changed", defaultValue = "whole")
    private WriteMode mode;

    @Option(names = "--no-verify", description = "do not read back")
    private boolean noVerify;

    @Option(names = "--digest", description = "work out the SHA-256 of the uncompressed image on the way")
    private boolean digest;

    public record DifferenceOut(long offset, long bytes) {}

    record VerificationOut(long checkedBytes, boolean pastCache, List<DifferenceOut> differences) {}

    private record WriteOut(
            long plannedBytes,
            long writtenBytes,
            long skippedBytes,
            double seconds,
            Optional<String> imageSha256,
            Optional<VerificationOut> verification,
            String verdict,
            String target,
            String text,
            List<Common.FindingOut> findings) {}

    @Override
    public Integer call() throws IOException {
        Workbench workbench = common.workbench();
        List<Path> targets = new ArrayList<>(List.of(target));
        targets.addAll(also);
        if (confirm.size() != targets.size()) {
            throw new UnreadableInput("There are " + targets.size() + " targets and " + confirm.size()
                    + " names: give --confirm once for each, in their order.");
        }
        if (resume && targets.size() > 1) {
            throw new UnreadableInput("Going on is for one target at a time.");
        }
        ImageFile file = ImageFile.open(image);
        try (ConsoleProgress progress = common.progress(!noVerify)) {
            TransferMeter meter = progress.meter();
            List<WriteJob.Order> orders = orders(workbench, file, targets, meter);
            List<WriteReport> reports = new ArrayList<>();
            if (resume) {
                reports.add(WriteJob.resume(workbench, orders.get(0), unfinished(workbench, orders.get(0))));
            } else {
                takeIn(workbench, orders);
                reports.addAll(WriteJob.runAll(workbench, orders));
            }
            List<String> grown = new ArrayList<>();
            for (int i = 0; i < orders.size(); i++) {
                boolean grows = grow && reports.get(i).verdict().good();
                grown.add(grows ? " " + grow(workbench, orders.get(i), i) : "");
            }
            print(orders, reports, grown);
            return reports.stream()
                    .mapToInt(report -> code(report.verdict()))
                    .max()
                    .orElse(ExitCode.DONE);
        }
    }

    /** What is written belongs to them from the first byte on; where the plan is refused, none is taken in. */
    private void takeIn(Workbench workbench, List<WriteJob.Order> orders) throws IOException {
        if (!takeIn.isEmpty() && takeIn.size() != orders.size()) {
            throw new UnreadableInput("There are " + orders.size() + " targets and " + takeIn.size()
                    + " names to take them in under: give --take-in once for each, in their order.");
        }
        for (WriteJob.Order order : orders) {
            Refused.ifAnyStops(order.plan().findings());
        }
        for (int i = 0; i < takeIn.size(); i++) {
            TakeIn.take(workbench, orders.get(i).target(), takeIn.get(i), Optional.ofNullable(kind));
        }
    }

    private String grow(Workbench workbench, WriteJob.Order order, int index) throws IOException {
        return new DriveWork(workbench, new SecureRandom()::nextLong).grow(order.target(), confirm.get(index));
    }

    private List<WriteJob.Order> orders(Workbench workbench, ImageFile file, List<Path> targets, TransferMeter meter)
            throws IOException {
        Targets reach = common.targets(workbench);
        ImageFile bounded = WriteJob.bounded(file, reach, targets);
        ByteSize size = sizeOf(bounded, meter);
        Optional<UsedMap> used =
                mode == WriteMode.USED ? Optional.of(WriteJob.usedIn(bounded, meter)) : Optional.empty();
        List<WriteJob.Order> orders = new ArrayList<>();
        for (int i = 0; i < targets.size(); i++) {
            Targets.Target found = new TargetHistory(workbench).known(reach.at(targets.get(i), size));
            WritePlan plan = WritePlan.of(
                    file,
                    size,
                    found.description(),
                    new WritePlan.Options(mode, !noVerify, digest, used),
                    confirm.get(i));
            plan.findings().stream()
                    .filter(finding -> !finding.stops())
                    .forEach(finding -> common.message(line(finding)));
            orders.add(new WriteJob.Order(
                    plan, found, holder(workbench, targets.get(i)), i == 0 ? meter : meter.beside()));
        }
        return orders;
    }

    /** An image that only tells its size when it is unpacked, and is too large, is refused like any other. */
    private static ByteSize sizeOf(ImageFile image, TransferMeter meter) throws IOException {
        try {
            return WriteJob.sizeOf(image, meter);
        } catch (OverBound e) {
            throw new Refused(Finding.stop(
                    "target-too-small", e.getMessage(), Basis.computed("unpacking it as far as there is room")));
        }
    }

    private WriteJob.Unfinished unfinished(Workbench workbench, WriteJob.Order order) throws IOException {
        String id = order.plan().target().id();
        String key = order.target().key();
        return WriteJob.unfinished(workbench).stream()
                .filter(each -> each.write().deed().key().isEmpty()
                        ? each.write().deed().target().equals(id)
                        : each.write().deed().key().equals(key))
                .findFirst()
                .orElseThrow(() -> new UnreadableInput("There is no write to " + id + " that was cut off."));
    }

    private void print(List<WriteJob.Order> orders, List<WriteReport> reports, List<String> grown) {
        List<WriteOut> outs = new ArrayList<>();
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < orders.size(); i++) {
            outs.add(out(reports.get(i), orders.get(i).plan(), grown.get(i)));
            lines.add(reports.get(i).verdict().code() + ": " + reports.get(i).sentence() + grown.get(i));
        }
        common.print(outs.size() == 1 ? outs.get(0) : new Several(outs), lines);
    }

    private record Several(List<WriteOut> reports) {}

    /** The board whose medium the target is, so that its page knows of the write. */
    private static Optional<String> holder(Workbench workbench, Path target) throws IOException {
        boolean ours = target.toAbsolutePath()
                .normalize()
                .startsWith(workbench.drives().toAbsolutePath().normalize());
        return ours
                ? workbench.holder(String.valueOf(target.getFileName())).map(board -> board.register()
                        .id())
                : Optional.empty();
    }

    private static String line(Finding finding) {
        return finding.severity().code() + ": " + finding.text();
    }

    private static WriteOut out(WriteReport report, WritePlan plan, String grown) {
        return new WriteOut(
                report.plannedBytes(),
                report.writtenBytes(),
                report.skippedBytes(),
                report.seconds(),
                report.imageSha256(),
                report.verification()
                        .map(each -> verification(each.checkedBytes(), each.pastCache(), each.differences())),
                report.verdict().code(),
                report.target(),
                report.sentence() + grown,
                Common.out(plan.findings()));
    }

    static VerificationOut verification(long checked, boolean pastCache, List<Difference> differences) {
        List<DifferenceOut> list = new ArrayList<>();
        differences.forEach(each -> list.add(new DifferenceOut(each.offset(), each.bytes())));
        return new VerificationOut(checked, pastCache, list);
    }

    public static int code(Verdict verdict) {
        return switch (verdict) {
            case VERIFIED, WRITTEN -> ExitCode.DONE;
            case DIFFERENT -> ExitCode.DIFFERENT;
            case CANCELLED, FAILED -> ExitCode.FAILED;
        };
    }
}
