// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.finding.Step;
import exordium.desktop.board.BoardHeader;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.jobs.passage.PassageJob;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What is wished for a board: the ways to it, or the job card of the one that was begun. */
public final class PassagePage extends VBox implements Page {
    private static final int WISHES = 0;
    private static final int CARD = 1;

    private final House house;
    private final String board;
    private final VBox header = new VBox();
    private final HBox views = new HBox();
    private final StackPane body = new StackPane();
    private final WishView wishes;
    private final JobCardView card;
    private Optional<PassageJob.Shown> passage = Optional.empty();
    private int shown = -1;
    private boolean closed;

    public PassagePage(House house, String board) {
        super(8);
        this.house = house;
        this.board = board;
        this.wishes = new WishView(house, board, this::begun);
        this.card = new JobCardView(house, board);
        getStyleClass().add("page");
        body.getChildren().add(Parts.paragraph("Reading …", "aside"));
        getChildren().addAll(header, views, Parts.grow(body));
        facts();
    }

    private record Read(OpenedBoard board, Optional<PassageJob.Shown> passage) {
        static Read of(House house, String board) throws IOException {
            Optional<PassageJob.Shown> passage =
                    house.passages().show(Optional.of(board)).stream().findFirst();
            return new Read(OpenedBoard.read(house, board), passage);
        }
    }

    /** New facts: what does not hold any more has fallen. */
    @Override
    public void facts() {
        house.reading().read(() -> Read.of(house, board), this::take, () -> {
            if (shown < 0) {
                body.getChildren().setAll(Parts.paragraph("This could not be read; why is said below.", "aside"));
            }
        });
    }

    private void take(Read read) {
        if (closed) {
            return;
        }
        header.getChildren().setAll(new BoardHeader(read.board(), null, this::to, house.navigation()::go));
        passage = read.passage();
        wishes.board(read.board());
        if (shown < 0) {
            show(passage.filter(PassageJob.Shown::underWay).isPresent() ? CARD : WISHES);
        } else {
            show(passage.isPresent() ? shown : WISHES);
        }
    }

    private void show(int view) {
        boolean fresh = view != shown;
        shown = view;
        views.getChildren().clear();
        if (passage.isPresent()) {
            views.getChildren()
                    .add(Views.row(
                            "passage-view-",
                            List.of("Wishes", "Job card, " + passage.get().stateSaid()),
                            view,
                            this::show));
        }
        views.setManaged(passage.isPresent());
        if (view == CARD) {
            card.show(passage.orElseThrow());
        } else {
            wishes.read();
        }
        if (fresh) {
            body.getChildren().setAll(view == CARD ? card : wishes);
        }
    }

    private void begun(PassageJob.Shown begun) {
        passage = Optional.of(begun);
        show(CARD);
        house.facts().refresh();
    }

    private void to(Step step) {
        house.navigation().go(new Place.Station(board, step));
    }

    @Override
    public Node root() {
        return this;
    }

    @Override
    public void close() {
        closed = true;
        wishes.close();
        card.close();
    }
}
