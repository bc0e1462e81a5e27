// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import java.util.Optional;

/** What the read-only overlay of a board means at each step of the work, said there. */
public final class OverlayForbids {
    private OverlayForbids() {}

    /** Empty where a step says it by itself, or the overlay means nothing there. */
    public static Optional<Finding> at(Step step) {
        return switch (step) {
            case IMAGE ->
                Optional.of(note(
                        "The read-only overlay is on: upgrades at the board vanish at its restart. A new image, written"
                                + " here, has it off again."));
            case FIRST_START ->
                Optional.of(note(
                        "The read-only overlay is on: what is set at the board vanishes at its restart. What is set here,"
                                + " on the medium itself, stays."));
            case ORDER ->
                Optional.of(caution(
                        "The read-only overlay is on: at the board no order can be set that lasts. Switch it off and"
                                + " restart first."));
            case REHEARSAL ->
                Optional.of(note(
                        "The read-only overlay is on: logs of a failed start are gone at the next one. Read them before"
                                + " the restart."));
            case COPIES ->
                Optional.of(note(
                        "The read-only overlay is on: nothing on the medium changes, so one proven copy is enough, and"
                                + " another one after each change. Logs are not in it."));
            case STORAGE, FIRMWARE -> Optional.empty();
        };
    }

    private static Finding note(String text) {
        return Finding.note("overlay-on", text, Basis.practice());
    }

    private static Finding caution(String text) {
        return Finding.caution("overlay-on", text, Basis.practice());
    }
}
