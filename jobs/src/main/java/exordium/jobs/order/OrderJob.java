// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.order;

import exordium.core.access.BoardState;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareChip;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.OnBoard;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** The start order of one board, staged for the next restart. */
public final class OrderJob {
    private static final JobRunner.Kind STAGE = JobRunner.Kind.reading("order", Step.ORDER, "staging an order for");

    private final Workbench workbench;

    public OrderJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * Stages a start order.
     *
     * @throws Refused when the value cannot be used, or this family's order is not a setting
     */
    public BoardState stage(Workbench.BoardAtHand at, String value) throws IOException {
        BoardProfile profile = at.profile();
        if (profile.order().fuse().isPresent()) {
            BoardProfile.Fuse fuse = profile.order().fuse().get();
            throw new Refused(Finding.stop(
                    "fuse-not-a-setting",
                    "This family keeps its order in one-time memory: bit " + fuse.bit()
                            + " of the register cannot be staged, and once set it can never be undone.",
                    Basis.practice()));
        }
        FirmwareChip chip = at.board().chip();
        Refused.ifAnyStops(judge(profile, value, chip.running()));
        OnBoard board = new OnBoard(workbench, at);
        return board.run(
                STAGE,
                () -> board.outcome(
                        board.access()
                                .stage(chip.nextConfig().with(profile.order().key(), value)),
                        "order-staged",
                        profile.order().key() + "=" + value + " staged; it takes effect at the next restart."));
    }

    /** What is to be said of an order on a board with this release; stops refuse it. */
    public static List<Finding> judge(BoardProfile profile, String value, LocalDate running) {
        DecodedOrder decoded = OrderDialect.of(profile).decode(value);
        List<Finding> findings = new ArrayList<>(decoded.findings());
        findings.addAll(tooNew(profile, decoded, running));
        return Finding.worstFirst(findings);
    }

    /** Places in the order that the firmware of this board does not know yet: it would pass them over, or stop there. */
    private static List<Finding> tooNew(BoardProfile profile, DecodedOrder order, LocalDate running) {
        List<Finding> findings = new ArrayList<>();
        for (StartSource source : order.sources()) {
            LocalDate needed = profile.firmware().needs().get(source);
            if (needed != null && running.isBefore(needed)) {
                findings.add(Finding.stop(
                                "order-needs-firmware",
                                "The order asks for " + source.code() + ", which firmware of " + needed
                                        + " or later knows; this board runs " + running
                                        + ". Update the firmware, restart, then set the order.",
                                Basis.practice())
                        .mendAt(Step.FIRMWARE));
            }
        }
        return findings;
    }
}
