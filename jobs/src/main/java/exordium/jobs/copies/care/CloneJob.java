// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.CopyRun;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** One drive onto another, read back; then rehearsed in its place with the original out, and said what happens with both in. */
public final class CloneJob {
    private final Workbench workbench;
    private final BenchReader benches;

    public CloneJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /**
     * What is to be cloned.
     *
     * @param typed the name of the target
     * @param after whether it gets an identity of its own
     */
    public record Order(Path from, Path to, String typed, WriteMode mode, AfterWrite.Wanted after) {}

    /**
     * What came of it.
     *
     * @param alone the start from the clone with the original out; empty where the original belongs to no board
     */
    public record Done(WriteReport report, Optional<Trace> alone, List<Finding> findings) {}

    /** @throws Refused when the target is too small for the end of the last partition, may not be written, or was not named */
    public Done run(Targets reach, Order order, TransferWatch watch) throws IOException {
        Path from = reach.meant(order.from());
        if (!Files.exists(from)) {
            throw new UnreadableInput("There is no drive and no file " + from + ".");
        }
        Targets.Target source = reach.at(from, ByteSize.ZERO);
        ByteSize extent;
        Optional<UsedMap> used;
        try (BlockDevice device = source.read(watch)) {
            extent = CopyRun.extent(device);
            used = order.mode() == WriteMode.USED ? Optional.of(UsedMap.of(device)) : Optional.empty();
        }
        if (extent.bytes() == 0) {
            throw new UnreadableInput(from.getFileName() + " holds nothing to clone.");
        }
        ImageFile whole = ImageFile.open(from);
        ImageFile image = extent.compareTo(whole.compressedSize()) < 0 ? whole.first(extent) : whole;
        ByteSize size = image.compressedSize();
        Targets.Target target = new TargetHistory(workbench).known(reach.at(order.to(), size));
        WritePlan plan = WritePlan.of(
                image,
                size,
                target.description(),
                new WritePlan.Options(order.mode(), true, false, used),
                order.typed());
        Refused.ifAnyStops(plan.findings());
        Optional<Workbench.BoardAtHand> board = workbench.holder(String.valueOf(from.getFileName()));
        // Held until the end: what is written to meanwhile gives a clone of nothing that ever was.
        WriteReport report;
        try (BlockDevice held = new JobRunner(workbench).claim(source, watch)) {
            String before = held.changeMark();
            report = WriteJob.run(workbench, plan, target, Optional.empty(), watch);
            if (!held.changeMark().equals(before)) {
                throw new NotPossible(
                        from.getFileName()
                                + " was written to while it was being cloned: the clone is neither what it was nor what it is.");
            }
        }
        if (!report.verdict().good()) {
            return new Done(report, Optional.empty(), List.of());
        }
        AfterWrite.Rehearsed rehearsed = new AfterWrite(workbench, benches).finish(target, board, order.after());
        return new Done(report, rehearsed.alone(), rehearsed.findings());
    }
}
