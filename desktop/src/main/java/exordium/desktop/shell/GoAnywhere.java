// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.core.daysheet.DaySheet;
import exordium.desktop.desk.House;
import exordium.desktop.part.Overlay;
import exordium.desktop.part.Parts;
import exordium.desktop.shelf.Shelves;
import exordium.store.Images;
import exordium.store.Media;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The field that goes anywhere: type a few letters, arrows, Enter. */
public final class GoAnywhere extends VBox implements Overlay {
    private final House house;
    private final Runnable close;
    private final TextField field = new TextField();
    private final ListView<Destinations.Destination> found = new ListView<>();
    private final Label nothing = Parts.paragraph("", "aside");
    private boolean offered;
    private boolean enterPressed;

    private record Shelves(List<Media.Medium> media, List<Images.Image> images) {}

    GoAnywhere(House house, Runnable close) {
        this.house = house;
        this.close = close;
        getStyleClass().add("overlay");
        setMaxSize(620, 400);
        field.setPromptText("Go to a board, medium, image or action");
        field.setId("go-field");
        found.setId("go-found");
        found.setFocusTraversable(false);
        nothing.setId("go-nothing");
        found.setPlaceholder(nothing);
        found.setCellFactory(list -> new DestinationCell());
        found.setOnMouseClicked(event -> go());
        getChildren().addAll(field, Parts.grow(found));
        field.addEventFilter(KeyEvent.KEY_PRESSED, this::keys);
        DaySheet sheet = house.facts().sheetProperty().get();
        house.reading()
                .read(
                        () -> new Shelves(
                                house.workbench().records().media(),
                                house.workbench().records().images()),
                        shelves -> offer(new Destinations(sheet, shelves.media(), shelves.images())));
    }

    private static final class DestinationCell extends ListCell<Destinations.Destination> {
        @Override
        protected void updateItem(Destinations.Destination item, boolean empty) {
            super.updateItem(item, empty);
            if (empty || item == null) {
                setGraphic(null);
                return;
            }
            Label hint = Parts.label(item.hint(), "soft", "small");
            hint.setMinWidth(0);
            Label text = Parts.label(item.text(), "strong");
            text.setMinWidth(Region.USE_PREF_SIZE);
            setGraphic(Parts.row(12, text, hint));
            setPrefWidth(0);
        }
    }

    private void offer(Destinations destinations) {
        Runnable search = () -> {
            found.getItems().setAll(destinations.find(field.getText()));
            nothing.setText("Nothing here goes by \"" + field.getText().strip()
                    + "\". Try the name of a board, a step such as firmware, or a shelf.");
            found.getSelectionModel().select(0);
        };
        field.textProperty().addListener((property, before, now) -> search.run());
        search.run();
        offered = true;
        if (enterPressed) {
            go();
        }
    }

    private void keys(KeyEvent event) {
        int at = found.getSelectionModel().getSelectedIndex();
        if (event.getCode() == KeyCode.DOWN) {
            found.getSelectionModel().select(Math.min(at + 1, found.getItems().size() - 1));
        } else if (event.getCode() == KeyCode.UP) {
            found.getSelectionModel().select(Math.max(0, at - 1));
        } else if (event.getCode() == KeyCode.ENTER) {
            // Quick fingers are through before everything there is was read.
            enterPressed = true;
            if (offered) {
                go();
            }
        } else {
            return;
        }
        event.consume();
    }

    private void go() {
        Destinations.Destination to = found.getSelectionModel().getSelectedItem();
        if (to != null) {
            close.run();
            house.navigation().go(to.place());
        }
    }

    @Override
    public void focus() {
        field.requestFocus();
    }
}
