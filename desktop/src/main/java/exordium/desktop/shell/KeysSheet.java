// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.desktop.part.Legend;
import exordium.desktop.part.Overlay;
import exordium.desktop.part.Parts;
import java.util.List;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.VBox;

/** The one list of keys, and what the pennants mean. */
public final class KeysSheet extends VBox implements Overlay {
    private record Key(String keys, String deed) {}

    private static final List<Key> KEYS = List.of(
            new Key("Ctrl K", "go to a board, medium, image or action"),
            new Key("Ctrl D", "day sheet"),
            new Key("Ctrl L", "logbook"),
            new Key("Alt 1 … Alt 7", "the stations of the board that is open"),
            new Key("Alt Up, Alt Down", "on the Order station: move the rung"),
            new Key("Delete", "on the Order station: take the rung off"),
            new Key("Ctrl N", "day chart or night chart"),
            new Key("Ctrl +, Ctrl −, Ctrl 0", "larger, smaller, usual text"),
            new Key("Tab, Shift Tab", "next and last control; arrows go up and down the roster"),
            new Key("Enter, Space", "do what the button says"),
            new Key("Escape", "close this; stop nothing"),
            new Key("F1", "this list"));

    KeysSheet(Runnable close) {
        getStyleClass().add("overlay");
        setMaxSize(560, USE_PREF_SIZE);
        GridPane grid = new GridPane();
        grid.setHgap(22);
        grid.setVgap(5);
        for (int i = 0; i < KEYS.size(); i++) {
            grid.add(Parts.label(KEYS.get(i).keys(), "figure"), 0, i);
            grid.add(Parts.label(KEYS.get(i).deed()), 1, i);
        }
        var done = Parts.button("Close", close, "deed");
        done.setId("keys-close");
        getChildren()
                .addAll(
                        Parts.heading("Keys", ""),
                        grid,
                        Parts.heading("Pennants", "shape first, colour second"),
                        Legend.row(),
                        done);
    }

    @Override
    public void focus() {
        lookup("#keys-close").requestFocus();
    }
}
