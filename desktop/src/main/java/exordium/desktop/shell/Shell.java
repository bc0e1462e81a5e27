// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.core.finding.Step;
import exordium.desktop.board.BoardPage;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.PortsSheet;
import exordium.desktop.board.station.SightingSheet;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.inside.InsideSheet;
import exordium.desktop.part.Overlay;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.desktop.passage.PassagePage;
import exordium.desktop.sheet.DaySheetView;
import exordium.desktop.shelf.BoardSheet;
import exordium.desktop.shelf.FamilyKnownSheet;
import exordium.desktop.shelf.FamilySheet;
import exordium.desktop.shelf.LayoutSheet;
import exordium.desktop.shelf.NetworkSheet;
import exordium.desktop.shelf.NewDriveSheet;
import exordium.desktop.shelf.ReleaseSheet;
import exordium.desktop.shelf.ShelveSheet;
import exordium.desktop.shelf.Shelves;
import exordium.desktop.shelf.VaultSheet;
import exordium.desktop.shelf.WorksSheet;
import exordium.jobs.family.Families;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;

/** The window's frame: bar on top, roster, the view one is at, strip below, and what is laid over them. */
public final class Shell extends StackPane {
    private static final String UNDER = "under";
    private static final KeyCombination GO = new KeyCodeCombination(KeyCode.K, KeyCombination.CONTROL_DOWN);
    private static final KeyCombination SHEET = new KeyCodeCombination(KeyCode.D, KeyCombination.CONTROL_DOWN);
    private static final KeyCombination LOG = new KeyCodeCombination(KeyCode.L, KeyCombination.CONTROL_DOWN);
    private static final KeyCombination NIGHT = new KeyCodeCombination(KeyCode.N, KeyCombination.CONTROL_DOWN);

    private final House house;
    private final Runnable themeSwitch;
    private final java.util.function.IntConsumer textSize;
    private final BorderPane frame = new BorderPane();
    private final StackPane content = new StackPane();
    private final Label due = Parts.label("", "strong", "alarm");
    private final Label name = Parts.label("", "heading");
    private final Button theme;
    private Page page;
    private BoardPage coming;
    private Node overlay;
    private Overlay lying;
    private Node focusBefore;
    private KeyCode held;
    private KeyCode spent;

    /**
     * The frame around a house.
     *
     * @param themeSwitch changes between the day chart and the night chart
     * @param textSize changes the text size by so many percent; 0 sets it back
     */
    public Shell(House house, Runnable themeSwitch, java.util.function.IntConsumer textSize) {
        this.house = house;
        this.themeSwitch = themeSwitch;
        this.textSize = textSize;
        this.theme = Parts.button("", themeSwitch, "quiet", "small");
        theme.setId("theme");
        frame.setTop(topBar());
        frame.setLeft(new Roster(house));
        frame.setCenter(content);
        frame.setBottom(new JobStrip(house));
        getChildren().add(frame);
        content.getChildren().add(Parts.label("Reading the drives …", "aside"));
        house.navigation().placeProperty().addListener((property, before, now) -> show(now));
        house.facts().readingsProperty().addListener((property, before, now) -> {
            if (before.intValue() == 0) {
                lookup("#roster-sheet").requestFocus();
            }
            long tasks = house.facts().sheetProperty().get().due();
            name.setText(house.facts().rules().workspaceName());
            due.setText(tasks == 0 ? "" : tasks + " to do");
            refreshed();
        });
        house.navigation().formProperty().addListener((property, before, now) -> {
            if (now instanceof Place.Form form) {
                open(form);
            } else if (now instanceof Place.BoardForm form) {
                open(form);
            } else if (now instanceof Place.NewBoardOf described) {
                open(BoardSheet.of(house, this::closeOverlay, described));
            }
        });
        addEventFilter(KeyEvent.KEY_PRESSED, this::keys);
        addEventFilter(KeyEvent.KEY_RELEASED, this::released);
    }

    private void open(Place.Form form) {
        switch (form) {
            case NEW_BOARD -> open(new BoardSheet(house, this::closeOverlay));
            case NEW_FAMILY -> open(new FamilySheet(house, this::closeOverlay));
            case SHELVE_IMAGE -> open(new ShelveSheet(house, this::closeOverlay));
            case ADD_RELEASE -> open(new ReleaseSheet(house, this::closeOverlay));
            case NEW_DRIVE -> open(new NewDriveSheet(house, this::closeOverlay));
            case SEVERAL_SYSTEMS -> LayoutSheet.read(house, this::closeOverlay, this::open);
            case WORKS -> open(new WorksSheet(house, this::closeOverlay));
            case VAULT_PLACE -> open(new VaultSheet(house, this::closeOverlay));
            case NETWORK_START -> NetworkSheet.read(house, this::closeOverlay, this::open);
            case NAME_WORKSPACE, OPEN_WORKSPACE, NEW_WORKSPACE, EXPORT_WORKSPACE, IMPORT_WORKSPACE ->
                open(new WorkspaceSheet(house, this::closeOverlay, form));
        }
    }

    private void open(Place.BoardForm form) {
        house.reading().read(() -> OpenedBoard.read(house, form.board()), board -> {
            switch (form.kind()) {
                case EDIT -> open(BoardSheet.edit(house, this::closeOverlay, board.at()));
                case TOLD -> open(new SightingSheet(house, board, this::closeOverlay));
                case FAMILY ->
                    house.reading()
                            .read(
                                    () -> Families.of(house.workbench()).own(),
                                    own -> open(new FamilyKnownSheet(
                                            house,
                                            board.at().profile(),
                                            own.contains(board.at().profile().id()),
                                            this::closeOverlay)));
                case PORTS ->
                    house.reading()
                            .read(
                                    () -> house.workbench().records().media(),
                                    media -> open(new PortsSheet(house, board, media, this::closeOverlay)));
            }
        });
    }

    /** Says which chart the switch leads to. */
    public void themeIs(boolean night) {
        theme.setText(night ? "Day chart" : "Night chart");
    }

    private HBox topBar() {
        Button go = Parts.button(
                "Go to a board, medium, image or action", () -> open(new GoAnywhere(house, this::closeOverlay)));
        go.setId("go");
        Label key = Parts.label("Ctrl K", "figure", "soft");
        go.setGraphic(key);
        go.setContentDisplay(javafx.scene.control.ContentDisplay.RIGHT);
        go.setGraphicTextGap(40);
        Button keys = Parts.button("Keys  F1", () -> open(new KeysSheet(this::closeOverlay)), "quiet", "small");
        name.setText(house.facts().rules().workspaceName());
        Button workspace =
                Parts.button("Workspace …", () -> house.navigation().go(Place.Form.OPEN_WORKSPACE), "quiet", "small");
        workspace.setId("workspace");
        workspace.setAccessibleText("Workspace " + name.getText() + ": open another one");
        HBox bar = new HBox(name, workspace, Parts.spring(), go, Parts.spring(), due, theme, keys);
        bar.getStyleClass().add("top-bar");
        return bar;
    }

    private void show(Place to) {
        if (to instanceof Place.Sheet) {
            forgetComing();
            set(new DaySheetView(house));
        } else if (to instanceof Place.Station station) {
            if (page instanceof BoardPage open && open.board().equals(station.board())) {
                forgetComing();
                open.go(station.step());
            } else {
                showBoard(station);
            }
        } else if (to instanceof Place.Passage passage) {
            forgetComing();
            set(new PassagePage(house, passage.board()));
        } else if (to instanceof Place.Shelf shelf) {
            forgetComing();
            set(new Shelves(house, subject -> open(new InsideSheet(house, subject, this::closeOverlay))).page(shelf));
        }
    }

    /** What was there stays until the board is read. */
    private void showBoard(Place.Station station) {
        if (coming != null && coming.board().equals(station.board())) {
            coming.go(station.step());
            return;
        }
        forgetComing();
        coming = new BoardPage(house, station.board(), station.step(), () -> {
            BoardPage board = coming;
            coming = null;
            set(board);
        });
    }

    private void forgetComing() {
        if (coming != null) {
            coming.close();
            coming = null;
        }
    }

    /** New facts: whatever is on screen shows them, without throwing away what is being typed. */
    private void refreshed() {
        if (page == null) {
            show(house.navigation().placeProperty().get());
        } else {
            page.facts();
        }
    }

    private void set(Page next) {
        if (page != null) {
            page.close();
        }
        page = next;
        content.getChildren().setAll(next.root());
    }

    private <N extends Node & Overlay> void open(N over) {
        if (overlay != null) {
            closeOverlay();
        }
        focusBefore = getScene().getFocusOwner();
        lying = over;
        StackPane veil = new StackPane(over);
        veil.getStyleClass().add("veil");
        veil.setOnMouseClicked(event -> {
            if (event.getTarget() == veil) {
                closeOverlay();
            }
        });
        frame.setDisable(true);
        // Everything lies under the same veil; what cannot be used now is not paled a second time.
        frame.getStyleClass().add(UNDER);
        overlay = veil;
        getChildren().add(veil);
        // Ready for letters at once: quick fingers do not wait for the next frame.
        veil.applyCss();
        veil.layout();
        over.focus();
    }

    private void closeOverlay() {
        if (overlay == null) {
            return;
        }
        getChildren().remove(overlay);
        lying.close();
        overlay = null;
        spent = held;
        frame.setDisable(false);
        frame.getStyleClass().remove(UNDER);
        if (focusBefore != null) {
            focusBefore.requestFocus();
        }
    }

    /** A key that closed what lay over the window does nothing more, however long it is held, until it is let go. */
    private void released(KeyEvent event) {
        if (event.getCode() == spent) {
            event.consume();
        }
        held = null;
        spent = null;
    }

    private void keys(KeyEvent event) {
        if (event.getCode() == spent) {
            event.consume();
            return;
        }
        held = event.getCode();
        if (event.getCode() == KeyCode.ESCAPE && overlay != null) {
            closeOverlay();
        } else if (GO.match(event)) {
            open(new GoAnywhere(house, this::closeOverlay));
        } else if (event.getCode() == KeyCode.F1) {
            open(new KeysSheet(this::closeOverlay));
        } else if (SHEET.match(event)) {
            house.navigation().go(new Place.Sheet());
        } else if (LOG.match(event)) {
            house.navigation().go(Place.Shelf.LOGBOOK);
        } else if (NIGHT.match(event)) {
            themeSwitch.run();
        } else if (event.isControlDown() && !otherKeys(event)) {
            return;
        } else if (!event.isControlDown() && !station(event)) {
            return;
        }
        event.consume();
    }

    private boolean otherKeys(KeyEvent event) {
        int change =
                switch (event.getCode()) {
                    case PLUS, EQUALS, ADD -> 10;
                    case MINUS, SUBTRACT -> -10;
                    default -> 0;
                };
        boolean usual = event.getCode() == KeyCode.DIGIT0 || event.getCode() == KeyCode.NUMPAD0;
        if (change != 0 || usual) {
            textSize.accept(change);
        }
        return change != 0 || usual;
    }

    private boolean station(KeyEvent event) {
        int number = event.getCode().isDigitKey() ? event.getCode().getChar().charAt(0) - '1' : -1;
        boolean fits = event.isAltDown() && number >= 0 && number < Step.values().length;
        Optional<String> board = house.navigation().placeProperty().get().boardShown();
        if (fits && board.isPresent()) {
            house.navigation().go(new Place.Station(board.get(), Step.values()[number]));
            return true;
        }
        return false;
    }
}
