// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.finding.Finding;
import exordium.core.quantity.Coded;
import java.util.List;
import java.util.Optional;

/** What a board does from power on, attempt by attempt; reachable means remote login with no monitor. */
public record Trace(
        Outcome outcome,
        Optional<String> startedFrom,
        Optional<String> rootFrom,
        Cause cause,
        double seconds,
        boolean reachable,
        List<Event> steps,
        List<Finding> findings) {

    /** How it ends. */
    public enum Outcome implements Coded {
        RUNNING,
        INSTALLING,
        HALTED,
        LOOPING;
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

    public boolean runs() {
        return outcome == Outcome.RUNNING;
    }
}
