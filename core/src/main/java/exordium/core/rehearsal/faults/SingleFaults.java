// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.faults;

import exordium.core.firmware.FirmwareConfig;
import exordium.core.quantity.Coded;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.storage.media.Supply;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What a board survives: every single thing pulled or spoiled in turn, each start rehearsed.
 *
 * @param sound the start with nothing wrong
 */
public record SingleFaults(Trace sound, List<Row> rows) {
    /** What lies around in every drawer; too weak for most boards. Common practice, no source. */
    public static final Supply PHONE_CHARGER = new Supply(5, 1, "adapter");

    /** What can befall one thing. */
    public enum Fault implements Coded {
        OUT("pulled out"),
        LOOSE("not square"),
        BLANK("written over"),
        KERNEL_LINE("kernel line cut off"),
        ROOT("root damaged"),
        WEAK_SUPPLY("a phone charger for supply"),
        CABLE("network cable out"),
        NO_LEASE("the router gives no address"),
        SETTINGS_LOST("firmware settings back to factory");

        private final String title;

        Fault(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }

        /** Whether it befalls a medium. */
        public boolean ofMedium() {
            return ordinal() <= ROOT.ordinal();
        }
    }

    /** What comes of it, best first. */
    public enum Verdict implements Coded {
        /** It starts as before. */
        UNTOUCHED,
        /** It starts, from elsewhere or later. */
        SURVIVES,
        /** It starts, and nobody reaches it any more over the network. */
        UNREACHED,
        /** It does not start. */
        FAILS
    }

    /** One fault; port and name: of the medium it befalls, empty where it befalls the board. */
    public record Row(Fault fault, Optional<String> port, String name, Trace trace, Verdict verdict) {
        /** One sentence. */
        public String text() {
            String what = name.isEmpty() ? fault.title() : name + " " + fault.title();
            String comes =
                    switch (verdict) {
                        case UNTOUCHED -> "it starts as before";
                        case SURVIVES ->
                            "it runs all the same, from " + trace.startedFrom().orElse("nowhere") + " after "
                                    + trace.seconds() + " s";
                        case UNREACHED -> "it runs, and is not reached over the network";
                        case FAILS -> "it does not start: " + trace.cause().shortText();
                    };
            return Character.toUpperCase(what.charAt(0)) + what.substring(1) + ": " + comes + ".";
        }
    }

    public static SingleFaults of(Bench bench) {
        Trace sound = Rehearsal.of(bench);
        List<Row> rows = new ArrayList<>();
        for (Bench.Attached medium : bench.attached()) {
            for (Fault fault : Fault.values()) {
                if (fault.ofMedium()) {
                    Trace trace = Rehearsal.of(spoiled(bench, medium, fault));
                    rows.add(new Row(fault, Optional.of(medium.port()), medium.name(), trace, judged(sound, trace)));
                }
            }
        }
        for (Fault fault : Fault.values()) {
            if (!fault.ofMedium()) {
                Trace trace = Rehearsal.of(spoiled(bench, fault));
                rows.add(new Row(fault, Optional.empty(), "", trace, judged(sound, trace)));
            }
        }
        return new SingleFaults(sound, List.copyOf(rows));
    }

    private static Verdict judged(Trace sound, Trace trace) {
        if (!trace.runs()) {
            return Verdict.FAILS;
        }
        if (sound.reachable() && !trace.reachable()) {
            return Verdict.UNREACHED;
        }
        boolean same = trace.startedFrom().equals(sound.startedFrom())
                && trace.rootFrom().equals(sound.rootFrom())
                && trace.cause() == sound.cause()
                && trace.seconds() <= sound.seconds();
        return same ? Verdict.UNTOUCHED : Verdict.SURVIVES;
    }

    private static Bench spoiled(Bench bench, Bench.Attached medium, Fault fault) {
        Set<String> port = Set.of(medium.port());
        return switch (fault) {
            case OUT -> bench.without(port);
            case LOOSE -> bench.loose(port);
            case BLANK -> bench.with(medium.port(), medium.contents().blank());
            case KERNEL_LINE -> bench.with(medium.port(), medium.contents().withRootNamed(""));
            default -> bench.with(medium.port(), medium.contents().withRoots(Map.of()));
        };
    }

    private static Bench spoiled(Bench bench, Fault fault) {
        Bench.Network network = bench.network();
        return switch (fault) {
            case WEAK_SUPPLY ->
                bench.withSupply(new Supply(bench.profile().power().volts(), PHONE_CHARGER.amps(), "adapter"));
            case CABLE -> bench.withNetwork(Bench.Network.NONE);
            case NO_LEASE -> bench.withNetwork(network.withoutLease());
            default ->
                bench.withConfig(FirmwareConfig.EMPTY)
                        .withOrder(bench.profile().order().usual());
        };
    }

    /** How many of all it survives. */
    public long survived() {
        return rows.stream().filter(row -> row.verdict() != Verdict.FAILS).count();
    }
}
