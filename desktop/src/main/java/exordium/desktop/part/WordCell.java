// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import java.util.function.Function;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ListCell;

/** A line of a list that shows its item in words. */
public final class WordCell<T> extends ListCell<T> {
    private final Function<T, String> words;

    private WordCell(Function<T, String> words) {
        this.words = words;
    }

    /** Gives a box these words, for its list and for what is chosen. */
    public static <T> void in(ComboBox<T> box, Function<T, String> words) {
        box.setCellFactory(list -> new WordCell<>(words));
        box.setButtonCell(new WordCell<>(words));
    }

    @Override
    protected void updateItem(T item, boolean empty) {
        super.updateItem(item, empty);
        setText(empty || item == null ? null : words.apply(item));
    }
}
