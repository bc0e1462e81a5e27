// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board;

import exordium.core.finding.Step;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Parts;
import exordium.jobs.passage.UnderWay;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** A board's name and its start line. */
public final class BoardHeader extends VBox {
    public BoardHeader(OpenedBoard board, Step here, Consumer<Step> goTo, Consumer<Place> go) {
        super(4);
        String facts = board.at().profile().title() + ", " + board.at().board().memory() + "  ·  "
                + board.state().place() + "  ·  " + board.at().board().supply().title();
        Button edit = Parts.button(
                "Change",
                () -> go.accept(new Place.BoardForm(board.id(), Place.BoardForm.FormKind.EDIT)),
                "quiet",
                "small");
        edit.setId("board-edit");
        edit.setAccessibleText("Change what is known of " + board.name());
        Button ports = Parts.button(
                "What is in it",
                () -> go.accept(new Place.BoardForm(board.id(), Place.BoardForm.FormKind.PORTS)),
                "quiet",
                "small");
        ports.setId("board-ports");
        ports.setAccessibleText("Say which medium is in which port of " + board.name());
        Button passage = Parts.button(
                board.passage().map(BoardHeader::way).orElse("Name a wish"),
                () -> go.accept(new Place.Passage(board.id())),
                board.passage().isPresent() ? "task" : "quiet",
                "small");
        passage.setId("board-passage");
        passage.setAccessibleText(board.passage()
                .map(under -> board.name() + " is on its way, " + under.wish().title() + ": next "
                        + under.next().text())
                .orElse("Name a wish for " + board.name()));
        Label words = Parts.label(facts, "aside");
        words.setMinWidth(0);
        HBox title = Parts.row(
                12,
                Parts.label(board.name(), "title"),
                Parts.label(board.at().register().way().said(), "reach", "small"),
                words,
                Parts.spring(),
                passage,
                ports,
                edit);
        title.setAlignment(Pos.BASELINE_LEFT);
        Region rule = new Region();
        rule.getStyleClass().add("rule");
        getChildren().addAll(title, new StartLine(board.state(), here, goTo), rule);
    }

    private static String way(UnderWay under) {
        return "On its way: " + under.done() + " of " + under.steps();
    }
}
