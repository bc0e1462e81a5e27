// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.Ability;
import exordium.core.access.Sighting;
import exordium.core.board.MeasuredStart;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.PlainText;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.health.HealthReading;
import exordium.core.quantity.ByteRate;
import exordium.core.reading.Fact;
import exordium.core.reading.Pasted;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.diagnosis.Sign;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.MeasuredStarts;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/** A pasted text as facts of the right board or medium. */
public final class PasteJob {
    /** A start so many times as long, or as short, is another one than was rehearsed. */
    private static final double MUCH = 1.5;

    private static final int LONGEST_NOTE = 1500;

    private final Workbench workbench;
    private final BenchReader benches;

    public PasteJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /**
     * What a text tells, and whose it is.
     *
     * @param board the one it is of, named or found out
     */
    public record Told(Pasted text, List<Fact> facts, Optional<String> board) {}

    /**
     * Reads it; nothing is put down.
     *
     * @throws Refused when it is of another board of the register than the one named
     * @throws UnreadableInput when it is no text, or there is no such board or medium
     */
    public Told read(byte[] text, Optional<String> board, Optional<String> medium) throws IOException {
        if (board.isPresent()) {
            workbench.workspace().boards().require(board.get());
        }
        Optional<Media.Medium> named =
                medium.isPresent() ? Optional.of(workbench.records().medium(medium.get())) : Optional.empty();
        Pasted pasted = Pasted.of(text);
        Optional<String> own = ownerOf(pasted);
        if (board.isPresent() && own.isPresent() && !own.equals(board)) {
            throw new Refused(Finding.stop(
                    "other-board",
                    "This text is of " + own.get() + ", not of " + board.get() + ": its prompt or serial says so.",
                    Basis.computed("the text's own prompt and serial")));
        }
        Optional<String> of = board.or(() -> own);
        List<Fact> facts = new ArrayList<>();
        for (Fact fact : pasted.facts()) {
            facts.add(
                    switch (fact.of()) {
                        case BOARD -> named(fact, of);
                        case MEDIUM -> fact.name().isPresent() ? fact : named(fact, named.map(Media.Medium::id));
                        case PC -> fact;
                    });
        }
        return new Told(pasted, facts, of);
    }

    private static Fact named(Fact fact, Optional<String> name) {
        return new Fact(fact.fact(), fact.value(), fact.line(), fact.of(), name);
    }

    /** The registered board whose prompt or serial stands in it. */
    private Optional<String> ownerOf(Pasted pasted) throws IOException {
        Optional<String> serial = pasted.only("serial");
        for (Boards.Board each : workbench.records().boards()) {
            Workbench.BoardAtHand at = workbench.atHand(each);
            String known = at.board().serial();
            boolean sameSerial = serial.isPresent() && !known.isBlank() && endsAlike(known, serial.get());
            if (sameSerial || pasted.hosts().contains(each.id())) {
                return Optional.of(each.id());
            }
        }
        return Optional.empty();
    }

    /** Some print it with leading zeroes, some without. */
    private static boolean endsAlike(String one, String other) {
        String plain = one.replaceFirst("^0+", "").toLowerCase(java.util.Locale.ROOT);
        return !plain.isEmpty() && plain.equals(other.replaceFirst("^0+", "").toLowerCase(java.util.Locale.ROOT));
    }

    /** What was put down, and what is to be said of it. */
    public record Down(String said, List<Finding> findings) {}

    /** Puts down what is told of its board and its media; the rest stands in the logbook. Says what was put down. */
    public Down putDown(Told told) throws IOException {
        return putDown(told, Optional.empty());
    }

    /** The same with what its user says of the board in the place of what the text does. */
    public Down putDown(Told told, Sighting said) throws IOException {
        return putDown(told, Optional.of(said));
    }

    private Down putDown(Told told, Optional<Sighting> said) throws IOException {
        if (told.board().isEmpty()) {
            throw new UnreadableInput("Say whose text it is, with --board; nothing was put down.");
        }
        Workbench.BoardAtHand at = workbench.board(told.board().get());
        if (at.register().can(Ability.ALWAYS_READ)) {
            throw new NotPossible(at.register().name() + " is always read; what is pasted of it is not put down.");
        }
        Sighting sighting = said.orElseGet(() -> told.text().sighting(at.profile()));
        List<Finding> findings = new ArrayList<>();
        Bench bench = benches.of(at);
        Trace rehearsed = Rehearsal.of(bench);
        if (!sighting.isEmpty()) {
            findings.addAll(
                    new SightingJob(workbench, benches).told(at, sighting).findings());
        }
        itself(at, told.text());
        media(at, told, bench);
        findings.addAll(started(at, told.text(), rehearsed));
        String words = told.facts().stream()
                .map(fact -> fact.fact() + " " + PlainText.line(String.valueOf(fact.value())))
                .collect(Collectors.joining("; "));
        String down = told.facts().isEmpty() ? "Nothing of it was recognised." : "Pasted: " + words + ".";
        note(told);
        workbench.workspace().log().add(told.board(), Step.REHEARSAL, "pasted", down, Optional.empty());
        return new Down(down, Finding.worstFirst(findings));
    }

    /** What is not recognised is kept as it stands there, as far as a note is long. */
    private void note(Told told) {
        String rest = told.text().unread().stream()
                .map(each -> PlainText.line(each.text()).strip())
                .collect(Collectors.joining(" / "));
        if (!rest.isEmpty()) {
            String kept = rest.length() <= LONGEST_NOTE ? rest : rest.substring(0, LONGEST_NOTE) + " …";
            workbench
                    .workspace()
                    .log()
                    .add(told.board(), Step.REHEARSAL, "pasted-note", "Also pasted: " + kept, Optional.empty());
        }
    }

    /** Its serial and hardware address, where nobody said them yet. */
    private void itself(Workbench.BoardAtHand at, Pasted text) throws IOException {
        Optional<String> serial = text.only("serial")
                .map(each -> each.length() > 8 ? each.substring(each.length() - 8) : each)
                .filter(each -> at.board().serial().isBlank());
        Optional<String> mac = text.only("mac").filter(each -> at.board().mac().isBlank());
        if (serial.isEmpty() && mac.isEmpty()) {
            return;
        }
        try {
            new BoardRegister(workbench).edit(at, BoardRegister.Description.NOTHING.with(serial, mac));
        } catch (UnreadableInput e) {
            // Another board of the register has it: it stays in the logbook, where its user sees it.
            return;
        }
    }

    /** What media tell of their wear and of broken file systems, of the one that is named or sits there. */
    private void media(Workbench.BoardAtHand at, Told told, Bench bench) throws IOException {
        Instant now = workbench.clock().instant();
        for (Fact fact : told.facts()) {
            Optional<String> medium = fact.of() == Fact.Whose.MEDIUM ? mediumOf(at, fact, bench) : Optional.empty();
            if (medium.isEmpty()) {
                continue;
            }
            if (fact.fact().equals("lifeUsed") && fact.value() instanceof Number used) {
                workbench.workspace().signs().told(medium.get(), HealthReading.lifeTold(now, used.doubleValue() / 100));
            } else if (fact.fact().equals("readRate") && fact.value() instanceof Number rate) {
                workbench.workspace().signs().measured(medium.get(), now, "read", new ByteRate(rate.doubleValue()));
            } else if (fact.fact().equals("fileSystemError")) {
                workbench.workspace().signs().fault(medium.get(), now, PlainText.line(String.valueOf(fact.value())));
            }
        }
    }

    private Optional<String> mediumOf(Workbench.BoardAtHand at, Fact fact, Bench bench) throws IOException {
        List<Media.Medium> all = workbench.workspace().media().all();
        Optional<String> name = fact.name();
        Optional<String> itself =
                name.filter(id -> all.stream().anyMatch(each -> each.id().equals(id)));
        if (itself.isPresent()) {
            return itself;
        }
        Optional<String> port = name.flatMap(device -> Sign.portOf(device, bench));
        return at.board().attached().stream()
                .filter(plug -> port.filter(plug.port()::equals).isPresent())
                .flatMap(plug -> all.stream().filter(each -> each.file().equals(plug.drive())))
                .map(Media.Medium::id)
                .findFirst();
    }

    /** What the start did against what was rehearsed; a time that can be held against it calibrates the family. */
    private List<Finding> started(Workbench.BoardAtHand at, Pasted text, Trace rehearsed) throws IOException {
        List<Finding> findings = new ArrayList<>();
        Optional<Double> seconds = text.only("startSeconds").map(Double::valueOf);
        double then = rehearsed.steps().stream()
                .filter(step -> step.stage().compareTo(Trace.Stage.KERNEL) >= 0)
                .mapToDouble(Trace.Event::seconds)
                .sum();
        if (seconds.isPresent() && rehearsed.runs() && then > 0) {
            double times = seconds.get() / then;
            if (times > MUCH || times < 1 / MUCH) {
                findings.add(Finding.caution(
                        "start-otherwise",
                        String.format(
                                Locale.ROOT,
                                "From the kernel to the login it took %.1f s; rehearsed were %.1f s.",
                                seconds.get(),
                                then),
                        Basis.computed("what the board printed, and the rehearsal")));
            }
            MeasuredStarts measured = workbench.measuredStarts();
            double already =
                    MeasuredStart.middle(measured.of(at.profile().id())).orElse(1.0);
            measured.add(
                    at.profile().id(),
                    new MeasuredStart(workbench.clock().instant(), at.register().id(), seconds.get(), then / already));
            workbench.familiesChanged();
        }
        text.facts().stream()
                .filter(fact -> fact.fact().equals("underVoltage"))
                .findFirst()
                .ifPresent(fact -> findings.add(Finding.caution(
                        "under-voltage",
                        "Its kernel noted that the voltage fell too low: look at the supply and its cable before anything else.",
                        Basis.computed("line " + fact.line() + " of the text"))));
        text.facts().stream()
                .filter(fact -> fact.fact().equals("starts"))
                .findFirst()
                .flatMap(fact -> counted(at, fact))
                .ifPresent(findings::add);
        return findings;
    }

    /** Starts its kernel's log counts, against the day of its last trouble or update. */
    private Optional<Finding> counted(Workbench.BoardAtHand at, Fact fact) {
        if (!(fact.value() instanceof Map<?, ?> starts)) {
            return Optional.empty();
        }
        String since = String.valueOf(starts.get("since"));
        Optional<LocalDate> update = at.board()
                .known()
                .firmware()
                .filter(each -> !each.guessed())
                .map(each -> LocalDate.ofInstant(each.at(), workbench.zone()));
        long after = starts.get("days") instanceof List<?> days && update.isPresent()
                ? days.stream()
                        .filter(day ->
                                String.valueOf(day).compareTo(update.get().toString()) >= 0)
                        .count()
                : 0;
        if (after > 0 && at.board().known().trouble().isEmpty()) {
            return Optional.of(Finding.note(
                    "starts-counted",
                    "No trouble since its firmware was told on " + update.get() + ": " + after
                            + (after == 1 ? " start" : " starts") + " by its own log.",
                    Basis.computed("its journal")));
        }
        boolean trouble = at.board().known().trouble().isPresent();
        return Optional.of(Finding.note(
                "starts-counted",
                trouble
                        ? starts.get("count") + " starts since " + since + " by its own log; what went wrong was: "
                                + at.board().known().trouble().get().what()
                        : "No trouble put down, " + starts.get("count") + " starts since " + since + " by its own log.",
                Basis.computed("its journal")));
    }
}
