// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.Node;

/** One step's working surface and what is to be said beside it. */
public abstract class Station {
    protected final Desk house;
    protected BoardDetail board;
    private Consumer<List<Finding>> adviceSink = findings -> {};

    public Station(Desk house, BoardDetail board) {
        this.house = house;
        this.board = board;
    }

    public abstract Node surface();

    public String adviceTitle() {
        return "Advice";
    }

    /** New facts while this station is open. False asks for a fresh one in its place. */
    public boolean update(BoardDetail detail) {
        board = detail;
        return false;
    }

    /** Called when the station is left. */
    public void leave() {}

    public final void adviceGoesTo(Consumer<List<Finding>> sink) {
        adviceSink = sink;
    }

    protected final void advise(List<Finding> findings) {
        adviceSink.accept(findings);
    }

    protected final void goTo(Step step) {
        house.navigation().go(new Place.Station(board.id(), step));
    }
}
