// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.desktop.desk.Desk;
import exordium.desktop.part.Parts;
import javafx.scene.layout.HBox;

/** Restart and switch-off, which two stations offer side by side because mixing them up is the usual mistake. */
public final class BoardDeeds {
    private BoardDeeds() {}

    public static HBox row(Desk house, OpenedBoard board) {
        var restart = Parts.button("Restart " + board.name(), () -> house.facts()
                .perform(() -> house.boardJobs().restart(board.at())));
        restart.setId("restart");
        var off = Parts.button("Switch it off and on", () -> house.facts()
                .perform(() -> house.boardJobs().switchOff(board.at())));
        off.setId("switch-off");
        boolean staged = board.at().board().chip().anythingStaged();
        return Parts.row(
                10,
                restart,
                off,
                staged
                        ? Parts.label("Switching off loses what is staged.", "alarm", "small")
                        : Parts.label("Nothing is staged.", "aside", "small"));
    }
}
