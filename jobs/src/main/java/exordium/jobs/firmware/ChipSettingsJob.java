// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.access.BoardState;
import exordium.core.bootorder.ChipSettings;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import java.io.IOException;

/** The settings a firmware keeps beside itself, staged for the next restart. */
public final class ChipSettingsJob {
    private static final JobRunner.DeedKind STAGE =
            JobRunner.DeedKind.reading("settings", Step.FIRMWARE, "staging settings for");

    private final Workbench workbench;

    public ChipSettingsJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /** What changing them would mean. @throws UnreadableInput where this family has no chip that keeps settings */
    public static ChipSettings plan(Workbench.BoardAtHand at, String text) throws UnreadableInput {
        return ChipSettings.of(at.profile(), at.board().chip(), text);
    }

    /** @throws Refused when something in them would be a stop */
    public BoardState stage(Workbench.BoardAtHand at, ChipSettings change) throws IOException {
        Refused.ifAnyStops(change.findings());
        BoardDeed board = new BoardDeed(workbench, at);
        return board.run(STAGE, now -> {
            now.requireSettingsAsIn(at);
            return now.outcome(
                    now.deeds().stage(change.after()),
                    "settings-staged",
                    "Settings staged (" + String.join(", ", change.in())
                            + (change.out().isEmpty() ? "" : "; without " + String.join(", ", change.out()))
                            + "); they count from the next restart.");
        });
    }
}
