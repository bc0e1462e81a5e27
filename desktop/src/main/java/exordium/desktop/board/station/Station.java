// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.Node;

/**
 * One step's working surface and what is to be said beside it.
 *
 * @param <M> what it shows
 */
public abstract class Station<M extends StationModel> {
    protected final Desk house;
    protected M model;
    private Consumer<List<Finding>> adviceSink = findings -> {};

    public Station(Desk house, M model) {
        this.house = house;
        this.model = model;
    }

    protected final OpenedBoard board() {
        return model.board();
    }

    public abstract Node surface();

    public String adviceTitle() {
        return "Advice";
    }

    /** New facts while this station is open. False asks for a fresh one in its place. */
    public boolean update(M fresh) {
        model = fresh;
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
        house.navigation().go(new Place.Station(board().id(), step));
    }
}
