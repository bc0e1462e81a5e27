// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import exordium.desktop.model.BoardDetail;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.Node;

/** One step's working surface and what is to be said beside it. */
abstract class Station {
    protected final Desk house;
    protected BoardDetail board;
    private Consumer<List<Finding>> adviceSink = findings -> {};

    Station(Desk house, BoardDetail board) {
        this.house = house;
        this.board = board;
    }

    static Station of(Step step, Desk house, BoardDetail board) {
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

    abstract Node surface();

    String adviceTitle() {
        return "Advice";
    }

    /** New facts while this station is open. False asks for a fresh one in its place. */
    boolean update(BoardDetail detail) {
        board = detail;
        return false;
    }

    /** Called when the station is left. */
    void leave() {}

    final void adviceGoesTo(Consumer<List<Finding>> sink) {
        adviceSink = sink;
    }

    protected final void advise(List<Finding> findings) {
        adviceSink.accept(findings);
    }

    protected final void goTo(Step step) {
        house.navigation().go(new Place.Station(board.id(), step));
    }
}
