// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.Coded;
import exordium.core.quantity.Span;
import exordium.core.storage.media.Supply;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Leave it or update it, and to what: by the channel, by what is plugged in or wanted, and by what went wrong; with the gates before
 * an update.
 *
 * @param to what to update to; empty where it is to be left, or nobody knows
 * @param reasons in a sentence each, what decides first
 */
public record FirmwareAdvice(
        Verdict verdict,
        Optional<FirmwareRelease> to,
        List<Finding> reasons,
        List<Gate> gates,
        List<Finding> doNotMixUp) {
    /** Under this a newer release by itself is no reason to touch a machine that works. Common practice, no source. */
    private static final long DAYS_BEFORE_DUE = 90;

    /** What to do. */
    public enum Verdict implements Coded {
        LEAVE,
        UPDATE,
        /** Its release, or any release of its family, is not known. */
        FIND_OUT
    }

    /**
     * What the judgement goes by, beside the chip.
     *
     * @param wanted sources that are to start: of drives that are plugged in, of the order and of what is staged
     * @param seen what was seen or logged of it, a sentence each
     * @param lastCopy when its medium was last copied and proven; lastChange: when something was last changed on it
     * @param tool whether its system has the updating tool; empty where nobody knows
     */
    public record Facts(
            Supply supply,
            boolean overlayOn,
            Set<StartSource> wanted,
            List<String> seen,
            Optional<LocalDate> lastCopy,
            Optional<LocalDate> lastChange,
            Optional<Boolean> tool) {}

    public static FirmwareAdvice of(
            BoardProfile profile, FirmwareChip chip, Channel channel, FirmwareCatalogue catalogue, Facts facts) {
        List<Finding> kinds = doNotMixUp(profile);
        if (!profile.firmware().updatable()) {
            Finding why = profile.from()
                    .judged(
                            Finding.note(
                                    "firmware-with-system",
                                    "The firmware of a " + profile.id() + " lies on its "
                                            + profile.firmware().where()
                                            + " and comes with the system: there is no chip to update.",
                                    Basis.computed("the board's profile")),
                            FamilyField.FIRMWARE_WHERE,
                            FamilyField.FIRMWARE_UPDATABLE);
            return new FirmwareAdvice(Verdict.LEAVE, Optional.empty(), List.of(why), List.of(), kinds);
        }
        Optional<FirmwareRelease> newest = catalogue.newest(profile.id(), channel);
        if (chip.isDead()) {
            Finding why = Finding.stop(
                            "chip-dead",
                            "The chip holds no release that is whole, so nothing runs that could update it: make a recovery card, put it"
                                    + " in with every other drive out, and switch the board on.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE);
            return new FirmwareAdvice(Verdict.UPDATE, newest, List.of(why), List.of(), kinds);
        }
        if (newest.isEmpty() || FirmwareChip.known(chip.running()).isEmpty()) {
            Finding why = Finding.note(
                    "firmware-unknown",
                    newest.isEmpty()
                            ? FirmwareStatus.NONE_KNOWN
                            : "Nobody told which release it runs: start it with no medium in it, and read the date off its screen.",
                    Basis.practice());
            return new FirmwareAdvice(Verdict.FIND_OUT, Optional.empty(), List.of(why), List.of(), kinds);
        }
        List<Finding> reasons = new ArrayList<>();
        LocalDate running = chip.staged().orElse(chip.running());
        Optional<FirmwareRelease> to = needed(profile, running, channel, catalogue, facts, reasons)
                .or(() -> mending(profile, running, channel, catalogue, facts, reasons))
                .or(() -> due(running, newest.get(), channel, reasons));
        whyNotBeta(profile, running, channel, catalogue, reasons);
        if (to.isEmpty()) {
            reasons.add(
                    0,
                    Finding.note(
                            "firmware-leave",
                            running.isBefore(newest.get().version())
                                    ? newest.get().version() + " is newer by "
                                            + Span.days(ChronoUnit.DAYS.between(
                                                    running, newest.get().version()))
                                            + " and brings nothing this board needs: leave it as it is."
                                    : "It runs the newest release in channel " + channel.code()
                                            + ": leave it as it is.",
                            Basis.houseRule("channel")));
        }
        return new FirmwareAdvice(
                to.isEmpty() ? Verdict.LEAVE : Verdict.UPDATE,
                to,
                List.copyOf(reasons),
                to.map(release -> gates(profile, chip, release, facts)).orElse(List.of()),
                kinds);
    }

    /** Something that is to start needs a later release. */
    private static Optional<FirmwareRelease> needed(
            BoardProfile profile,
            LocalDate running,
            Channel channel,
            FirmwareCatalogue catalogue,
            Facts facts,
            List<Finding> reasons) {
        Optional<LocalDate> latest = Optional.empty();
        for (StartSource source : facts.wanted()) {
            Optional<LocalDate> since = profile.firmware().lacking(source, running);
            if (since.isPresent()) {
                reasons.add(Finding.stop(
                                "firmware-needed",
                                "Starting from " + source.title() + " works since " + since.get() + "; it runs "
                                        + running + ".",
                                Basis.computed("the board's profile"))
                        .mendAt(Step.FIRMWARE));
                latest = latest.filter(each -> each.isAfter(since.get())).or(() -> since);
            }
        }
        return latest.flatMap(since -> since(profile, since, channel, catalogue));
    }

    /** What was seen is a defect that a later release mends. */
    private static Optional<FirmwareRelease> mending(
            BoardProfile profile,
            LocalDate running,
            Channel channel,
            FirmwareCatalogue catalogue,
            Facts facts,
            List<Finding> reasons) {
        Optional<FirmwareRelease> mends = Optional.empty();
        for (FirmwareRelease release : catalogue.of(profile.id())) {
            if (!release.version().isAfter(running)) {
                continue;
            }
            for (FirmwareRelease.Mend mend : release.defects()) {
                Optional<String> seen =
                        facts.seen().stream().filter(mend::explains).findFirst();
                if (seen.isPresent()) {
                    reasons.add(Finding.caution(
                                    "firmware-mends",
                                    release.version() + " mends what was seen here (\"" + seen.get() + "\"): "
                                            + mend.what() + ".",
                                    Basis.computed("the release's notes"))
                            .mendAt(Step.FIRMWARE));
                    mends = Optional.of(release);
                }
            }
        }
        return mends.map(
                release -> since(profile, release.version(), channel, catalogue).orElse(release));
    }

    /** The newest of the channel, where it is late enough for what is asked. */
    private static Optional<FirmwareRelease> since(
            BoardProfile profile, LocalDate since, Channel channel, FirmwareCatalogue catalogue) {
        return catalogue.newest(profile.id(), channel).filter(release -> !release.version()
                .isBefore(since));
    }

    private static Optional<FirmwareRelease> due(
            LocalDate running, FirmwareRelease newest, Channel channel, List<Finding> reasons) {
        long days = ChronoUnit.DAYS.between(running, newest.version());
        if (days <= DAYS_BEFORE_DUE) {
            return Optional.empty();
        }
        reasons.add(Finding.caution(
                        "firmware-behind",
                        "Its release is " + Span.days(days) + " older than " + newest.version()
                                + ", the newest in channel " + channel.code() + ".",
                        Basis.houseRule("channel"))
                .mendAt(Step.FIRMWARE));
        return Optional.of(newest);
    }

    private static void whyNotBeta(
            BoardProfile profile,
            LocalDate running,
            Channel channel,
            FirmwareCatalogue catalogue,
            List<Finding> reasons) {
        catalogue.of(profile.id()).stream()
                .filter(release -> release.channel() == Channel.BETA && channel != Channel.BETA)
                .filter(release -> release.version().isAfter(running))
                .reduce((first, last) -> last)
                .ifPresent(beta -> reasons.add(Finding.note(
                        "why-not-beta",
                        "Not " + beta.version() + ", which is beta (" + beta.notes()
                                + "): beta is for a fix or a feature you"
                                + " need, and never for the machine you rely on.",
                        Basis.practice())));
    }

    private static List<Gate> gates(BoardProfile profile, FirmwareChip chip, FirmwareRelease to, Facts facts) {
        List<Gate> gates = new ArrayList<>();
        boolean copied = facts.lastCopy().isPresent()
                && facts.lastChange().filter(facts.lastCopy().get()::isBefore).isEmpty();
        gates.add(new Gate(
                Gate.What.COPY,
                copied ? Gate.State.HOLDS : Gate.State.OPEN,
                copied
                        ? "Copied on " + facts.lastCopy().get() + ", and nothing was changed since."
                        : facts.lastCopy()
                                .map(at -> "The last copy is of " + at + ", before the last change: make one first.")
                                .orElse("There is no copy of it: make one first."),
                Optional.of(Step.COPIES)));
        boolean holds =
                facts.supply().power().compareTo(profile.power().supply().power()) >= 0;
        gates.add(new Gate(
                Gate.What.SUPPLY,
                holds ? Gate.State.HOLDS : Gate.State.OPEN,
                holds
                        ? facts.supply().said() + ", what it is made for."
                        : facts.supply().said() + " is less than it is made for, "
                                + profile.power().supply().said()
                                + ": a write that its power breaks off can leave it dead.",
                Optional.of(Step.STORAGE)));
        gates.add(new Gate(
                Gate.What.OVERLAY,
                facts.overlayOn() ? Gate.State.OPEN : Gate.State.HOLDS,
                facts.overlayOn() ? "It is on: switch it off and restart before anything else." : "It is off.",
                Optional.of(Step.FIRST_START)));
        to.needs()
                .ifPresent(needs -> gates.add(new Gate(
                        Gate.What.EARLIER_RELEASE,
                        chip.running().isBefore(needs) ? Gate.State.OPEN : Gate.State.HOLDS,
                        chip.running().isBefore(needs)
                                ? to.version() + " is only taken by " + needs
                                        + " or later: update to that one first, and restart."
                                : "It needs " + needs + ", and " + chip.running() + " runs.",
                        Optional.of(Step.FIRMWARE))));
        gates.add(new Gate(
                Gate.What.TOOL,
                facts.tool()
                        .map(there -> there ? Gate.State.HOLDS : Gate.State.OPEN)
                        .orElse(Gate.State.LOOK),
                facts.tool()
                        .map(
                                there -> there
                                        ? "It is on the medium it starts from."
                                        : "It is not on the medium it starts from: start another system, or make a recovery card.")
                        .orElse("Look whether its system has it; some have none, and a recovery card does it then."),
                Optional.of(Step.FIRMWARE)));
        gates.add(new Gate(
                Gate.What.RESTART,
                Gate.State.THEN,
                "The update is only put down; the restart takes it over, and switching off loses it. Never cut the power while"
                        + " it writes. Then read the date again.",
                Optional.empty()));
        return gates;
    }

    /** Three kinds of update that are easily taken for one another. */
    private static List<Finding> doNotMixUp(BoardProfile profile) {
        return List.of(Finding.note(
                "three-updates",
                "Do not mix up: updating the system's packages leaves the bootloader as it is"
                        + (profile.firmware().inChip() ? "" : ", unless it is one of them")
                        + "; updating the kernel's experimental firmware is no routine; this page is about the bootloader alone.",
                Basis.practice()));
    }

    /** Whether nothing stands against it any more. */
    public boolean mayGoOn() {
        return gates.stream().noneMatch(gate -> gate.state() == Gate.State.OPEN);
    }
}
