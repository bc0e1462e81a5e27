// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.access.Ability;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Parts;
import exordium.jobs.board.SightingJob;
import exordium.store.Boards;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;

/** Restart and switch-off, which two stations offer side by side because mixing them up is the usual mistake. */
public final class RestartRow {
    private RestartRow() {}

    public static HBox row(House house, OpenedBoard board) {
        Boards.Board register = board.at().register();
        boolean staged = board.at().board().chip().anythingStaged();
        HBox row = Parts.row(10);
        if (register.can(Ability.RESTART)) {
            add(row, "restart", "Restart " + board.name(), () -> house.facts()
                    .perform(() -> house.boardJobs().restart(board.at())));
        }
        if (register.can(Ability.SWITCH_OFF)) {
            add(row, "switch-off", "Switch it off and on", () -> house.facts()
                    .perform(() -> house.boardJobs().switchOff(board.at())));
        }
        if (register.can(Ability.LOOK)) {
            add(row, "look", "Read it", () -> house.facts()
                    .perform(() -> new SightingJob(house.workbench(), house.benches()).looked(board.at())));
        }
        if (!register.can(Ability.RESTART)) {
            add(row, "tell", "Do it at the board, then tell what it shows", () -> house.navigation()
                    .go(new Place.BoardForm(board.id(), Place.BoardForm.FormKind.TOLD)));
        }
        row.getChildren().add(warning(register, staged));
        return row;
    }

    private static Label warning(Boards.Board register, boolean staged) {
        if (register.can(Ability.RESTART)) {
            return staged
                    ? Parts.label("Switching off loses what is staged.", "alarm", "small")
                    : Parts.label("Nothing is staged.", "aside", "small");
        }
        return staged
                ? Parts.label("Restart it there; switching it off loses what was set.", "alarm", "small")
                : Parts.label("A board " + register.way().said() + ": you act at it.", "aside", "small");
    }

    private static void add(HBox row, String id, String words, Runnable deed) {
        Button button = Parts.button(words, deed);
        button.setId(id);
        row.getChildren().add(button);
    }
}
