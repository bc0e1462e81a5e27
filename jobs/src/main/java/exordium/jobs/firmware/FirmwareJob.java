// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Firmware of one board: which release, what is to be said of it, staged for the next restart. */
public final class FirmwareJob {
    private static final JobRunner.DeedKind STAGE =
            JobRunner.DeedKind.reading("firmware", Step.FIRMWARE, "staging firmware for");

    private final Workbench workbench;
    private Optional<List<FirmwareShelf.Shelved>> shelved = Optional.empty();

    public FirmwareJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /** @throws UnreadableInput when no such release exists for the board */
    public FirmwareRelease release(Workbench.BoardAtHand at, LocalDate version) throws UnreadableInput {
        return workbench
                .firmware()
                .find(at.profile().id(), version)
                .orElseThrow(() -> new UnreadableInput("There is no release " + version + " for a "
                        + at.profile().id() + "."));
    }

    /** What speaks for and against this release on this board, worst first. */
    public List<Finding> plan(Workbench.BoardAtHand at, FirmwareRelease release) {
        List<Finding> findings = new ArrayList<>(FirmwareStatus.plan(
                at.profile(),
                at.board().chip(),
                release,
                at.register().channel(),
                at.board().overlay()));
        at.board().chip().takesNothing().ifPresent(findings::add);
        release.needs()
                .filter(needs -> at.board().chip().running().isBefore(needs))
                .ifPresent(needs -> findings.add(Finding.stop(
                        "earlier-release-first",
                        "Release " + release.version() + " is only taken by " + needs
                                + " or later: update to that one first, and restart.",
                        Basis.computed("the release's manifest"))));
        findings.addAll(bundled(at, release));
        return Finding.worstFirst(findings);
    }

    /** What its bundle on the shelf is like. */
    private List<Finding> bundled(Workbench.BoardAtHand at, FirmwareRelease release) {
        try {
            List<Finding> findings = new ArrayList<>();
            for (FirmwareShelf.Shelved each : shelved()) {
                FirmwareBundle.Manifest manifest = each.bundle().manifest();
                if (!manifest.version().equals(release.version())
                        || !manifest.boards().contains(at.profile().id())) {
                    continue;
                }
                findings.addAll(
                        each.bundle().findings(each.signed(), at.register().can(Ability.WRITE_CHIP)));
            }
            return findings;
        } catch (IOException e) {
            return List.of();
        }
    }

    /** Read once for all that is asked of this job. */
    private List<FirmwareShelf.Shelved> shelved() throws IOException {
        if (shelved.isEmpty()) {
            shelved = Optional.of(workbench.firmwareShelf().bundles(new ArrayList<>()));
        }
        return shelved.get();
    }

    /** @throws Refused when the plan has a stop */
    public BoardState stage(Workbench.BoardAtHand at, FirmwareRelease release) throws IOException {
        Refused.ifAnyStops(plan(at, release));
        BoardDeed board = new BoardDeed(workbench, at);
        return board.run(STAGE, now -> {
            Refused.ifAnyStops(plan(now.at(), release));
            return now.outcome(
                    now.deeds().stage(release.version()),
                    "firmware-staged",
                    "Release " + release.version() + " staged; it takes effect at the next restart.");
        });
    }
}
