// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.Span;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What runs, what is staged, what is newest in the board's channel, and what follows. */
public record FirmwareStatus(
        LocalDate running,
        Optional<LocalDate> staged,
        Optional<FirmwareRelease> newest,
        Channel channel,
        List<Finding> findings) {
    /** Under this a newer release is no reason to touch a machine that works. Common practice, no source. */
    private static final long DAYS_BEFORE_DUE = 90;

    static final String NONE_KNOWN =
            "No release is known for this family; add those its maker names, by date and channel.";

    /** Where told: whether what the chip runs was read or told, and not only taken for it. */
    public static FirmwareStatus of(
            BoardProfile profile,
            FirmwareChip chip,
            boolean told,
            Channel channel,
            FirmwareCatalogue catalogue,
            boolean overlayOn) {
        Optional<FirmwareRelease> newest = catalogue.newest(profile.id(), channel);
        List<Finding> findings = new ArrayList<>();
        Basis dates = Basis.computed("the releases' dates");
        if (!profile.firmware().updatable()) {
            findings.add(profile.from()
                    .judged(
                            Finding.note(
                                    "firmware-with-system",
                                    "This family keeps its firmware on the "
                                            + profile.firmware().where()
                                            + " and gets it with the system; there is no chip to update.",
                                    Basis.computed("the board's profile")),
                            FamilyField.FIRMWARE_WHERE,
                            FamilyField.FIRMWARE_UPDATABLE));
        } else if (chip.isDead()) {
            findings.add(Finding.stop(
                            "chip-dead",
                            "The chip holds no release that is whole: a write to it was cut. Make a recovery card, put it in, and"
                                    + " switch the board on.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        } else if (!told || FirmwareChip.known(chip.running()).isEmpty()) {
            findings.add(Finding.caution(
                            "firmware-unknown",
                            "Nobody told which release it runs: start it with no medium in it, and read the date off its screen.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        } else if (newest.isEmpty()) {
            findings.add(Finding.note("firmware-unknown", NONE_KNOWN, Basis.practice()));
        } else if (behind(chip, newest)) {
            long days = ChronoUnit.DAYS.between(chip.running(), newest.get().version());
            String text = "Release " + newest.get().version() + " is the newest in channel " + channel.code()
                    + "; the board runs " + chip.running() + ", " + Span.days(days) + " older. "
                    + newest.get().notes();
            findings.add((days > DAYS_BEFORE_DUE
                            ? Finding.caution("firmware-behind", text, dates)
                            : Finding.note("firmware-behind", text, dates))
                    .mendAt(Step.FIRMWARE));
        } else {
            findings.add(Finding.note(
                    "firmware-newest", "The board runs the newest release in channel " + channel.code() + ".", dates));
        }
        if (chip.anythingStaged()) {
            findings.add(Finding.caution(
                            "staged-not-running",
                            staged(chip) + " takes effect at the next restart. Switching off instead loses it.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        }
        if (overlayOn && profile.firmware().updatable()) {
            findings.add(Finding.stop(
                    "overlay-on",
                    "The read-only overlay is on; the firmware cannot be updated until it is off.",
                    Basis.practice()));
        }
        if (channel == Channel.BETA) {
            findings.add(Finding.caution(
                    "beta-channel", "Beta releases are not for a machine you rely on.", Basis.houseRule("channel")));
        }
        return new FirmwareStatus(chip.running(), chip.staged(), newest, channel, Finding.worstFirst(findings));
    }

    /** The same beside the house's channel: a board that follows a less tried one says so. */
    public FirmwareStatus beside(Channel house) {
        if (house.carries(channel)) {
            return this;
        }
        List<Finding> more = new ArrayList<>(findings);
        more.add(Finding.note(
                "channel-beyond-house",
                "This board follows channel " + channel.code() + ", less tried than the house's, " + house.code() + ".",
                Basis.houseRule("channel")));
        return new FirmwareStatus(running, staged, newest, channel, Finding.worstFirst(more));
    }

    /** What staging one release would mean; stops refuse it. */
    public static List<Finding> plan(
            BoardProfile profile, FirmwareChip chip, FirmwareRelease release, Channel channel, boolean overlayOn) {
        List<Finding> findings = new ArrayList<>();
        if (!profile.firmware().updatable()) {
            findings.add(profile.from()
                    .judged(
                            Finding.stop(
                                    "firmware-not-updatable",
                                    "The firmware of a " + profile.id()
                                            + " comes with its system and is not updated by itself.",
                                    Basis.computed("the board's profile")),
                            FamilyField.FIRMWARE_WHERE,
                            FamilyField.FIRMWARE_UPDATABLE));
        }
        if (overlayOn) {
            findings.add(Finding.stop(
                    "overlay-on",
                    "The read-only overlay is on; switch it off and restart before updating.",
                    Basis.practice()));
        }
        if (!channel.carries(release.channel())) {
            findings.add(Finding.caution(
                    "outside-channel",
                    "Release " + release.version() + " is " + release.channel().code() + "; this board follows "
                            + channel.code() + ".",
                    Basis.houseRule("channel")));
        }
        if (release.version().isBefore(chip.running())) {
            findings.add(Finding.caution(
                    "older-release",
                    "Release " + release.version() + " is older than what runs, " + chip.running() + ".",
                    Basis.computed("the releases' dates")));
        }
        if (release.version().equals(chip.running())) {
            findings.add(Finding.note(
                    "same-release", "The board runs this release already.", Basis.computed("the releases' dates")));
        } else {
            findings.add(Finding.caution(
                    "restart-not-off",
                    "Restart the board to take it over; never cut the power while the chip is written.",
                    Basis.practice()));
        }
        findings.add(Finding.note(
                "release-notes", release.version() + ": " + release.notes(), Basis.computed("the release's notes")));
        return Finding.worstFirst(findings);
    }

    public long daysBehind() {
        return newest.filter(release -> FirmwareChip.known(running).isPresent())
                .map(release -> Math.max(0, ChronoUnit.DAYS.between(running, release.version())))
                .orElse(0L);
    }

    private static boolean behind(FirmwareChip chip, Optional<FirmwareRelease> newest) {
        return newest.isPresent() && newest.get().version().isAfter(chip.running());
    }

    private static String staged(FirmwareChip chip) {
        return chip.staged()
                .map(version -> "Release " + version + " is staged; it")
                .orElse("A changed setting is staged; it");
    }
}
