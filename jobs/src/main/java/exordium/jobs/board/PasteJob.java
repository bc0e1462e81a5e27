// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.access.Ability;
import exordium.core.access.Sighting;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.PlainText;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.reading.Fact;
import exordium.core.reading.Pasted;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** A pasted text as facts of the right board or medium. */
public final class PasteJob {
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

    /** Puts down what is told of its board; the rest stands in the logbook. Says what was put down. */
    public String putDown(Told told) throws IOException {
        if (told.board().isEmpty()) {
            throw new UnreadableInput("Say whose text it is, with --board; nothing was put down.");
        }
        Workbench.BoardAtHand at = workbench.board(told.board().get());
        if (at.register().can(Ability.ALWAYS_READ)) {
            throw new NotPossible(at.register().name() + " is always read; what is pasted of it is not put down.");
        }
        Sighting sighting = told.text().sighting(at.profile());
        if (!sighting.isEmpty()) {
            new SightingJob(workbench, benches).told(at, sighting);
        }
        String words = told.facts().stream()
                .map(fact -> fact.fact() + " " + PlainText.line(String.valueOf(fact.value())))
                .collect(Collectors.joining("; "));
        String said = told.facts().isEmpty() ? "Nothing of it was recognised." : "Pasted: " + words + ".";
        workbench.workspace().log().add(told.board(), Step.REHEARSAL, "pasted", said, Optional.empty());
        return said;
    }
}
