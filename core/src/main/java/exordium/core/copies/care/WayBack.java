// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import java.time.LocalDate;
import java.util.Optional;

/** House rule: what a new medium is written from when one has died. */
public enum WayBack {
    COPY("a copy of the proven one"),
    IMAGE("a new image");

    private final String title;

    WayBack(String title) {
        this.title = title;
    }

    public String title() {
        return title;
    }

    /** What that means for a board, with the day of its newest proven copy. */
    public Finding finding(Optional<LocalDate> lastCopy) {
        Basis house = Basis.houseRule("back from " + title);
        if (this == IMAGE) {
            return Finding.note(
                    "way-back",
                    "If its medium dies, this house writes a new image and sets it up again; the copies are for what was"
                            + " recorded.",
                    house);
        }
        return lastCopy.map(day -> Finding.note(
                        "way-back",
                        "If its medium dies, the copy of " + day
                                + " goes on a new one; what was written since is lost.",
                        house))
                .orElseGet(() -> Finding.caution(
                        "way-back",
                        "If its medium dies, this house goes back to a copy, and there is none of it yet.",
                        house));
    }
}
