// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.finding.UnreadableInput;
import exordium.core.passage.Step;
import exordium.core.passage.Wish;
import exordium.jobs.bench.Workbench;
import exordium.store.Passages;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A passage under way in a line, as it was left; nothing is looked at anew for it.
 *
 * @param next what is to be done now
 */
public record UnderWay(String board, String name, Wish wish, Step next, int done, int steps, double minutesLeft) {
    /** All of the house. */
    public static List<UnderWay> of(Workbench workbench) {
        List<UnderWay> lines = new ArrayList<>();
        for (Passages.Passage each : workbench.workspace().passages().all()) {
            if (each.state() != Passages.State.UNDER_WAY) {
                continue;
            }
            line(workbench, each).ifPresent(lines::add);
        }
        return lines;
    }

    /** Empty for one that cannot be read, which is said on its own page, and one whose board is gone. */
    private static Optional<UnderWay> line(Workbench workbench, Passages.Passage passage) {
        try {
            KeptPlan plan = KeptPlan.read(passage);
            List<KeptPlan.Kept> left = plan.steps().stream()
                    .filter(step -> !step.done() && !step.fallen())
                    .toList();
            int done = (int) plan.steps().stream().filter(KeptPlan.Kept::done).count();
            return left.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new UnderWay(
                            passage.board(),
                            workbench
                                    .workspace()
                                    .boards()
                                    .require(passage.board())
                                    .name(),
                            Wish.parse(passage.wish()),
                            left.get(0).step(),
                            done,
                            done + left.size(),
                            left.stream()
                                    .mapToDouble(step -> step.step().cost().minutes())
                                    .sum()));
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** Whole minutes of what is left. */
    public long wholeMinutesLeft() {
        return Math.max(1, Math.round(minutesLeft));
    }
}
