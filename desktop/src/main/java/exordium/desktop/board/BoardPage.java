// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board;

import exordium.core.finding.Step;
import exordium.desktop.board.copies.CopiesStation;
import exordium.desktop.board.firmware.FirmwareStation;
import exordium.desktop.board.firststart.FirstStartStation;
import exordium.desktop.board.image.ImageStation;
import exordium.desktop.board.order.OrderStation;
import exordium.desktop.board.rehearsal.RehearsalStation;
import exordium.desktop.board.station.BoardDetail;
import exordium.desktop.board.station.Station;
import exordium.desktop.board.storage.StorageStation;
import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import exordium.desktop.part.AdviceColumn;
import exordium.desktop.part.Parts;
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
        station = station(step);
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

    private Station station(Step step) {
        return switch (step) {
            case STORAGE -> new StorageStation(house, board);
            case IMAGE -> new ImageStation(house, board);
            case FIRST_START -> new FirstStartStation(house, board);
            case FIRMWARE -> new FirmwareStation(house, board);
            case ORDER -> new OrderStation(house, board);
            case REHEARSAL -> new RehearsalStation(house, board);
            case COPIES -> new CopiesStation(house, board);
        };
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
