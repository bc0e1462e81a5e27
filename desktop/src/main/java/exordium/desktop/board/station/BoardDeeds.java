// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Parts;
import javafx.scene.control.Button;
import javafx.scene.layout.HBox;

/** Restart and switch-off, which two stations offer side by side because mixing them up is the usual mistake. */
public final class BoardDeeds {
    private BoardDeeds() {}

    public static HBox row(Desk house, OpenedBoard board) {
        boolean staged = board.at().board().chip().anythingStaged();
        if (board.at().register().byHand()) {
            Button tell = Parts.button("Do it at the board, then tell what it shows", () -> house.navigation()
                    .go(new Place.BoardForm(board.id(), Place.BoardForm.Kind.TOLD)));
            tell.setId("tell");
            return Parts.row(
                    10,
                    tell,
                    staged
                            ? Parts.label("Restart it there; switching it off loses what was set.", "alarm", "small")
                            : Parts.label("A board by hand: you act at it.", "aside", "small"));
        }
        var restart = Parts.button("Restart " + board.name(), () -> house.facts()
                .perform(() -> house.boardJobs().restart(board.at())));
        restart.setId("restart");
        var off = Parts.button("Switch it off and on", () -> house.facts()
                .perform(() -> house.boardJobs().switchOff(board.at())));
        off.setId("switch-off");
        return Parts.row(
                10,
                restart,
                off,
                staged
                        ? Parts.label("Switching off loses what is staged.", "alarm", "small")
                        : Parts.label("Nothing is staged.", "aside", "small"));
    }
}
