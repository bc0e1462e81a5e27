// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.finding.Finding;
import exordium.core.quantity.Coded;
import exordium.core.rehearsal.contents.Cause;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What a board does from power on, attempt by attempt; reachable means remote login with no monitor. */
public record Trace(
        Outcome outcome,
        Optional<String> startedFrom,
        Optional<String> rootFrom,
        Cause cause,
        double seconds,
        boolean reachable,
        Login login,
        List<Event> steps,
        List<Finding> findings) {

    /** How it ends. */
    public enum Outcome implements Coded {
        RUNNING,
        INSTALLING,
        HALTED,
        LOOPING;
    }

    /** What a login's client meets when it is over. */
    public enum Login implements Coded {
        ANSWERS,
        REFUSED,
        DENIED,
        SILENT;
    }

    /** The parts a start goes through. */
    public enum Stage implements Coded {
        POWER,
        FIRMWARE,
        SOURCE,
        START_FILES,
        KERNEL,
        ROOT,
        SYSTEM;
    }

    /** How one event went. */
    public enum Result implements Coded {
        WORKS,
        PASSES_ON,
        FAILS;
    }

    /**
     * One attempt.
     *
     * @param at seconds after power came on
     * @param seconds how long it takes
     */
    public record Event(double at, double seconds, Stage stage, Optional<String> port, Result result, String text) {}

    /** The whole way in sentences: what happens, when, why, and what would mend it. */
    public String explanation() {
        StringBuilder text = new StringBuilder();
        for (Event step : steps) {
            text.append(String.format(Locale.ROOT, "After %.1f s: %s ", step.at(), step.text()));
        }
        text.append(
                switch (outcome) {
                    case RUNNING ->
                        String.format(
                                Locale.ROOT,
                                "It runs after %.1f s, started from %s with its root from %s, %s.",
                                seconds,
                                startedFrom.orElse("nowhere"),
                                rootFrom.orElse("nowhere"),
                                reachable ? "reachable over the network" : "with a monitor only");
                    case INSTALLING ->
                        startedFrom.filter("install"::equals).isPresent()
                                ? "It installs a system over the network."
                                : "It installs from what it was started from.";
                    case HALTED -> "It stands still.";
                    case LOOPING -> "It tries again and again.";
                });
        findings.stream().filter(Finding::stops).findFirst().ifPresent(stop -> text.append(' ')
                .append(stop.text()));
        return text.toString();
    }

    public boolean runs() {
        return outcome == Outcome.RUNNING;
    }
}
