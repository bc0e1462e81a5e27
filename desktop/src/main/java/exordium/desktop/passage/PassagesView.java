// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.Pennant;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.PassageParts;
import exordium.jobs.passage.UnderWay;
import exordium.store.Passages;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** All passages under way, what has to be bought for them, and which parts are at hand. */
public final class PassagesView extends VBox implements Page {
    private final House house;
    private final VBox all = new VBox(10);
    private final ComboBox<BoardRow> boards = new ComboBox<>();
    private Read shown;

    /** What stands on the page. */
    private record Read(
            List<UnderWay> underWay,
            List<PassageJob.Shown> ended,
            List<PassageParts.ToBuy> toBuy,
            List<PassageParts.AtHand> parts,
            List<BoardRow> boards) {}

    public PassagesView(House house) {
        super(10);
        this.house = house;
        getStyleClass().add("page");
        HBox title = Parts.title(Place.Shelf.PASSAGES.title(), Place.Shelf.PASSAGES.hint());
        boards.setId("passage-board");
        boards.setAccessibleText("Board to name a wish for");
        boards.setPromptText("for which board …");
        WordCell.in(boards, BoardRow::name);
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        Parts.followKeys(scroll);
        getChildren().addAll(title, Parts.grow(scroll));
        facts();
    }

    @Override
    public Node root() {
        return this;
    }

    @Override
    public void facts() {
        house.reading().read(this::read, this::show);
    }

    private Read read() throws IOException {
        PassageJob job = house.passages();
        PassageParts parts = new PassageParts(house.workbench(), house.benches(), job);
        List<PassageJob.Shown> all = job.show(Optional.empty());
        return new Read(
                UnderWay.of(house.workbench()),
                all.stream().filter(each -> !each.underWay()).toList(),
                parts.shopping(all),
                parts.parts(all),
                house.facts().sheetProperty().get() == null
                        ? List.of()
                        : house.facts().sheetProperty().get().boards());
    }

    private void show(Read read) {
        if (read.equals(shown)) {
            return;
        }
        Node owner = getScene() == null ? null : getScene().getFocusOwner();
        String focus = owner == null ? null : owner.getId();
        shown = read;
        all.getChildren().setAll(Parts.heading("Under way", "each goes on where it was left"));
        if (read.underWay().isEmpty()) {
            all.getChildren().add(Parts.paragraph("No board is on its way anywhere.", "soft"));
        }
        read.underWay().forEach(each -> all.getChildren().add(row(each)));
        all.getChildren().add(begin(read.boards()));
        double sum = read.toBuy().stream()
                .mapToDouble(each -> each.price() * each.count())
                .sum();
        all.getChildren()
                .add(Parts.heading(
                        "To buy", read.toBuy().isEmpty() ? "" : Words.euros(sum) + " for all of them together"));
        if (read.toBuy().isEmpty()) {
            all.getChildren()
                    .add(Parts.paragraph("No passage under way waits for anything that has to be bought.", "soft"));
        }
        read.toBuy().forEach(each -> all.getChildren().add(line(each)));
        all.getChildren().add(Parts.heading("Parts at hand", "ticked: plans count on it; else they have it bought"));
        FlowPane parts = new FlowPane(18, 7);
        read.parts().forEach(each -> parts.getChildren().add(part(each)));
        all.getChildren().add(parts);
        if (!read.ended().isEmpty()) {
            all.getChildren().add(Parts.heading("Ended", "the last one of each board"));
            read.ended().forEach(each -> all.getChildren().add(ended(each, read.boards())));
        }
        Node again = focus == null ? null : lookup("#" + focus);
        if (again != null) {
            again.requestFocus();
        }
    }

    private Node row(UnderWay each) {
        Button on =
                Parts.button("Go on", () -> house.navigation().go(new Place.Passage(each.board())), "task", "small");
        on.setId("go-on-" + each.board());
        on.setAccessibleText("Go on with " + each.name() + ": " + each.next().text());
        return Parts.row(
                12,
                new PennantGlyph(Pennant.DUE),
                Parts.cell(Parts.label(each.name(), "strong"), 140),
                Parts.cell(Parts.label(each.wish().title()), 240),
                Parts.cell(
                        Parts.label(
                                each.done() + " of " + each.steps() + ", " + each.wholeMinutesLeft() + " min left",
                                "figure"),
                        150),
                Parts.paragraph("Next: " + each.next().text(), "soft"),
                Parts.spring(),
                on);
    }

    private Node ended(PassageJob.Shown each, List<BoardRow> rows) {
        String name = rows.stream()
                .filter(row -> row.id().equals(each.board()))
                .map(BoardRow::name)
                .findFirst()
                .orElse(each.board());
        Button see =
                Parts.button("See it", () -> house.navigation().go(new Place.Passage(each.board())), "quiet", "small");
        see.setId("see-" + each.board());
        see.setAccessibleText("See the passage of " + name);
        return Parts.row(
                12,
                new PennantGlyph(each.state() == Passages.State.DONE ? Pennant.PROVEN : Pennant.SET),
                Parts.cell(Parts.label(name, "strong"), 140),
                Parts.cell(Parts.label(each.wish().title()), 240),
                Parts.label(
                        each.stateSaid() + ", begun "
                                + LocalDate.ofInstant(
                                        each.begun(), house.workbench().zone()) + ", " + each.done() + " of "
                                + each.counted() + " steps",
                        "figure",
                        "soft"),
                Parts.spring(),
                see);
    }

    private Node begin(List<BoardRow> rows) {
        if (!boards.getItems().equals(rows)) {
            BoardRow before = boards.getValue();
            boards.getItems().setAll(rows);
            rows.stream()
                    .filter(each -> before != null && each.id().equals(before.id()))
                    .forEach(boards::setValue);
        }
        if (rows.isEmpty()) {
            return Parts.empty(
                    "passages-board",
                    "A wish is one for a board, and there is none in this workspace yet.",
                    Place.Form.NEW_BOARD.title(),
                    () -> house.navigation().go(Place.Form.NEW_BOARD));
        }
        Button wish = Parts.button(
                "Name a wish",
                () -> house.navigation().go(new Place.Passage(boards.getValue().id())),
                "deed");
        wish.setId("passage-wish");
        wish.disableProperty().bind(boards.valueProperty().isNull());
        return Parts.row(10, boards, wish);
    }

    private static Node line(PassageParts.ToBuy each) {
        return Parts.row(
                12,
                Parts.cell(Parts.label(each.count() + " ×", "figure", "soft"), 34),
                Parts.cell(Parts.label(each.title(), "strong"), 300),
                Parts.cell(Parts.label(Words.euros(each.price() * each.count()), "figure"), 100),
                Parts.label("for " + String.join(", ", each.boards()), "soft"));
    }

    private Node part(PassageParts.AtHand each) {
        CheckBox here = new CheckBox(Words.capital(each.part().title()) + ", "
                + Words.euros(each.part().price()));
        here.setId("part-" + each.part().id());
        here.setSelected(each.here());
        here.setOnAction(event -> {
            boolean now = here.isSelected();
            house.facts().perform(() -> new PassageParts(house.workbench(), house.benches(), house.passages())
                    .tell(each.part().id(), now));
        });
        Node cell = Parts.cell(here, 480);
        each.part().note().ifPresent(note -> Parts.hint(here, note));
        return cell;
    }

    @Override
    public void close() {
        shown = null;
    }
}
