// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.finding.Step;
import exordium.desktop.AdviceColumn;
import exordium.desktop.BoardHeader;
import exordium.desktop.Parts;
import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import exordium.desktop.model.BoardDetail;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** A board's page: its name, its start line, and the station one is at. */
public final class BoardPage extends VBox implements AutoCloseable {
    private final Desk house;
    private final VBox header = new VBox();
    private final HBox body = new HBox(16);
    private BoardDetail board;
    private Step step;
    private Station station;

    public BoardPage(Desk house, BoardDetail board, Step step) {
        this.house = house;
        this.board = board;
        getStyleClass().add("page");
        getChildren().addAll(header, Parts.grow(body));
        go(step);
    }

    public String board() {
        return board.id();
    }

    public void go(Step to) {
        if (station != null) {
            station.leave();
        }
        step = to;
        showHeader();
        station = Station.of(step, house, board);
        showStation();
    }

    /** New facts about the board. */
    public void update(BoardDetail detail) {
        board = detail;
        showHeader();
        if (!station.update(detail)) {
            Node focused = getScene() == null ? null : getScene().getFocusOwner();
            String id = focused == null ? null : focused.getId();
            go(step);
            Node again = id == null ? null : lookup("#" + id);
            if (again != null) {
                again.requestFocus();
            }
        }
    }

    @Override
    public void close() {
        station.leave();
    }

    private void showHeader() {
        header.getChildren()
                .setAll(new BoardHeader(board, step, to -> house.navigation().go(new Place.Station(board.id(), to))));
    }

    private void showStation() {
        AdviceColumn advice = new AdviceColumn(
                station.adviceTitle(), step, to -> house.navigation().go(new Place.Station(board.id(), to)));
        station.adviceGoesTo(advice::show);
        Node surface = station.surface();
        ScrollPane scroll = new ScrollPane(surface);
        scroll.setFitToWidth(true);
        scroll.setFitToHeight(true);
        scroll.setFocusTraversable(false);
        body.getChildren().setAll(Parts.grow(scroll), advice);
    }
}
