// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

/** House rule: what a board that has to go on running rests on. Practitioners differ; common practice, no source. */
public enum Reliability {
    /** What the board does decides: life where much is written, price where nothing is. */
    BY_ROLE("by role"),
    /** Drives that outlive the board, whatever it does. */
    SSD("an SSD"),
    /** Nothing is written where nothing has to be kept. */
    READ_ONLY("read-only"),
    /** A cheap medium and a copy in the drawer. */
    COPIES("copies");

    private final String title;

    Reliability(String title) {
        this.title = title;
    }

    public String title() {
        return title;
    }
}
