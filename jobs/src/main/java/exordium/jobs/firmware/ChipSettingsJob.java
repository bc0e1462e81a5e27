// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.access.BoardState;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FlashChip;
import exordium.core.firststart.SettingsCheck;
import exordium.jobs.bench.Workbench;
import exordium.jobs.order.OrderJob;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.OnBoard;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The settings a firmware keeps beside itself: looked through, compared, staged for the next restart, set back to the factory's. */
public final class ChipSettingsJob {
    private static final JobRunner.Kind STAGE =
            JobRunner.Kind.reading("settings", Step.FIRMWARE, "staging settings for");

    private final Workbench workbench;

    public ChipSettingsJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * What changing them would mean.
     *
     * @param out lines that go, and in: lines that come
     */
    public record Change(
            FirmwareConfig before, FirmwareConfig after, List<String> out, List<String> in, List<Finding> findings) {
        public boolean changes() {
            return !out.isEmpty() || !in.isEmpty();
        }
    }

    /** What counts after the next restart as things stand. */
    public static FirmwareConfig current(Workbench.BoardAtHand at) {
        return at.board().chip().nextConfig();
    }

    /** @throws UnreadableInput where this family keeps no settings that could be edited */
    public Change plan(Workbench.BoardAtHand at, String text) throws UnreadableInput {
        BoardProfile profile = at.profile();
        if (!profile.firmware().inChip()) {
            throw new UnreadableInput("A " + profile.id() + " has no firmware chip that keeps settings.");
        }
        FirmwareConfig before = current(at);
        FirmwareConfig after = new FirmwareConfig(text.strip());
        List<Finding> findings = new ArrayList<>();
        FirmwareJob.dead(at).ifPresent(findings::add);
        byte[] bytes = after.text().getBytes(StandardCharsets.UTF_8);
        findings.addAll(SettingsCheck.settings(bytes, profile));
        if (bytes.length > FlashChip.MOST_SETTINGS) {
            findings.add(Finding.stop(
                    "settings-too-long",
                    "The settings have " + bytes.length + " bytes; the chip has room for " + FlashChip.MOST_SETTINGS
                            + ".",
                    Basis.practice()));
        }
        Optional<String> order = after.value(profile.order().key());
        if (order.isPresent()) {
            findings.addAll(
                    OrderJob.judge(profile, order.get(), at.board().chip().running()));
        } else {
            findings.add(Finding.note(
                    "settings-no-order",
                    "There is no " + profile.order().key() + " in them: the board takes its usual order, "
                            + profile.order().usual() + ".",
                    Basis.practice()));
        }
        return new Change(
                before, after, before.linesNotIn(after), after.linesNotIn(before), Finding.worstFirst(findings));
    }

    /** @throws Refused when something in them would be a stop */
    public BoardState stage(Workbench.BoardAtHand at, Change change) throws IOException {
        Refused.ifAnyStops(change.findings());
        OnBoard board = new OnBoard(workbench, at);
        return board.run(
                STAGE,
                () -> board.outcome(
                        board.access().stage(change.after()),
                        "settings-staged",
                        "Settings staged (" + String.join(", ", change.in())
                                + (change.out().isEmpty() ? "" : "; without " + String.join(", ", change.out()))
                                + "); they count from the next restart."));
    }
}
