// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.access.Known;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareStatus;
import exordium.core.quantity.Span;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.storage.media.Replacement;
import exordium.core.storage.media.Wear;
import exordium.core.writing.Ending;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** From facts to pennants, one rule a step. */
final class CellRules {
    private static final String NONE = "–";
    private static final double NEARLY_FULL = 0.85;
    private static final long DAYS_BEFORE_DUE = 90;
    private static final double DAYS_A_MONTH = 30.44;

    private CellRules() {}

    static BoardRow judge(BoardFacts facts) {
        return new BoardRow(
                facts.id(),
                facts.name(),
                facts.place(),
                facts.profile(),
                facts.memory(),
                facts.reached().way(),
                List.of(
                        asRead(facts, storage(facts)),
                        asRead(facts, image(facts)),
                        asRead(facts, firstStart(facts)),
                        known(facts.reached(), facts.reached().firmware(), "which release it runs", firmware(facts)),
                        known(facts.reached(), facts.reached().order(), "its start order", order(facts)),
                        asRead(facts, rehearsed(facts)),
                        copies(facts)));
    }

    /** What is said of a medium that is away says since when; of one that was never read nothing is said. */
    private static Cell asRead(BoardFacts facts, Cell cell) {
        if (facts.away().isEmpty()) {
            return cell;
        }
        BoardFacts.Away away = facts.away().get();
        return away.read()
                .map(day -> Cell.of(
                        cell.step(),
                        cell.pennant(),
                        cell.figure(),
                        cell.fill(),
                        cell.reason() + " " + away.medium() + " is not here; this is as it was read on " + day + "."))
                .orElseGet(() -> Cell.of(
                        cell.step(),
                        Pennant.UNKNOWN,
                        "unread",
                        away.medium() + " was never read here: plug it into this machine and read it."));
    }

    /** What was told is at the best set, not proven; of what nobody told nothing is known. */
    private static Cell known(BoardFacts.Reached reached, Optional<Known> known, String what, Cell cell) {
        if (known.isEmpty() || cell.figure().equals(NONE)) {
            return cell;
        }
        Known how = known.get();
        LocalDate day = how.day(reached.zone());
        return switch (how.by()) {
            case READ -> said(cell, cell.pennant(), " As read on " + day + ".", how);
            case TOLD -> said(cell, atBestSet(cell), " As told on " + day + "; it was not read.", how);
            case REPORTED -> said(cell, atBestSet(cell), " As reported on " + day + "; it was not read since.", how);
            case DEFAULT ->
                new Cell(
                        cell.step(),
                        Pennant.UNKNOWN,
                        "not told",
                        cell.fill(),
                        "Nobody has told " + what + "; look at the board and enter it. Till then the usual is taken: "
                                + cell.figure() + ".",
                        Known.By.DEFAULT);
        };
    }

    private static Cell said(Cell cell, Pennant pennant, String words, Known how) {
        return new Cell(cell.step(), pennant, cell.figure(), cell.fill(), cell.reason() + words, how.by());
    }

    private static Pennant atBestSet(Cell cell) {
        return cell.pennant() == Pennant.PROVEN ? Pennant.SET : cell.pennant();
    }

    /** A rehearsal is no better known than the firmware and the order it starts with. */
    private static Cell rehearsed(BoardFacts facts) {
        Cell cell = rehearsal(facts);
        boolean guessed = Stream.of(facts.reached().firmware(), facts.reached().order())
                .flatMap(Optional::stream)
                .anyMatch(Known::guessed);
        return guessed && cell.pennant() == Pennant.PROVEN
                ? new Cell(
                        cell.step(),
                        Pennant.SET,
                        cell.figure(),
                        cell.fill(),
                        cell.reason() + " With what such a board usually has, where nobody told what this one has.",
                        Known.By.DEFAULT)
                : cell;
    }

    private static Cell storage(BoardFacts facts) {
        if (facts.medium().isEmpty()) {
            return Cell.of(Step.STORAGE, Pennant.UNKNOWN, "empty", "Nothing is plugged in to start from.");
        }
        BoardFacts.MediumFacts medium = facts.medium().get();
        double fill = medium.size().bytes() == 0
                ? 0
                : (double) medium.used().bytes() / medium.size().bytes();
        String worn = percent(medium.worn());
        if (Wear.out(medium.worn())) {
            return Cell.of(
                    Step.STORAGE,
                    Pennant.FAILING,
                    "worn " + worn,
                    Optional.of(fill),
                    medium.name() + " has had " + worn + " of its rated writes. Replace it before it goes read-only.");
        }
        if (medium.replacement().filter(Replacement::soon).isPresent()) {
            Replacement day = medium.replacement().get();
            return Cell.of(
                    Step.STORAGE,
                    day.due() ? Pennant.FAILING : Pennant.DUE,
                    day.due() ? "replace" : day.daysLeft() + " d left",
                    Optional.of(fill),
                    day.sentence(medium.name()));
        }
        String figure = medium.size().binary();
        String used = medium.name() + ": " + medium.used().said() + " of "
                + medium.size().said() + " used, " + percent(fill) + ".";
        if (fill >= NEARLY_FULL) {
            return Cell.of(Step.STORAGE, Pennant.DUE, figure, Optional.of(fill), used + " It is nearly full.");
        }
        boolean proven = facts.lastWrite()
                .filter(write -> isVerified(write) && write.since().isEmpty())
                .isPresent();
        return Cell.of(
                Step.STORAGE,
                proven ? Pennant.PROVEN : Pennant.SET,
                figure,
                Optional.of(fill),
                used + (proven ? "" : " Nobody has proven that it holds what it says."));
    }

    private static Cell image(BoardFacts facts) {
        if (facts.medium().isEmpty()) {
            return Cell.of(Step.IMAGE, Pennant.UNKNOWN, NONE, "There is no medium to hold one.");
        }
        BoardFacts.MediumFacts medium = facts.medium().get();
        String version = medium.version().orElse("unknown");
        String system = medium.system().orElse("no system known");
        if (facts.lastWrite().isEmpty()) {
            boolean known = medium.system().isPresent();
            return Cell.of(
                    Step.IMAGE,
                    known ? Pennant.SET : Pennant.UNKNOWN,
                    known ? version : NONE,
                    "Found on " + medium.name() + ": " + system + ". No write of it is on record.");
        }
        BoardFacts.LastWrite write = facts.lastWrite().get();
        if (write.since().isPresent() && (isVerified(write) || write.ending() == Ending.WRITTEN)) {
            BoardFacts.Touch touch = write.since().get();
            boolean anything = medium.system().isPresent();
            return Cell.of(
                    Step.IMAGE,
                    anything ? Pennant.SET : Pennant.UNKNOWN,
                    anything ? version : NONE,
                    write.image() + ", written " + write.date() + "; since then it was " + touch.deed() + ", on "
                            + touch.date() + ". What it holds now was not proven as a whole.");
        }
        if (isVerified(write)) {
            return Cell.of(
                    Step.IMAGE,
                    Pennant.PROVEN,
                    version,
                    write.image() + ", written " + write.date() + " and read back whole.");
        }
        if (write.ending() == Ending.WRITTEN) {
            return Cell.of(
                    Step.IMAGE,
                    Pennant.SET,
                    version,
                    write.image() + ", written " + write.date() + ", never read back.");
        }
        if (write.ending() == Ending.RUNNING) {
            return Cell.of(Step.IMAGE, Pennant.UNKNOWN, "writing", write.image() + " is being written now.");
        }
        return Cell.of(
                Step.IMAGE,
                Pennant.FAILING,
                write.ending().code(),
                "The write of " + write.image() + " on " + write.date() + " ended "
                        + write.ending().code() + "; what is on the medium is not to be trusted.");
    }

    private static boolean isVerified(BoardFacts.LastWrite write) {
        return write.ending() == Ending.VERIFIED;
    }

    private static Cell firstStart(BoardFacts facts) {
        BoardFacts.FirstStartFacts first = facts.firstStart();
        if (!first.present()) {
            return Cell.of(Step.FIRST_START, Pennant.UNKNOWN, NONE, "There is no start partition to read.");
        }
        Optional<Finding> worst = first.findings().stream()
                .filter(finding -> finding.severity() != Severity.NOTE)
                .min(Finding.WORST_FIRST);
        if (worst.filter(Finding::stops).isPresent()) {
            return Cell.of(
                    Step.FIRST_START, Pennant.FAILING, "broken", worst.get().text());
        }
        String figure = first.fixedAddress() ? "fixed" : first.remoteLogin() ? "login on" : "no login";
        if (worst.isPresent()) {
            return Cell.of(Step.FIRST_START, Pennant.DUE, figure, worst.get().text());
        }
        return Cell.of(
                Step.FIRST_START,
                first.seen() ? Pennant.PROVEN : Pennant.SET,
                figure,
                (first.remoteLogin() ? "Remote login is on" : "Remote login is off, a monitor is needed")
                        + (first.seen() ? "; a start with it was seen to work." : "; no start with it is on record."));
    }

    private static Cell firmware(BoardFacts facts) {
        FirmwareStatus status = facts.firmware();
        if (!facts.firmwareUpdatable()) {
            return Cell.of(
                    Step.FIRMWARE,
                    Pennant.PROVEN,
                    "by system",
                    status.findings().get(0).text());
        }
        if (status.staged().isPresent()) {
            return Cell.of(
                    Step.FIRMWARE,
                    Pennant.SET,
                    "staged",
                    "Release " + status.staged().get() + " waits for a restart; switching off loses it.");
        }
        long days = status.daysBehind();
        if (days > 0) {
            String newest = status.newest().orElseThrow().version().toString();
            String behind = months(days);
            return Cell.of(
                    Step.FIRMWARE,
                    days > DAYS_BEFORE_DUE ? Pennant.DUE : Pennant.PROVEN,
                    behind,
                    "It runs " + status.running() + "; the newest in its channel is " + newest + ", " + behind
                            + " later. " + status.newest().orElseThrow().notes());
        }
        if (status.newest().isEmpty()) {
            return Cell.of(
                    Step.FIRMWARE,
                    Pennant.SET,
                    status.running().toString(),
                    "It runs " + status.running()
                            + "; no release is known for this family, so nobody can say whether that is the newest.");
        }
        return Cell.of(
                Step.FIRMWARE,
                Pennant.PROVEN,
                "newest",
                "It runs " + status.running() + ", the newest in its channel.");
    }

    private static Cell order(BoardFacts facts) {
        DecodedOrder decoded = facts.order().decoded();
        String figure = facts.order().figure();
        if (!decoded.usable()) {
            return Cell.of(
                    Step.ORDER,
                    Pennant.FAILING,
                    figure,
                    decoded.findings().stream().findFirst().map(Finding::text).orElse("The order names no source."));
        }
        if (facts.trace().cause() == Cause.NO_SOURCE_LEFT && facts.medium().isPresent()) {
            return Cell.of(
                    Step.ORDER,
                    Pennant.FAILING,
                    figure,
                    facts.trace().findings().stream()
                            .findFirst()
                            .map(Finding::text)
                            .orElse("Nothing in it starts."));
        }
        if (facts.order().staged().isPresent()) {
            return Cell.of(
                    Step.ORDER,
                    Pennant.SET,
                    facts.order().staged().get(),
                    facts.order().staged().get() + " waits for a restart; " + figure + " still counts.");
        }
        return Cell.of(Step.ORDER, Pennant.PROVEN, figure, "Read from the board: " + figure + ".");
    }

    private static Cell rehearsal(BoardFacts facts) {
        Trace trace = facts.trace();
        if (facts.medium().isEmpty()) {
            return Cell.of(Step.REHEARSAL, Pennant.UNKNOWN, NONE, "There is nothing to start from.");
        }
        if (!trace.runs() || trace.cause() != Cause.NONE) {
            return Cell.of(
                    Step.REHEARSAL,
                    Pennant.FAILING,
                    trace.cause().shortText(),
                    trace.findings().stream().findFirst().map(Finding::text).orElse("It does not start."));
        }
        return Cell.of(
                Step.REHEARSAL,
                Pennant.PROVEN,
                String.format(Locale.ROOT, "%.0f s", trace.seconds()),
                "Worked out from the attached drives: running " + trace.seconds() + " s after power on, from "
                        + trace.startedFrom().orElse("nothing") + ".");
    }

    private static Cell copies(BoardFacts facts) {
        if (facts.medium().isEmpty()) {
            return Cell.of(Step.COPIES, Pennant.UNKNOWN, NONE, "There is nothing to copy.");
        }
        BoardFacts.CopyFacts copies = facts.copies();
        if (copies.last().isPresent() && copies.away().isPresent()) {
            return Cell.of(Step.COPIES, Pennant.UNKNOWN, "away", copies.away().get());
        }
        if (copies.gone().isPresent()) {
            String words = "Its copy of " + copies.gone().get() + " is not in the vault any more";
            return copies.last().isEmpty()
                    ? Cell.of(
                            Step.COPIES,
                            Pennant.FAILING,
                            "gone",
                            words + ", and there is no other: if its medium dies" + " now, all that is on it is lost.")
                    : Cell.of(
                            Step.COPIES,
                            Pennant.DUE,
                            Span.days(facts.due().ageDays()),
                            words + "; the newest that is there is of "
                                    + copies.last().get() + ".");
        }
        if (copies.last().isEmpty()) {
            return Cell.of(Step.COPIES, Pennant.DUE, "never", facts.due().reason());
        }
        return Cell.of(
                Step.COPIES,
                facts.due().overdue() ? Pennant.DUE : Pennant.PROVEN,
                Span.days(facts.due().ageDays()),
                facts.due().reason());
    }

    private static String percent(double share) {
        return Math.round(share * 100) + " %";
    }

    private static String months(long days) {
        long months = Math.round(days / DAYS_A_MONTH);
        return months < 1 ? Span.days(days) : months + " mo";
    }
}
