// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.access.BoardState;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.core.firmware.FlashChip;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.OnBoard;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Firmware of one board: which release, what is to be said of it, staged for the next restart. */
public final class FirmwareJob {
    private static final JobRunner.Kind STAGE =
            JobRunner.Kind.reading("firmware", Step.FIRMWARE, "staging firmware for");

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
        dead(at).ifPresent(findings::add);
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

    /** A board whose chip holds nothing whole takes nothing down. */
    public static Optional<Finding> dead(Workbench.BoardAtHand at) {
        return at.board().chip().isDead()
                ? Optional.of(Finding.stop(
                        "chip-dead",
                        "Its chip holds no release that is whole, so nothing runs that could take this over; only a recovery card"
                                + " brings it back.",
                        Basis.practice()))
                : Optional.empty();
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
                int bytes = manifest.payload().bytes();
                if (!at.register().byHand() && bytes > FlashChip.ROOM) {
                    findings.add(Finding.stop(
                            "release-too-large",
                            "Release " + release.version() + " has " + bytes + " bytes; the chip's slot has room for "
                                    + FlashChip.ROOM + ".",
                            Basis.computed("the bundle")));
                }
                findings.add(signature(each.signed(), release));
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

    private static Finding signature(FirmwareBundle.Signed signed, FirmwareRelease release) {
        Basis basis = Basis.standard("RFC 8032, Ed25519");
        return switch (signed) {
            case YES ->
                Finding.note(
                        "bundle-signed",
                        "The bundle of " + release.version() + " is signed by a key you trust.",
                        basis);
            case NO -> Finding.note("bundle-unsigned", "Nobody signed the bundle of " + release.version() + ".", basis);
            case UNCHECKED ->
                Finding.note(
                        "bundle-unchecked",
                        "The bundle of " + release.version() + " is signed, and no key is here to check it with.",
                        basis);
            case WRONG ->
                Finding.stop(
                        "bundle-signature",
                        "The signature of the bundle of " + release.version()
                                + " is by none of the keys you trust, or it was changed since.",
                        basis);
        };
    }

    /** @throws Refused when the plan has a stop */
    public BoardState stage(Workbench.BoardAtHand at, FirmwareRelease release) throws IOException {
        Refused.ifAnyStops(plan(at, release));
        OnBoard board = new OnBoard(workbench, at);
        return board.run(
                STAGE,
                () -> board.outcome(
                        board.access().stage(release.version()),
                        "firmware-staged",
                        "Release " + release.version() + " staged; it takes effect at the next restart."));
    }
}
