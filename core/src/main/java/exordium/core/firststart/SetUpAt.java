// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;

/** House rule: when a freshly written medium gets its settings. */
public enum SetUpAt {
    WRITING("when it is written"),
    BOARD("at the board");

    private final String title;

    SetUpAt(String title) {
        this.title = title;
    }

    public String title() {
        return title;
    }

    /** What comes next once a medium is written. */
    public Finding next() {
        Basis house = Basis.houseRule("settings " + title);
        return this == WRITING
                ? Finding.caution(
                                "set-up-next",
                                "Now set up its first start, while it is here: then neither monitor nor keyboard is needed.",
                                house)
                        .mendAt(Step.FIRST_START)
                : Finding.note(
                        "set-up-next",
                        "It is set up at the board: a monitor and a keyboard have to be there at its first start, and it"
                                + " takes 3 to 5 minutes.",
                        house);
    }
}
