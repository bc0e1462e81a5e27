// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.block.TransferWatch;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
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
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.media.DriveWork;
import exordium.jobs.writing.WriteJob;
import exordium.store.Copies;
import java.io.IOException;
import java.security.SecureRandom;
import java.util.List;
import java.util.Optional;

/**
 * A copy back onto a drive, whatever its size as long as its last partition ends on it: read back, grown and given an identity of
 * its own where that is wanted, and rehearsed in its board.
 */
public final class RestoreJob {
    private final Workbench workbench;
    private final BenchReader benches;
    private final CopyJob copies;

    public RestoreJob(Workbench workbench, BenchReader benches, CopyJob copies) {
        this.workbench = workbench;
        this.benches = benches;
        this.copies = copies;
    }

    /**
     * What is to go back, and how.
     *
     * @param grow whether the last partition takes what the target has more
     * @param after whether it gets an identity of its own
     */
    public record Order(
            Copies.Copy copy,
            Targets.Target target,
            String typed,
            WriteMode mode,
            boolean grow,
            AfterWrite.Wanted after) {}

    /** What came of it; grown: what was done about the room behind the last partition, else empty. */
    public record Done(WriteReport report, String grown, Optional<Trace> alone, List<Finding> findings) {}

    private WritePlan plan(Order order, TransferWatch watch) throws IOException {
        ImageFile image = copies.open(order.copy());
        ByteSize size = WriteJob.sizeOf(image, watch);
        Optional<UsedMap> used =
                order.mode() == WriteMode.USED ? Optional.of(WriteJob.usedIn(image, watch)) : Optional.empty();
        return WritePlan.of(
                image,
                size,
                order.target().description(),
                new WritePlan.Options(order.mode(), true, false, used),
                order.typed());
    }

    /** @throws Refused when the target is too small, may not be written, or was not named */
    public Done run(Order order, TransferWatch watch) throws IOException {
        Targets.Target target = new TargetHistory(workbench).known(order.target());
        Optional<Workbench.BoardAtHand> board = workbench.workspace().boards().all().stream()
                        .anyMatch(each -> each.id().equals(order.copy().board()))
                ? Optional.of(workbench.board(order.copy().board()))
                        .filter(at -> workbench.mainMedium(at).isPresent())
                : Optional.empty();
        WritePlan plan = plan(order, watch);
        Refused.ifAnyStops(plan.findings());
        WriteReport report = WriteJob.run(workbench, plan, target, Optional.empty(), watch);
        if (!report.verdict().good()) {
            return new Done(report, "", Optional.empty(), List.of());
        }
        String grown = order.grow()
                ? new DriveWork(workbench, new SecureRandom()::nextLong)
                        .grow(target, target.description().id())
                : "";
        AfterWrite.Rehearsed rehearsed = new AfterWrite(workbench, benches).finish(target, board, order.after());
        return new Done(report, grown, rehearsed.alone(), rehearsed.findings());
    }
}
