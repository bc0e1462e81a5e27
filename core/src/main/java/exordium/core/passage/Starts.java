// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** What a board would do if it were switched on as things stand; each case is rehearsed once. */
final class Starts {
    private final PassageFacts facts;
    private final Map<Object, Trace> known = new HashMap<>();

    Starts(PassageFacts facts) {
        this.facts = facts;
    }

    /** With what is staged still staged, as it is when it is not restarted. */
    Trace of(Situation now) {
        Map<String, String> plugged = new TreeMap<>();
        now.places().forEach((medium, place) -> {
            if (now.inBoard(medium)) {
                plugged.put(place, medium + " " + keyOf(now.held(medium)));
            }
        });
        List<Object> key = List.of(
                plugged,
                now.board().firmware(),
                now.board().config(),
                now.board().overlay());
        return known.computeIfAbsent(key, each -> Rehearsal.of(bench(now)));
    }

    /** Whether it starts, and nothing is left to chance about it. */
    static boolean good(Trace trace) {
        return trace.runs() && trace.cause() == Cause.NONE;
    }

    /** What is wrong with a start, in a sentence. */
    static String why(Trace trace) {
        return trace.findings().stream()
                .filter(finding -> finding.severity() == Severity.STOP)
                .findFirst()
                .or(() -> trace.findings().stream().findFirst())
                .map(Finding::text)
                .orElse(trace.cause().code() + ".");
    }

    Bench bench(Situation now) {
        List<Bench.Attached> attached = new ArrayList<>();
        now.places().forEach((id, place) -> {
            if (now.inBoard(id)) {
                attached.add(attached(id, place, now.held(id)));
            }
        });
        String key = facts.bench().profile().order().key();
        return facts.bench()
                .withAttached(attached)
                .withFirmware(now.board().firmware())
                .withConfig(now.board().config())
                .withOrder(now.board().config().value(key).orElse(facts.bench().order()));
    }

    private Bench.Attached attached(String id, String place, Held held) {
        MediumKind.Medium medium = facts.stock(id).orElseThrow().medium();
        boolean silent = facts.bench().attached().stream()
                .filter(each -> each.port().equals(place))
                .map(Bench.Attached::silentCarrier)
                .findFirst()
                .orElse(facts.silent());
        return new Bench.Attached(
                place, medium.name(), medium.kind(), silent, true, contents(medium, held), box(medium.kind(), place));
    }

    private MediumContents contents(MediumKind.Medium medium, Held held) {
        MediumContents there = facts.contents().get(held.content());
        if (there == null) {
            return MediumContents.unknown(medium.size(), 512, "it holds nothing")
                    .blank();
        }
        return facts.contents().getOrDefault(keyOf(held), there);
    }

    /** Under which it stands with its first start prepared, or its root named by its identifier. */
    private static String keyOf(Held held) {
        return held.content()
                + (held.setUp() ? PassageFacts.SET_UP : "")
                + (held.rootNamed() ? PassageFacts.ROOT_NAMED : "");
    }

    /** The enclosure a medium needs in a port; empty where it goes in as it is. */
    Optional<Enclosure> box(MediumKind kind, String place) {
        boolean direct = facts.bench()
                .profile()
                .port(place)
                .filter(port -> port.buses().contains(kind.bus()))
                .isPresent();
        return direct ? Optional.empty() : boxFor(kind);
    }

    /** What makes a drive pluggable into USB. */
    Optional<Enclosure> boxFor(MediumKind kind) {
        return facts.enclosures().stream().filter(each -> each.fits(kind)).findFirst();
    }
}
