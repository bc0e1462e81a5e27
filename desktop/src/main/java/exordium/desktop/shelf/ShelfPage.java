// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Reading;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** A shelf as a list with a filter; what was filtered for and chosen stays when new facts come. */
public final class ShelfPage<T> implements Page {
    private final House house;
    private final Contents<T> contents;
    private final ListView<T> list = new ListView<>();
    private final TextField filter = new TextField();
    private final VBox root;
    private final Label none = Parts.paragraph("", "soft");
    private final Node empty;
    private List<T> items = List.of();

    /**
     * What is on the shelf.
     *
     * @param line how one thing is shown; words: by what it is found; entered: what Enter does with it
     */
    record Contents<T>(
            Reading.Source<List<T>> source, Function<T, Node> line, Function<T, String> words, Consumer<T> entered) {}

    ShelfPage(House house, Place.Shelf shelf, List<Place.Form> forms, Contents<T> contents) {
        this.house = house;
        this.empty = empty(shelf, forms.stream().findFirst());
        this.contents = contents;
        list.setId("shelf-list");
        list.setAccessibleText(shelf.title());
        list.setOnKeyPressed(event -> {
            T chosen = list.getSelectionModel().getSelectedItem();
            if (event.getCode() == KeyCode.ENTER && chosen != null) {
                contents.entered().accept(chosen);
                event.consume();
            }
        });
        list.setCellFactory(view -> new LineCell<>(contents.line()));
        filter.setPromptText("Show only lines with …");
        filter.setId("shelf-filter");
        filter.setPrefWidth(220);
        filter.setMinWidth(180);
        filter.textProperty().addListener((property, before, now) -> search());
        HBox title = Parts.row(
                12,
                Parts.whole(Parts.label(shelf.title(), "title")),
                Parts.label(shelf.hint(), "aside"),
                Parts.spring());
        for (int i = 0; i < forms.size(); i++) {
            Place.Form asked = forms.get(i);
            Button open = Parts.button(asked.title(), () -> house.navigation().go(asked), "task");
            open.setId(i == 0 ? "open-form" : "open-form-" + i);
            title.getChildren().add(open);
        }
        title.getChildren().add(filter);
        root = new VBox(10, title, Parts.grow(list));
        root.getStyleClass().add("page");
        facts();
    }

    private Node empty(Place.Shelf shelf, Optional<Place.Form> form) {
        String words =
                switch (shelf) {
                    case IMAGES ->
                        "No image is on the shelf yet. One that is taken here is looked into and its checksum compared; then it can be written.";
                    case CALENDAR ->
                        "Nothing has a date yet. Each board that has a medium stands here with the day its next copy is due.";
                    case LOGBOOK -> "Nothing was done yet. What is done is written down here, and never changed.";
                    default -> "There is nothing here yet.";
                };
        Place.Form begin = form.orElse(Place.Form.NEW_BOARD);
        return Parts.empty(
                "empty-begin", words, begin.title(), () -> house.navigation().go(begin));
    }

    @Override
    public Node root() {
        return root;
    }

    @Override
    public void facts() {
        house.reading().read(contents.source(), read -> {
            items = read;
            search();
        });
    }

    private void search() {
        T chosen = list.getSelectionModel().getSelectedItem();
        String wanted = filter.getText().toLowerCase(Locale.ROOT);
        list.getItems()
                .setAll(items.stream()
                        .filter(item -> contents.words()
                                .apply(item)
                                .toLowerCase(Locale.ROOT)
                                .contains(wanted))
                        .toList());
        none.setText("No line here holds \"" + filter.getText().strip() + "\".");
        list.setPlaceholder(items.isEmpty() ? empty : none);
        if (chosen != null && list.getItems().contains(chosen)) {
            list.getSelectionModel().select(chosen);
        }
    }

    private static final class LineCell<T> extends ListCell<T> {
        private final Function<T, Node> line;

        LineCell(Function<T, Node> line) {
            this.line = line;
        }

        @Override
        protected void updateItem(T item, boolean empty) {
            super.updateItem(item, empty);
            setGraphic(empty || item == null ? null : line.apply(item));
        }
    }
}
