// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.DaySheet;
import exordium.core.daysheet.Narrowing;
import exordium.core.finding.Step;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.Records;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContentDisplay;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The boards by place, each with its worst pennant, and the shelves under them. */
public final class Roster extends VBox {
    private final House house;
    private final VBox entries = new VBox();

    Roster(House house) {
        this.house = house;
        getStyleClass().add("roster");
        ScrollPane scroll = new ScrollPane(entries);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        getChildren().add(Parts.grow(scroll));
        house.facts()
                .readingsProperty()
                .addListener((property, before, now) ->
                        fill(house.facts().sheetProperty().get()));
        house.navigation().placeProperty().addListener((property, before, now) -> mark(now));
        addEventFilter(KeyEvent.KEY_PRESSED, this::arrows);
    }

    private void fill(DaySheet sheet) {
        Node focused = getScene() == null ? null : getScene().getFocusOwner();
        String focusedId = focused == null ? null : focused.getId();
        entries.getChildren().clear();
        entries.getChildren().add(entry("roster-sheet", "Day sheet", null, new Place.Sheet()));
        Narrowing.places(sheet).forEach(place -> {
            entries.getChildren().add(group(place));
            sheet.boards().stream()
                    .filter(board -> board.place().equals(place))
                    .map(this::entry)
                    .forEach(entries.getChildren()::add);
        });
        Region rule = new Region();
        rule.getStyleClass().add("rule");
        VBox.setMargin(rule, new javafx.geometry.Insets(8, 14, 8, 14));
        entries.getChildren().add(rule);
        for (Place.Shelf shelf : Place.Shelf.values()) {
            Button entry =
                    entry("roster-" + shelf.name().toLowerCase(java.util.Locale.ROOT), shelf.title(), null, shelf);
            entries.getChildren().add(entry);
        }
        count();
        mark(house.navigation().placeProperty().get());
        if (focusedId != null) {
            entries.getChildren().stream()
                    .filter(node -> focusedId.equals(node.getId()))
                    .forEach(Node::requestFocus);
        }
    }

    /** How many things lie on each shelf, at the right-hand end of its line. */
    private void count() {
        Records.Counts counted = house.facts().countsProperty().get();
        Map<Place.Shelf, Integer> counts = Map.of(
                Place.Shelf.MEDIA, counted.media(),
                Place.Shelf.IMAGES, counted.images(),
                Place.Shelf.FIRMWARE, counted.releases());
        for (Node node : entries.getChildren()) {
            if (node instanceof Button entry
                    && entry.getUserData() instanceof Place.Shelf shelf
                    && counts.containsKey(shelf)) {
                int number = counts.get(shelf);
                Label figure = Parts.label(String.valueOf(number), "figure", "soft");
                HBox line = Parts.row(0, Parts.label(entry.getText()), Parts.spring(), figure);
                line.getStyleClass().add("shelf-line");
                entry.setAccessibleText(entry.getText() + ", " + number);
                entry.setGraphic(line);
                entry.setContentDisplay(ContentDisplay.GRAPHIC_ONLY);
            }
        }
    }

    private static HBox group(String place) {
        HBox group = Parts.heading(place, "");
        group.getChildren().get(0).getStyleClass().setAll("label", "aside", "small");
        group.getStyleClass().add("roster-group");
        return group;
    }

    private Button entry(BoardRow board) {
        return entry(
                "roster-" + board.id(),
                board.name(),
                new PennantGlyph(board.worst()),
                new Place.Station(board.id(), Step.STORAGE));
    }

    private Button entry(String id, String text, Node pennant, Place to) {
        Button entry = new Button(text);
        entry.setId(id);
        entry.getStyleClass().setAll("entry");
        entry.setGraphic(pennant);
        entry.setUserData(to);
        entry.setOnAction(event -> house.navigation().go(to));
        return entry;
    }

    private void mark(Place here) {
        for (Node node : entries.getChildren()) {
            if (node instanceof Button entry) {
                entry.getStyleClass().remove("here");
                if (sameBoard(here, (Place) entry.getUserData())) {
                    entry.getStyleClass().add("here");
                }
            }
        }
    }

    private static boolean sameBoard(Place here, Place entry) {
        return here.boardShown().isPresent() ? here.boardShown().equals(entry.boardShown()) : here.equals(entry);
    }

    /** Arrows go up and down the roster. */
    private void arrows(KeyEvent event) {
        if (event.getCode() != KeyCode.UP && event.getCode() != KeyCode.DOWN) {
            return;
        }
        var buttons =
                entries.getChildren().stream().filter(Button.class::isInstance).toList();
        int at = buttons.indexOf(getScene().getFocusOwner());
        int next = at + (event.getCode() == KeyCode.DOWN ? 1 : -1);
        if (at >= 0 && next >= 0 && next < buttons.size()) {
            buttons.get(next).requestFocus();
        }
        event.consume();
    }
}
