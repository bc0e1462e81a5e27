// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.order;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.FusePlan;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Companions;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** The start order of one board, staged for the next restart. */
public final class OrderJob {
    private static final JobRunner.DeedKind STAGE =
            JobRunner.DeedKind.reading("order", Step.ORDER, "staging an order for");

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
        return stage(at, value, Optional.empty());
    }

    private BoardState stage(Workbench.BoardAtHand at, String value, Optional<Companions> companions)
            throws IOException {
        BoardProfile profile = at.profile();
        if (profile.order().fuse().isPresent()) {
            BoardProfile.Fuse fuse = profile.order().fuse().get();
            throw new Refused(Finding.stop(
                    "fuse-not-a-setting",
                    "This family keeps its order in one-time memory: bit " + fuse.bit()
                            + " of the register cannot be staged, and once set it can never be undone.",
                    Basis.practice()));
        }
        Refused.ifAnyStops(OrderDialect.judge(profile, value, at.board().chip().running()));
        if (!value.matches("[\\w ,.:-]{1,200}")) {
            // Whatever a family's order looks like, it is one line of letters and digits.
            throw new BadArgument("\"" + value.replaceAll("\\p{Cntrl}", "?") + "\" is no order.", value);
        }
        BoardDeed board = new BoardDeed(workbench, at);
        String with = companions
                .filter(Companions::changes)
                .map(each -> " With it: " + String.join(", ", each.in())
                        + (each.out().isEmpty() ? "" : "; without " + String.join(", ", each.out())) + ".")
                .orElse("");
        return board.run(STAGE, now -> {
            FirmwareChip chip = now.at().board().chip();
            Refused.ifAnyStops(OrderDialect.judge(profile, value, chip.running()));
            if (companions.isPresent()) {
                now.requireSettingsAsIn(at);
            }
            FirmwareConfig config = companions.map(Companions::config).orElseGet(chip::nextConfig);
            return now.outcome(
                    now.deeds().stage(config.with(profile.order().key(), value)),
                    "order-staged",
                    profile.order().key() + "=" + value + " staged; it takes effect at the next restart." + with);
        });
    }

    /**
     * The same with the settings that have to go with it.
     *
     * @throws Refused as {@link #stage(Workbench.BoardAtHand, String)}
     */
    public BoardState stage(Workbench.BoardAtHand at, String value, Companions companions) throws IOException {
        return stage(at, value, Optional.of(companions));
    }

    /** What goes with an order on this board, as it is with what is staged already. */
    public Companions companions(Workbench.BoardAtHand at, Bench bench, List<StartSource> sources) {
        return companions(at, bench, sources, workbench.rules());
    }

    /** The same by rules that are at hand. */
    public static Companions companions(
            Workbench.BoardAtHand at, Bench bench, List<StartSource> sources, HouseRules rules) {
        return Companions.of(bench.withConfig(at.board().chip().nextConfig()), sources, rules.pcie());
    }

    /**
     * Has a virtual board of a family with one-time memory set its bit, as the line in the settings does at a start.
     *
     * @param typed the board's own id, and again: the bit, as in "bit 29"
     * @throws Refused when either was not typed to the letter, or the bit is set already
     */
    public BoardState setFuse(Workbench.BoardAtHand at, String typed, String again) throws IOException {
        FusePlan plan = FusePlan.of(at.profile(), at.order());
        Refused.ifAnyStops(plan.findings());
        if (!at.register().can(Ability.SET_BIT)) {
            throw new Refused(Finding.stop(
                    "fuse-by-hand", "This board is set by hand: " + String.join(" ", plan.steps()), Basis.practice()));
        }
        if (!typed.equals(at.register().id()) || !again.equals(plan.secondWord())) {
            throw new Refused(Finding.stop(
                    "fuse-not-confirmed",
                    "Setting a fuse can never be undone: type the board's id, "
                            + at.register().id() + ", and then \"" + plan.secondWord() + "\".",
                    Basis.practice()));
        }
        BoardDeed board = new BoardDeed(workbench, at);
        return board.run(STAGE, now -> {
            now.requireSettingsAsIn(at);
            now.deeds()
                    .stage(now.at()
                            .board()
                            .chip()
                            .nextConfig()
                            .with(at.profile().order().key(), plan.after()));
            return now.outcome(
                    now.deeds().restart(),
                    "fuse-set",
                    "Bit " + plan.bit() + " set for ever: the register went from " + plan.before() + " to "
                            + plan.after() + ". The line " + plan.line()
                            + " was put into the settings for one start and taken out again.");
        });
    }
}
