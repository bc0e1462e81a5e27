// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board;

import exordium.core.finding.Step;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.Station;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.AdviceColumn;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import javafx.animation.PauseTransition;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** A board's page: its name, its start line, and the station one is at. Each station is read when it is gone to. */
public final class BoardPage extends VBox implements Page {
    /** What is read sooner takes the place of what was there without a word. */
    private static final Duration PATIENCE = Duration.millis(250);

    private final House house;
    private final String board;
    private final VBox header = new VBox();
    private final HBox body = new HBox(16);
    private final PauseTransition reading = new PauseTransition(PATIENCE);
    private Step step;
    private OpenedBoard known;
    private Runnable shown;
    private Shown<?> station;
    private boolean closed;

    /**
     * A page of a board.
     *
     * @param shown called on the interface thread, once, when there is something to be seen
     */
    public BoardPage(House house, String board, Step step, Runnable shown) {
        this.house = house;
        this.board = board;
        this.shown = shown;
        getStyleClass().add("page");
        getChildren().addAll(header, Parts.grow(body));
        reading.setOnFinished(event -> sayThatItIsRead());
        go(step);
    }

    /** The station that is open, and how it is read anew. */
    private final class Shown<M extends StationModel> {
        private final StationKind<M> kind;
        private Station<M> view;

        Shown(StationKind<M> kind, M model) {
            this.kind = kind;
            open(model);
        }

        private void open(M model) {
            known = model.board();
            view = kind.open(house, model);
            showHeader();
            AdviceColumn advice = new AdviceColumn(view.adviceTitle(), step, BoardPage.this::to);
            view.adviceGoesTo(advice::show);
            Node surface = view.surface();
            ScrollPane scroll = new ScrollPane(surface);
            scroll.setFitToWidth(true);
            scroll.setFitToHeight(true);
            scroll.setFocusTraversable(false);
            scroll.setId("station-" + step.code());
            body.getChildren().setAll(Parts.grow(scroll), advice);
        }

        void refresh() {
            house.reading().read(() -> kind.read(house, board), this::take);
        }

        private void take(M model) {
            if (station != this) {
                return;
            }
            known = model.board();
            showHeader();
            if (!view.update(model)) {
                Node focused = getScene() == null ? null : getScene().getFocusOwner();
                String id = focused == null ? null : focused.getId();
                view.close();
                open(model);
                Node again = id == null ? null : BoardPage.this.lookup("#" + id);
                if (again != null) {
                    again.requestFocus();
                }
            }
        }

        void close() {
            view.close();
        }
    }

    public String board() {
        return board;
    }

    public void go(Step to) {
        step = to;
        reading.playFromStart();
        read(to, StationKind.of(to));
    }

    private <M extends StationModel> void read(Step to, StationKind<M> kind) {
        house.reading()
                .read(
                        () -> kind.read(house, board),
                        model -> {
                            if (step == to && !closed) {
                                reading.stop();
                                leave();
                                station = new Shown<>(kind, model);
                                if (shown != null) {
                                    shown.run();
                                    shown = null;
                                }
                            }
                        },
                        () -> {
                            if (step == to && !closed) {
                                reading.stop();
                                inItsPlace(
                                        "This station could not be read; why is said below. What is on the media is as it was.");
                            }
                        });
    }

    private void leave() {
        if (station != null) {
            station.close();
            station = null;
        }
    }

    /** The station that was gone to takes its time; what was left is not to be worked on meanwhile. */
    private void sayThatItIsRead() {
        inItsPlace("Reading …");
    }

    private void inItsPlace(String words) {
        if (known != null) {
            leave();
            showHeader();
            body.getChildren().setAll(Parts.paragraph(words, "aside"));
        }
    }

    private void to(Step other) {
        house.navigation().go(new Place.Station(board, other));
    }

    private void showHeader() {
        header.getChildren().setAll(new BoardHeader(known, step, this::to, house.navigation()::go));
    }

    @Override
    public Node root() {
        return this;
    }

    /** New facts about the board. */
    @Override
    public void facts() {
        if (station != null) {
            station.refresh();
        }
    }

    @Override
    public void close() {
        closed = true;
        reading.stop();
        leave();
    }
}
