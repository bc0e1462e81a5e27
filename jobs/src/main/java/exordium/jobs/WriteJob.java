// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Verdict;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.core.writing.WriteRun;
import exordium.store.Media;
import exordium.store.Workspace;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.CancellationException;

/** Writes an image to a target: plan, run, report, logbook. */
public final class WriteJob {
    /** Under this a rate says more of the start than of the medium. */
    private static final long LEAST_TO_MEASURE = 32 << 20;

    private WriteJob() {}

    /** The image's size: from its container, or by reading it through once. */
    public static ByteSize sizeOf(ImageFile image, TransferWatch watch) throws IOException {
        if (image.uncompressedSize().isPresent()) {
            return image.uncompressedSize().get();
        }
        byte[] buffer = new byte[1 << 16];
        long size = 0;
        try (InputStream stream = image.stream()) {
            for (int got = stream.read(buffer); got >= 0; got = stream.read(buffer)) {
                if (watch.cancelled()) {
                    throw new CancellationException("stopped while measuring " + image.name());
                }
                watch.moved(TransferWatch.Phase.UNPACKING, size, got, 0, -1);
                size += got;
            }
        }
        return ByteSize.of(size);
    }

    /**
     * Runs a plan and puts it down, the beginning before the first byte moves.
     *
     * @throws Refused when the plan has a stop; nothing was touched
     */
    public static WriteReport run(
            Workspace workspace, WritePlan plan, Targets.Target target, Optional<String> board, TransferWatch watch)
            throws IOException {
        Refused.ifAnyStops(plan.findings());
        Optional<Media.Medium> medium = registered(workspace, target);
        WriteReport report;
        // Opening touches nothing; a target that cannot be opened leaves no trace in the register.
        try (BlockDevice device = target.opener().open(true)) {
            report = recorded(workspace, plan, board, medium.map(Media.Medium::id), device, watch);
        }
        medium.ifPresent(each -> remember(workspace, each.id(), report));
        String name = medium.map(Media.Medium::name).orElse(plan.target().id());
        workspace
                .log()
                .add(
                        board,
                        Step.IMAGE,
                        "write-" + report.verdict().code(),
                        plan.image().name() + " to " + name + ": " + report.sentence(),
                        Optional.empty());
        return report;
    }

    /** What the write told of the medium itself: its wear, its pace, its faults. */
    private static void remember(Workspace workspace, String medium, WriteReport report) {
        Media media = workspace.media();
        Instant now = workspace.clock().instant();
        media.addWritten(medium, ByteSize.of(report.writtenBytes()));
        if (report.writtenBytes() >= LEAST_TO_MEASURE && report.writeRate().bytesPerSecond() > 0) {
            media.measured(medium, now, "write", report.writeRate());
        }
        if (report.readRate().bytesPerSecond() > 0 && report.plannedBytes() >= LEAST_TO_MEASURE) {
            media.measured(medium, now, "read", report.readRate());
        }
        if (report.verdict() == Verdict.DIFFERENT || report.verdict() == Verdict.FAILED) {
            media.fault(medium, now, report.sentence());
        }
    }

    private static WriteReport recorded(
            Workspace workspace,
            WritePlan plan,
            Optional<String> board,
            Optional<String> medium,
            BlockDevice device,
            TransferWatch watch) {
        long row = workspace
                .writes()
                .begin(board, medium, plan.target().id(), plan.image().name());
        try {
            WriteReport report = new WriteRun(plan, device, watch).execute();
            workspace.writes().end(row, report);
            return report;
        } catch (RuntimeException e) {
            workspace.writes().end(row, Verdict.FAILED);
            throw e;
        }
    }

    /** The register's entry behind a target: a drive of the workspace by its file, one of the machine by its serial. */
    static Optional<Media.Medium> registered(Workspace workspace, Targets.Target target) {
        if (!target.simulated() && !target.serial().isEmpty()) {
            return workspace.media().bySerial(target.serial());
        }
        Path path = target.description().path();
        boolean ours = path.toAbsolutePath()
                .normalize()
                .startsWith(workspace.drives().toAbsolutePath().normalize());
        return ours ? workspace.media().byFile(String.valueOf(path.getFileName())) : Optional.empty();
    }
}
