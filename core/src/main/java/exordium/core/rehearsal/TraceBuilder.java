// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.finding.Finding;
import exordium.core.rehearsal.contents.Cause;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Collects a trace event by event; the first cause named is the one that counts. */
final class TraceBuilder {
    private final List<Trace.Event> events = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final List<Fault> faults = new ArrayList<>();
    private double now;
    private Cause cause = Cause.NONE;
    private String startedFrom;
    private String rootFrom;
    private boolean reachable;
    private Trace result;

    void works(Trace.Stage stage, String port, double seconds, String text) {
        add(stage, port, seconds, Trace.Result.WORKS, text);
    }

    void passesOn(Trace.Stage stage, String port, double seconds, String text) {
        add(stage, port, seconds, Trace.Result.PASSES_ON, text);
    }

    /** A source that was passed over, and why; what was nearest to starting counts if nothing starts. */
    record Fault(Cause cause, String text, Optional<String> port) {
        /** How near to starting it was: not seen is farthest, another board's kernel nearest. */
        int nearness() {
            return switch (cause) {
                case NO_PARTITION_TABLE, NETWORK_NO_DIRECTORY -> 2;
                case NO_START_PARTITION -> 3;
                case NO_START_FILES, NETWORK_NO_FILES -> 4;
                case KERNEL_FOR_OTHER_BOARD -> 5;
                case SUPPLY_TOO_WEAK -> 6;
                default -> 1;
            };
        }
    }

    void passedOver(String port, double seconds, Cause why, String text) {
        add(Trace.Stage.SOURCE, port, seconds, Trace.Result.FAILS, text);
        faults.add(new Fault(why, text, Optional.ofNullable(port)));
    }

    /** The fault nearest to starting; among equals the first tried. */
    Optional<Fault> decisive() {
        return faults.stream().reduce((best, next) -> next.nearness() > best.nearness() ? next : best);
    }

    void fails(Trace.Stage stage, String port, double seconds, Cause why, String text) {
        add(stage, port, seconds, Trace.Result.FAILS, text);
        if (cause == Cause.NONE) {
            cause = why;
        }
    }

    private void add(Trace.Stage stage, String port, double seconds, Trace.Result outcome, String text) {
        events.add(new Trace.Event(now, seconds, stage, Optional.ofNullable(port), outcome, text));
        now += seconds;
    }

    void finding(Finding finding) {
        findings.add(finding);
    }

    void cause(Cause why) {
        cause = why;
    }

    Cause cause() {
        return cause;
    }

    void startedFrom(String port) {
        startedFrom = port;
        // What failed on the way here did not decide anything.
        cause = Cause.NONE;
    }

    void rootFrom(String port) {
        rootFrom = port;
    }

    void reachable(boolean value) {
        reachable = value;
    }

    boolean tried(String port) {
        return events.stream()
                .anyMatch(event -> event.port().filter(port::equals).isPresent());
    }

    Trace end(Trace.Outcome outcome) {
        result = new Trace(
                outcome,
                Optional.ofNullable(startedFrom),
                Optional.ofNullable(rootFrom),
                cause,
                Math.round(now * 10) / 10.0,
                reachable && outcome == Trace.Outcome.RUNNING,
                List.copyOf(events),
                Finding.worstFirst(findings));
        return result;
    }

    Trace built() {
        return result;
    }
}
