// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import java.util.List;
import java.util.function.IntConsumer;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;

/** A row of views of one thing, one of them shown. */
public final class Views {
    private Views() {}

    /**
     * The row.
     *
     * @param prefix of the buttons' ids, which go on with their number
     * @param show is told the number of the one that is chosen
     */
    public static HBox row(String prefix, List<String> titles, int chosen, IntConsumer show) {
        ToggleGroup group = new ToggleGroup();
        HBox row = Parts.row(0);
        for (int i = 0; i < titles.size(); i++) {
            int number = i;
            ToggleButton view = toggle(group, titles.get(i), prefix + i);
            view.setSelected(i == chosen);
            view.setOnAction(event -> {
                // One of them is always shown.
                view.setSelected(true);
                show.accept(number);
            });
            row.getChildren().add(view);
        }
        return row;
    }

    /** One of such a row. */
    public static ToggleButton toggle(ToggleGroup group, String words, String id) {
        ToggleButton toggle = new ToggleButton(words);
        toggle.getStyleClass().addAll("view", "small");
        toggle.setId(id);
        toggle.setToggleGroup(group);
        return toggle;
    }
}
