// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.access.OverlayForbids;
import exordium.core.copies.care.CopyAdvice;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.desktop.desk.CopyRequests;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Visited;
import exordium.store.Media;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.Region;

/**
 * One step's working surface and what is to be said beside it.
 *
 * @param <M> what it shows
 */
public abstract class Station<M extends StationModel> implements Visited {
    protected final House house;
    protected M model;
    private Consumer<List<Finding>> adviceSink = findings -> {};

    public Station(House house, M model) {
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

    public final void adviceGoesTo(Consumer<List<Finding>> sink) {
        adviceSink = sink;
    }

    /** What the read-only overlay means here is said with it, where it is on. */
    protected final void advise(List<Finding> findings) {
        Optional<Finding> overlay = board().at().board().overlay() ? OverlayForbids.at(step()) : Optional.empty();
        List<Finding> all = new ArrayList<>(findings);
        overlay.ifPresent(all::add);
        adviceSink.accept(Finding.worstFirst(all));
    }

    /** The step of the work that is done here. */
    protected abstract Step step();

    /**
     * Offers a copy before a change, where none was made today and the medium is here; it is kept as one made before that.
     *
     * @param change what comes, such as "firmware"
     */
    protected final Node copyFirst(String change) {
        Optional<Media.Medium> medium = board().medium();
        Optional<String> why = CopyAdvice.beforeChange(
                board().facts().lastCopy(), house.workbench().today(), change);
        if (why.isEmpty() || medium.isEmpty() || board().facts().away().isPresent()) {
            Region nothing = new Region();
            nothing.setManaged(false);
            return nothing;
        }
        String name = medium.get().name();
        Button copy = Parts.hint(
                Parts.button("Copy " + name + " first", () -> house.jobs()
                        .start(CopyRequests.copy(
                                house,
                                "Copying " + name + " of " + board().name() + " before " + change,
                                board().id(),
                                medium.get().file(),
                                Optional.of(change)))),
                why.get());
        copy.setId("copy-first");
        copy.disableProperty().bind(house.jobs().held(Set.of(medium.get().file())));
        return copy;
    }

    protected final void goTo(Step step) {
        house.navigation().go(new Place.Station(board().id(), step));
    }
}
