// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.access.Ability;
import exordium.core.access.Sighting;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.reading.Fact;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.board.SightingJob;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/** Steps in which a board starts and somebody looks: read where its way reads, else as it is told. */
final class StartSteps {
    private static final String FIRMWARE = "firmwareDate";
    private static final String ORDER = "order";
    private static final String ROOT = "rootDevice";
    private static final String STARTED = "startDevice";
    private static final String TROUBLE = "trouble";
    /** What is read off a text may be told as well, and what went wrong. */
    private static final List<String> FACTS =
            Stream.concat(Fact.NAMES.stream(), Stream.of(TROUBLE)).toList();

    private final Workbench workbench;
    private final BenchReader benches;

    StartSteps(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** Whoever restarts it by hand says what it shows: that a staged setting counts is seen, not assumed. */
    static Tells toldAfterRestart(Workbench.BoardAtHand at) {
        List<String> wanted = new ArrayList<>();
        if (!at.register().can(Ability.RESTART)) {
            if (at.board().chip().staged().isPresent()) {
                wanted.add(FIRMWARE);
            }
            if (at.stagedOrder().isPresent()) {
                wanted.add(ORDER);
            }
        }
        return new Tells(wanted, true);
    }

    static Tells toldOfLook(Workbench.BoardAtHand at) {
        boolean read = at.register().can(Ability.ALWAYS_READ) || at.register().can(Ability.LOOK);
        return read ? Tells.NOTHING : new Tells(List.of(STARTED, ROOT), false);
    }

    StepWork.Outcome restart(Workbench.BoardAtHand at, Map<String, String> saw) throws IOException {
        if (at.register().can(Ability.RESTART)) {
            Trace trace = new BoardJobs(workbench, benches).restart(at).trace().orElseThrow();
            return started(trace);
        }
        List<String> missing = toldAfterRestart(at).facts().stream()
                .filter(fact -> !saw.containsKey(fact))
                .map(fact -> "--saw " + fact + "=" + (fact.equals(FIRMWARE) ? "DATE" : "VALUE"))
                .toList();
        if (!missing.isEmpty()) {
            throw new BadArgument(
                    "Tell what the board shows after its restart: " + String.join(" and ", missing) + ".", "restart");
        }
        return told(at, saw, "Restarted.");
    }

    private static StepWork.Outcome started(Trace trace) throws CameOtherwise {
        if (!trace.runs()) {
            throw new CameOtherwise("It did not start (" + trace.cause().code() + "): " + trace.explanation());
        }
        return StepWork.Outcome.of("Started from " + trace.startedFrom().orElse("nothing") + ", root from "
                + trace.rootFrom().orElse("nothing") + ".");
    }

    StepWork.Outcome powerOn(Workbench.BoardAtHand at) throws IOException {
        if (!at.register().can(Ability.RESTART)) {
            return StepWork.Outcome.of("Switched on.");
        }
        Trace trace = new BoardJobs(workbench, benches).restart(at).trace().orElseThrow();
        if (trace.cause() == Cause.RECOVERY_WRITTEN) {
            return StepWork.Outcome.of("The chip was written anew; take the card out.");
        }
        return started(trace);
    }

    /** What it runs from: read where its way reads, else told. */
    StepWork.Outcome look(Workbench.BoardAtHand at, Map<String, String> saw) throws IOException {
        Trace trace = Rehearsal.of(benches.of(at));
        if (at.register().can(Ability.ALWAYS_READ)) {
            return started(trace);
        }
        if (at.register().can(Ability.LOOK) && saw.isEmpty()) {
            new SightingJob(workbench, benches).looked(at);
            return StepWork.Outcome.of("Read from the board.");
        }
        if (!toldOfLook(at).enough(saw.keySet())) {
            throw new BadArgument(
                    "Tell which device holds /, --saw rootDevice=DEVICE, or from which port it started, --saw startDevice=PORT.",
                    "look");
        }
        String expected = trace.rootFrom().orElse("");
        Optional<String> port = Optional.ofNullable(saw.get(STARTED));
        if (port.isPresent() && !port.get().equals(expected)) {
            told(at, saw, "");
            throw new CameOtherwise("It started from " + port.get() + ", not from " + expected + ".");
        }
        Optional<String> device = Optional.ofNullable(saw.get(ROOT));
        Optional<String> wanted = at.profile().port(expected).map(each -> each.device());
        if (device.isPresent() && wanted.isPresent() && !isDevice(device.get(), wanted.get())) {
            told(at, saw, "");
            throw new CameOtherwise(
                    "/ is on " + device.get() + "; on " + expected + " it would be on " + wanted.get() + ".");
        }
        return told(at, saw, "As it was rehearsed.");
    }

    /** Where device: as the kernel calls a partition, such as {@code /dev/sda2}; drive: a family's word with {@code *} for a letter. */
    private static boolean isDevice(String device, String drive) {
        String plain = device.startsWith("/dev/") ? device.substring("/dev/".length()) : device;
        String pattern = drive.replace("*", "[a-z]") + "p?[0-9]*";
        return plain.matches(pattern);
    }

    private StepWork.Outcome told(Workbench.BoardAtHand at, Map<String, String> saw, String said) throws IOException {
        Optional<LocalDate> firmware = Optional.empty();
        if (saw.containsKey(FIRMWARE)) {
            try {
                firmware = Optional.of(LocalDate.parse(saw.get(FIRMWARE)));
            } catch (java.time.format.DateTimeParseException e) {
                throw new BadArgument(
                        "\"" + saw.get(FIRMWARE) + "\" is no date such as 2026-09-02.", saw.get(FIRMWARE));
            }
        }
        Sighting sighting = new Sighting(
                firmware,
                Optional.ofNullable(saw.get(ORDER)),
                Optional.ofNullable(saw.get(ROOT)),
                Optional.ofNullable(saw.get(STARTED)),
                Optional.ofNullable(saw.get(TROUBLE)));
        if (!sighting.isEmpty()) {
            new SightingJob(workbench, benches).told(at, sighting);
        }
        return StepWork.Outcome.of(said);
    }

    /** @throws BadArgument when a fact is none that can be seen at a board */
    static void requireFacts(Map<String, String> saw) throws UnreadableInput {
        for (String fact : saw.keySet()) {
            if (!FACTS.contains(fact)) {
                throw new exordium.core.finding.UnknownName(
                        "There is no fact \"" + fact + "\" to be seen; there are " + String.join(", ", FACTS) + ".",
                        fact,
                        FACTS);
            }
        }
    }
}
