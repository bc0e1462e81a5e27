// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.sheet;

import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.DaySheet;
import exordium.core.daysheet.Narrowing;
import exordium.core.daysheet.Pennant;
import exordium.core.daysheet.Task;
import exordium.core.finding.Step;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.strip.FillBar;
import exordium.desktop.part.Gradual;
import exordium.desktop.part.Legend;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.jobs.passage.UnderWay;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.RowConstraints;
import javafx.scene.layout.VBox;

/** The home view: boards down, steps across, and what to do today beside it. */
public final class DaySheetView extends HBox implements Page {
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEEE d MMMM yyyy", Locale.ENGLISH);
    /** Shares of the width, in percent. */
    private static final double NAMES = 17;

    private static final double CELLS = (100 - NAMES) / Step.values().length;

    private static final int ROWS_A_FRAME = 1;
    /** As many as stand below each other at once; of more, only those are laid out that are seen, and the sheet can be narrowed. */
    private static final int FEW = 14;

    private static final int MOST_TASKS = 30;
    private static final int MOST_PASSAGES = 3;
    /** A row at the usual size of text. */
    private static final double ROW = 50;

    private final House house;
    private VBox left = new VBox();
    private VBox rows = new VBox();
    private final NarrowRow narrow = new NarrowRow(this::narrowed);
    private final ListView<BoardRow> many = new ListView<>();
    private Narrowing narrowing = Narrowing.NONE;
    private DaySheet shown;
    private LocalDate shownOn;
    private List<UnderWay> wayShown = List.of();

    public DaySheetView(House house) {
        super(14);
        this.house = house;
        getStyleClass().add("page");
        many.setId("sheet-rows");
        many.setFocusTraversable(false);
        many.setCellFactory(list -> new ListCell<>() {
            @Override
            protected void updateItem(BoardRow board, boolean empty) {
                super.updateItem(board, empty);
                if (empty || board == null) {
                    setGraphic(null);
                    return;
                }
                GridPane line = row(board);
                line.prefWidthProperty().bind(widthProperty());
                setGraphic(line);
            }
        });
        facts();
    }

    private void narrowed(Narrowing wanted) {
        narrowing = wanted;
        if (shown != null) {
            showMany(shown);
        }
    }

    /** Where there are many, the list keeps its place; what differs is drawn anew as it is seen. */
    private void showMany(DaySheet day) {
        DaySheet narrowed = narrowing.of(day);
        narrow.show(day, narrowed);
        many.setFixedCellSize(ROW * house.facts().rules().textSize() / 100.0);
        if (!many.getItems().equals(narrowed.boards())) {
            many.getItems().setAll(narrowed.boards());
        }
        if (getChildren().size() > 1) {
            getChildren().set(1, tasks(narrowed));
        }
    }

    @Override
    public Node root() {
        return this;
    }

    /** The sheet is one picture of one moment; only what differs is drawn anew, and where one was on it stays. */
    @Override
    public void facts() {
        DaySheet day = house.facts().sheetProperty().get();
        LocalDate today = house.workbench().today();
        List<UnderWay> underWay = house.facts().passagesProperty().get();
        if (day == null || (day.equals(shown) && today.equals(shownOn) && underWay.equals(wayShown))) {
            return;
        }
        boolean otherWays = !underWay.equals(wayShown);
        wayShown = underWay;
        Node owner = getScene() == null ? null : getScene().getFocusOwner();
        String focus = owner == null ? null : owner.getId();
        Runnable back = () -> {
            Node again = focus == null ? null : lookup("#" + focus);
            if (again != null) {
                again.requestFocus();
            }
        };
        DaySheet before = shown;
        shown = day;
        shownOn = today;
        if (day.boards().size() > FEW) {
            showLarge(before, day, today, back);
        } else if (before != null && !before.boards().isEmpty() && ids(before).equals(ids(day))) {
            change(before, day, today, otherWays);
            back.run();
        } else {
            show(day, today, back);
        }
    }

    private void showLarge(DaySheet before, DaySheet day, LocalDate today, Runnable back) {
        if (before == null || before.boards().size() <= FEW) {
            VBox sheet = new VBox(head(), Parts.grow(many));
            sheet.getStyleClass().add("sheet");
            left = new VBox(6, title(day, today), narrow, Parts.grow(sheet), foot());
            getChildren().setAll(Parts.grow(left), new VBox());
        }
        left.getChildren().set(0, title(day, today));
        showMany(day);
        back.run();
    }

    private HBox foot() {
        Button add = Parts.button(
                Place.Form.NEW_BOARD.title(), () -> house.navigation().go(Place.Form.NEW_BOARD), "task", "small");
        add.setId("new-board");
        return Parts.row(14, Parts.grow(Legend.row()), add);
    }

    private static List<String> ids(DaySheet sheet) {
        return sheet.boards().stream().map(BoardRow::id).toList();
    }

    private void change(DaySheet before, DaySheet day, LocalDate today, boolean otherWays) {
        for (int i = 0; i < day.boards().size(); i++) {
            BoardRow board = day.boards().get(i);
            if (!board.equals(before.boards().get(i)) && rows.getChildren().get(i) instanceof GridPane) {
                rows.getChildren().set(i, row(board));
            }
        }
        left.getChildren().set(0, title(day, today));
        if (otherWays || !day.tasks().equals(before.tasks())) {
            getChildren().set(1, tasks(day));
        }
    }

    private void show(DaySheet day, LocalDate today, Runnable shownWhole) {
        // Rows ask for their board when they are drawn: what came meanwhile is in them.
        List<Supplier<GridPane>> each = new ArrayList<>();
        for (BoardRow board : day.boards()) {
            each.add(() -> row(shown.boards().stream()
                    .filter(now -> now.id().equals(board.id()))
                    .findFirst()
                    .orElse(board)));
        }
        rows = new VBox();
        Gradual.fill(rows, each, ROWS_A_FRAME, shownWhole);
        VBox sheet = new VBox(head(), Parts.grow(rows));
        sheet.getStyleClass().add("sheet");
        ScrollPane scroll = new ScrollPane(sheet);
        scroll.setFitToWidth(true);
        scroll.setFitToHeight(true);
        scroll.setFocusTraversable(false);
        left = day.boards().isEmpty()
                ? new VBox(12, title(day, today), empty())
                : new VBox(6, title(day, today), Parts.grow(scroll), foot());
        getChildren().setAll(Parts.grow(left), tasks(day));
    }

    /** A house without a board: what to do first. */
    private VBox empty() {
        return new VBox(
                14,
                Parts.paragraph("There is no board in this workspace yet. Three things begin it:"),
                beginning("1", Place.Form.NEW_BOARD, "put the first board in the register", "new-board"),
                beginning(
                        "2",
                        Place.Form.SHELVE_IMAGE,
                        "what it is to start from; it is looked into and its checksum compared",
                        "first-image"),
                beginning(
                        "3",
                        Place.Form.NEW_DRIVE,
                        "to try everything on before a real card is touched",
                        "first-drive"));
    }

    private HBox beginning(String number, Place.Form form, String why, String id) {
        Button open =
                Parts.button(form.title(), () -> house.navigation().go(form), number.equals("1") ? "deed" : "task");
        open.setId(id);
        return Parts.row(
                14,
                Parts.cell(Parts.label(number, "figure", "soft"), 14),
                Parts.cell(new HBox(open), 220),
                Parts.label(why, "aside"));
    }

    private static HBox title(DaySheet sheet, LocalDate today) {
        String words = DAY.format(today) + "  ·  " + sheet.starts();
        HBox row = Parts.row(12, Parts.label("Day sheet", "title"), Parts.label(words, "aside"));
        row.setAlignment(Pos.BASELINE_LEFT);
        return row;
    }

    private static GridPane grid() {
        GridPane grid = new GridPane();
        ColumnConstraints names = new ColumnConstraints();
        names.setPercentWidth(NAMES);
        grid.getColumnConstraints().add(names);
        for (int i = 0; i < Step.values().length; i++) {
            ColumnConstraints column = new ColumnConstraints();
            column.setPercentWidth(CELLS);
            grid.getColumnConstraints().add(column);
        }
        return grid;
    }

    private static GridPane head() {
        GridPane head = grid();
        head.getStyleClass().add("sheet-head");
        for (Step step : Step.values()) {
            Label label = Parts.label(step.title(), "strong", "small");
            head.add(label, step.ordinal() + 1, 0);
        }
        return head;
    }

    private GridPane row(BoardRow board) {
        GridPane row = grid();
        RowConstraints tall = new RowConstraints();
        tall.setVgrow(Priority.ALWAYS);
        tall.setValignment(VPos.CENTER);
        row.getRowConstraints().add(tall);
        row.getStyleClass().add("sheet-row");
        row.setId("row-" + board.id());
        VBox.setVgrow(row, Priority.SOMETIMES);
        VBox name = new VBox(
                Parts.label(board.name(), "strong"),
                Parts.label(board.profile() + ", " + board.way().said(), "aside", "small"));
        name.setAlignment(Pos.CENTER_LEFT);
        row.add(name, 0, 0);
        for (Cell cell : board.cells()) {
            row.add(cell(board, cell), cell.step().ordinal() + 1, 0);
        }
        return row;
    }

    private Button cell(BoardRow board, Cell cell) {
        Button button = new Button();
        Label figure = Parts.label(cell.figure(), "figure");
        if (cell.pennant() == Pennant.FAILING) {
            figure.getStyleClass().add("alarm");
        }
        VBox content = new VBox(3, Parts.row(4, new PennantGlyph(cell), figure));
        cell.fill().ifPresent(share -> {
            FillBar bar = new FillBar(share);
            VBox.setMargin(bar, new javafx.geometry.Insets(0, 0, 0, 19));
            content.getChildren().add(bar);
        });
        button.setGraphic(content);
        button.setMinWidth(0);
        figure.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        button.getStyleClass().setAll("sheet-cell");
        button.setId("cell-" + board.id() + "-" + cell.step().code());
        button.setAccessibleText(board.name() + ", " + cell.step().title() + ": " + cell.state() + ", " + cell.figure()
                + ". " + cell.reason());
        button.setOnAction(event -> house.navigation().go(new Place.Station(board.id(), cell.step())));
        return Parts.hint(button, cell.reason());
    }

    private HBox task(Task task) {
        Label title = Parts.paragraph(task.title(), "strong");
        if (task.pennant() == Pennant.FAILING) {
            title.getStyleClass().add("alarm");
        }
        Button deed = Parts.button(
                task.action(),
                () -> house.navigation().go(new Place.Station(task.board(), task.step())),
                "task",
                "small");
        VBox words = new VBox(3, title, Parts.paragraph(task.reason(), "soft", "small"), deed);
        return new HBox(6, new PennantGlyph(task.pennant()), Parts.grow(words));
    }

    private HBox passage(UnderWay each) {
        Button on =
                Parts.button("Go on", () -> house.navigation().go(new Place.Passage(each.board())), "task", "small");
        on.setId("go-on-" + each.board());
        on.setAccessibleText("Go on with " + each.name() + ": " + each.next().text());
        VBox words = new VBox(
                3,
                Parts.paragraph(each.name() + ", " + each.wish().title(), "strong"),
                Parts.paragraph(
                        each.done() + " of " + each.steps() + " done, " + each.wholeMinutesLeft() + " min left. Next: "
                                + each.next().text(),
                        "soft",
                        "small"),
                on);
        return new HBox(6, new PennantGlyph(Pennant.DUE), Parts.grow(words));
    }

    private VBox tasks(DaySheet sheet) {
        VBox list = new VBox(12);
        List<Supplier<HBox>> rows = sheet.tasks().stream()
                .limit(MOST_TASKS)
                .<Supplier<HBox>>map(each -> () -> task(each))
                .toList();
        Gradual.fill(list, rows, ROWS_A_FRAME, () -> {});
        if (sheet.tasks().isEmpty()) {
            list.getChildren().add(Parts.paragraph("Nothing is due.", "soft"));
        }
        int more = sheet.tasks().size() - MOST_TASKS;
        VBox all = more > 0
                ? new VBox(
                        12,
                        list,
                        Parts.paragraph("and " + more + " more; narrow the sheet to see them.", "aside", "small"))
                : list;
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox column = new VBox(10);
        List<UnderWay> underWay = house.facts().passagesProperty().get();
        if (!underWay.isEmpty()) {
            column.getChildren().add(Parts.label("On their way", "heading"));
            underWay.stream().limit(MOST_PASSAGES).map(this::passage).forEach(column.getChildren()::add);
        }
        column.getChildren().addAll(Parts.label("Today, worst first", "heading"), Parts.grow(scroll));
        column.getStyleClass().add("advice");
        return column;
    }
}
