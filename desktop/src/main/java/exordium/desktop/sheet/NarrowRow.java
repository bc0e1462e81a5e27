// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.sheet;

import exordium.core.daysheet.DaySheet;
import exordium.core.daysheet.Narrowing;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;

/** What of a large house's day sheet is shown: by words, by place, or only what needs something. */
final class NarrowRow extends HBox {
    private final TextField text = new TextField();
    private final ComboBox<Optional<String>> place = new ComboBox<>();
    private final CheckBox needing = new CheckBox("only what needs something");
    private final Label count = Parts.label("", "aside", "small");
    private boolean filling;

    NarrowRow(Consumer<Narrowing> narrowed) {
        super(10);
        setAlignment(Pos.CENTER_LEFT);
        text.setId("narrow-text");
        text.setPromptText("a board, a place, a family");
        text.setAccessibleText("Words of the boards to show");
        text.setPrefColumnCount(16);
        place.setId("narrow-place");
        place.setAccessibleText("The place of the boards to show");
        WordCell.in(place, each -> each.orElse("everywhere"));
        needing.setId("narrow-needing");
        text.textProperty().addListener((property, before, now) -> narrowed.accept(now()));
        needing.selectedProperty().addListener((property, before, now) -> narrowed.accept(now()));
        place.valueProperty().addListener((property, before, now) -> {
            if (!filling) {
                narrowed.accept(now());
            }
        });
        getChildren().setAll(Parts.label("Show", "soft"), text, place, needing, count);
    }

    private Narrowing now() {
        return new Narrowing(
                text.getText(), Optional.ofNullable(place.getValue()).flatMap(each -> each), needing.isSelected());
    }

    /** The places there are now, and how many boards are shown of how many. */
    void show(DaySheet whole, DaySheet narrow) {
        List<Optional<String>> places = new ArrayList<>(List.of(Optional.empty()));
        Narrowing.places(whole).forEach(each -> places.add(Optional.of(each)));
        if (!place.getItems().equals(places)) {
            filling = true;
            Optional<String> chosen = Optional.ofNullable(place.getValue()).flatMap(each -> each);
            place.getItems().setAll(places);
            place.setValue(places.contains(chosen) ? chosen : Optional.empty());
            filling = false;
        }
        count.setText(
                narrow.boards().size() == whole.boards().size()
                        ? ""
                        : narrow.boards().size() + " of " + whole.boards().size());
    }
}
