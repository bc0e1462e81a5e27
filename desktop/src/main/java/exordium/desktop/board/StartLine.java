// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board;

import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.time.TrackPart;
import exordium.desktop.part.Parts;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Circle;

/** A board's way from power to running: its seven stations on one track, which is also how one goes between them. */
public final class StartLine extends StackPane {
    StartLine(BoardRow state, Step here, Consumer<Step> goTo) {
        HBox stops = new HBox();
        for (Cell cell : state.cells()) {
            Button stop = stop(cell, cell.step() == here);
            stop.setOnAction(event -> goTo.accept(cell.step()));
            HBox wrap = new HBox(stop);
            wrap.setAlignment(Pos.TOP_CENTER);
            wrap.setPrefWidth(100);
            stops.getChildren().add(Parts.grow(wrap));
        }
        getChildren().addAll(new TrackPart(state), stops);
        setAlignment(Pos.TOP_LEFT);
    }

    private static Button stop(Cell cell, boolean here) {
        Circle ring = new Circle(11.5);
        ring.getStyleClass().addAll("fill-paper", cell.pennant() == Pennant.FAILING ? "line-magenta" : "line-ink");
        ring.setStrokeWidth(1.4);
        StackPane mark = new StackPane(ring, new PennantGlyph(cell));
        Label figure = Parts.label(cell.figure(), "figure", "soft");
        if (cell.pennant() == Pennant.FAILING) {
            figure.getStyleClass().setAll("label", "figure", "alarm");
        }
        VBox content = new VBox(1, mark, Parts.label(cell.step().title(), "strong", "small"), figure);
        content.setAlignment(Pos.TOP_CENTER);
        Button stop = new Button();
        stop.setGraphic(content);
        stop.getStyleClass().setAll("stop");
        if (here) {
            stop.getStyleClass().add("here");
        }
        stop.setId("stop-" + cell.step().code());
        stop.setAccessibleText(cell.step().title() + ": " + cell.state() + ", " + cell.figure());
        return Parts.hint(stop, cell.reason());
    }
}
