// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.FamilyField;
import exordium.core.board.FamilySources;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.rehearsal.contents.Cause;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

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
    private Trace.Login login = Trace.Login.SILENT;
    private Trace result;
    private final FamilySources from;

    TraceBuilder(FamilySources from) {
        this.from = from;
    }

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

    /** What stops it may rest on fields of the family that nobody looked at; what it was worked out with is said in any case. */
    private void resting() {
        findings.replaceAll(each -> each.stops() ? from.judged(each, restsOn(cause)) : each);
        from.guessed(FamilyField.PORTS, FamilyField.TIMING)
                .ifPresent(family -> findings.add(Finding.note(
                        "family-not-looked-at",
                        "Worked out with "
                                + String.join(
                                        ", ",
                                        Stream.of(FamilyField.PORTS, FamilyField.TIMING)
                                                .filter(each ->
                                                        from.guessed(each).isPresent())
                                                .map(FamilyField::code)
                                                .toList())
                                + " as in " + family + ": nobody looked at that on this family's boards.",
                        Basis.computed("the family's fields"))));
    }

    /** What of a family decides about a cause; the bytes on a medium are read. */
    private static List<FamilyField> restsOn(Cause cause) {
        return switch (cause) {
            case SUPPLY_TOO_WEAK -> FamilyField.POWER;
            case FIRMWARE_MISSING -> List.of(FamilyField.FIRMWARE_WHERE, FamilyField.FIRMWARE_FILES);
            case RECOVERY_WRITTEN -> List.of(FamilyField.FIRMWARE_RECOVERY, FamilyField.FIRMWARE_WHERE);
            case NO_SOURCE_LEFT, STOPPED_BY_ORDER -> List.of(FamilyField.ORDER_DIALECT, FamilyField.PORTS);
            case NO_START_FILES, KERNEL_FOR_OTHER_BOARD ->
                List.of(FamilyField.LOADERS, FamilyField.KERNELS, FamilyField.DEVICE_TREES);
            case KERNEL_LINE_BROKEN -> List.of(FamilyField.KERNEL_LINE, FamilyField.KERNEL_LINE_FORM);
            case SETTINGS_BROKEN -> List.of(FamilyField.SETTINGS);
            case DRIVE_WRONG_KIND, PCIE_OFF, DRIVE_NOT_SEEN -> List.of(FamilyField.PORTS);
            case FIRMWARE_TOO_OLD -> List.of(FamilyField.FIRMWARE_NEEDS);
            case FUSE_NOT_SET -> List.of(FamilyField.ORDER_FUSE);
            case NETWORK_NO_DIRECTORY, NETWORK_NO_FILES -> List.of(FamilyField.NETWORK_FILES);
            default -> List.of();
        };
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

    void reachable(Trace.Login met) {
        login = met;
        reachable = met == Trace.Login.ANSWERS;
    }

    boolean tried(String port) {
        return events.stream()
                .anyMatch(event -> event.port().filter(port::equals).isPresent());
    }

    Trace end(Trace.Outcome outcome) {
        resting();
        result = new Trace(
                outcome,
                Optional.ofNullable(startedFrom),
                Optional.ofNullable(rootFrom),
                cause,
                Math.round(now * 10) / 10.0,
                reachable && outcome == Trace.Outcome.RUNNING,
                outcome == Trace.Outcome.RUNNING ? login : Trace.Login.SILENT,
                List.copyOf(events),
                Finding.worstFirst(findings));
        return result;
    }

    Trace built() {
        return result;
    }
}
