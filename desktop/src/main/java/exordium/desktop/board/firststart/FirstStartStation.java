// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.filesystem.FileBody;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.MarkedFile;
import exordium.core.firststart.intents.Intents;
import exordium.core.rehearsal.Reach;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Request;
import exordium.desktop.part.EditsView;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.desktop.part.WordCell;
import exordium.jobs.firststart.CardBatch;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.firststart.IntentSets;
import exordium.jobs.paper.ReachSheet;
import exordium.store.Media;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** What is wanted on the left; on the right the files it changes, all files, whether the board is reached, and several cards. */
public final class FirstStartStation extends Station<FirstStartModel> {
    private static final double FORM_WIDTH = 250;

    /** What stands on the right. */
    private enum View {
        CHANGES("Changes"),
        FILES("Files"),
        REACH("Will I reach it?"),
        TROUBLE("It started, but …"),
        BATCH("Several cards");

        private final String title;

        View(String title) {
            this.title = title;
        }
    }

    private final FirstStartDraft draft = new FirstStartDraft();
    private final ToggleGroup views = new ToggleGroup();
    private final ToggleGroup sides = new ToggleGroup();
    private final VBox right = new VBox(10);
    private final EditsView edits = new EditsView();
    private final VBox now = new VBox(4);
    private final Button apply;
    private final Button undo;
    private final IntentsForm form;
    private Optional<BatchView> batch = Optional.empty();
    private View view = View.CHANGES;
    private MarkedFile.Side side = MarkedFile.Side.CHANGES;

    public FirstStartStation(House house, FirstStartModel model) {
        super(house, model);
        model.kept().ifPresent(draft::take);
        apply = Parts.button("", this::apply, "deed");
        apply.setId("apply");
        undo = Parts.button("Take back what was set up last", this::undo);
        undo.setId("undo");
        form = new IntentsForm(draft, model.board().at().profile(), this::changed, house.reading()::say);
    }

    @Override
    public String adviceTitle() {
        return "Settings, looked through";
    }

    private String medium() {
        return board().medium().map(Media.Medium::name).orElse("the medium");
    }

    @Override
    protected Step step() {
        return Step.FIRST_START;
    }

    @Override
    public Node surface() {
        if (model.files().isEmpty()) {
            advise(List.of());
            return Parts.column(
                    8,
                    Parts.heading("First start", ""),
                    Parts.empty(
                            "empty-begin",
                            "There is no start partition to prepare. With a medium in " + board().name()
                                    + " that holds a system, its login, address and settings are looked through and set here.",
                            board().medium().isEmpty() ? "Choose a medium for it" : "Write an image to its medium",
                            () -> goTo(board().medium().isEmpty() ? Step.STORAGE : Step.IMAGE)));
        }
        ScrollPane wants = new ScrollPane(new VBox(12, form, sets()));
        wants.setFitToWidth(true);
        wants.setFocusTraversable(false);
        wants.setId("intents");
        VBox left = new VBox(8, Parts.heading("Wanted", "a dash: as it is"), wants);
        VBox.setVgrow(wants, Priority.ALWAYS);
        left.setPrefWidth(FORM_WIDTH);
        left.setMinWidth(FORM_WIDTH);
        left.setPrefHeight(0);
        right.setMinWidth(420);
        VBox all = new VBox(10, views(), Parts.grow(right));
        VBox.setVgrow(right, Priority.ALWAYS);
        show();
        return new HBox(20, left, Parts.grow(all));
    }

    /** Sets of intents that are used again, and keeping one. */
    private Node sets() {
        ComboBox<String> box = new ComboBox<>();
        box.setId("sets");
        box.setAccessibleText("Build on a set");
        box.setPromptText("none");
        box.getItems().setAll(model.sets());
        WordCell.in(box, name -> name);
        box.setMaxWidth(Double.MAX_VALUE);
        box.setOnAction(event -> useSet(box.getValue()));
        TextField name = new TextField();
        name.setId("set-name");
        name.setPromptText("its name, then Enter");
        name.setAccessibleText("Keep what is wanted as a set, by this name");
        name.setOnAction(event -> keepSet(name.getText().strip()));
        VBox all = new VBox(5, Parts.label("Used again", "strong", "small"));
        if (!model.sets().isEmpty()) {
            all.getChildren().addAll(Parts.label("Build on a set", "soft", "small"), box);
        }
        all.getChildren().addAll(Parts.label("Keep this as a set, but for name and address", "soft", "small"), name);
        return all;
    }

    private void useSet(String name) {
        if (name != null) {
            house.reading()
                    .read(
                            () -> {
                                IntentSets sets =
                                        new IntentSets(house.workbench().folder());
                                return sets.over(sets.read(name));
                            },
                            this::want);
        }
    }

    private void keepSet(String name) {
        if (!name.isEmpty()) {
            try {
                Intents wanted = draft.intents();
                house.facts().perform(() -> new IntentSets(house.workbench().folder()).keep(name, wanted));
            } catch (UnreadableInput e) {
                house.reading().say(e.getMessage());
            }
        }
    }

    /** Takes up more that is wanted, and shows what it changes. */
    private void want(Intents more) {
        draft.add(more);
        form.build();
        choose(View.CHANGES);
    }

    private HBox views() {
        HBox row = Parts.row(0);
        for (View each : View.values()) {
            ToggleButton toggle =
                    Views.toggle(views, each.title, "first-start-" + each.name().toLowerCase(Locale.ROOT));
            toggle.setUserData(each);
            toggle.setSelected(each == view);
            toggle.setOnAction(event -> choose(each));
            row.getChildren().add(toggle);
        }
        return row;
    }

    private void choose(View chosen) {
        view = chosen;
        views.getToggles().stream().filter(each -> each.getUserData() == chosen).forEach(views::selectToggle);
        show();
    }

    private void changed() {
        if (view == View.CHANGES) {
            showChanges();
        }
    }

    @Override
    public boolean update(FirstStartModel fresh) {
        boolean same = fresh.files().isPresent() == model.files().isPresent()
                && fresh.board()
                        .medium()
                        .map(Media.Medium::id)
                        .equals(model.board().medium().map(Media.Medium::id))
                && fresh.sets().equals(model.sets());
        boolean asRead = fresh.files().equals(model.files());
        model = fresh;
        if (same && (!asRead || view == View.CHANGES || view == View.REACH)) {
            show();
        }
        return same;
    }

    private void show() {
        FirstStartFiles found = model.files().orElseThrow();
        switch (view) {
            case CHANGES -> {
                ScrollPane scroll = scroll(new VBox(10, edits, now));
                right.getChildren().setAll(sides(), scroll, Parts.row(10, apply, copyFirst("first start"), undo));
                showChanges();
            }
            case FILES ->
                right.getChildren()
                        .setAll(grown(
                                new StartFilesView(found.files(), board().at().profile(), this::save)));
            case REACH ->
                right.getChildren()
                        .setAll(model.reach()
                                .<Node>map(reach -> scroll(new ReachView(reach, () -> sheet(reach))))
                                .orElseGet(() -> Parts.paragraph("Nothing is known of what is on it.", "soft")));
            case TROUBLE ->
                right.getChildren()
                        .setAll(scroll(new TroubleView(found, board().at().profile(), this::want)));
            case BATCH -> {
                if (batch.isEmpty()) {
                    batch = Optional.of(new BatchView(model, this::run));
                }
                right.getChildren().setAll(scroll(batch.get()));
            }
        }
        if (view != View.CHANGES) {
            advise(FirstStartPlan.of(found, board().at().profile()).findings());
        }
    }

    private static <N extends Node> N grown(N node) {
        VBox.setVgrow(node, Priority.ALWAYS);
        return node;
    }

    private static ScrollPane scroll(Node node) {
        ScrollPane scroll = new ScrollPane(node);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        scroll.setPrefHeight(0);
        scroll.setMinHeight(0);
        return grown(scroll);
    }

    private HBox sides() {
        HBox row = Parts.row(0);
        for (MarkedFile.Side each : MarkedFile.Side.values()) {
            String words =
                    switch (each) {
                        case CHANGES -> "Edits marked";
                        case BEFORE -> "Before";
                        case AFTER -> "After";
                    };
            ToggleButton toggle = Views.toggle(sides, words, "side-" + each.code());
            toggle.setSelected(each == side);
            toggle.setOnAction(event -> {
                toggle.setSelected(true);
                side = each;
                showChanges();
            });
            row.getChildren().add(toggle);
        }
        row.getChildren()
                .addAll(Parts.spring(), Parts.label("on " + medium() + ", read back after writing", "aside", "small"));
        return row;
    }

    private Optional<FirstStartPlan> plan() {
        try {
            FirstStartPlan plan = draft.plan(model);
            house.reading().problemProperty().set("");
            return Optional.of(plan);
        } catch (UnreadableInput e) {
            house.reading().problemProperty().set(e.getMessage());
            return Optional.empty();
        }
    }

    private void showChanges() {
        Optional<FirstStartPlan> plan = plan();
        FirstStartFiles found = model.files().orElseThrow();
        List<FileEdit> all = new ArrayList<>(plan.map(FirstStartPlan::edits).orElse(List.of()));
        boolean nothing = plan.isEmpty() || plan.get().nothing();
        // What nothing changes is still looked at: the files that decide about the start, as they are.
        startFiles(found)
                .filter(file -> all.stream().noneMatch(edit -> edit.file().equals(file)))
                .forEach(file -> {
                    Optional<FileBody> body = found.files().body(file);
                    all.add(new FileEdit(file, body, body));
                });
        edits.show(all.stream()
                .map(edit -> MarkedFile.of(
                        edit, side, found.files().kernelLine(), board().at().profile()))
                .toList());
        apply.setText(nothing ? "Nothing to change" : "Put this on " + medium());
        apply.setDisable(plan.isEmpty() || !FirstStartDraft.allowed(plan.get()));
        undo.setVisible(model.undo().isPresent());
        undo.setManaged(model.undo().isPresent());
        model.undo().ifPresent(words -> Parts.hint(undo, words));
        reachNow();
        advise(plan.map(FirstStartPlan::findings).orElse(List.<Finding>of()));
    }

    /** What the medium as it is now comes to, before anything is put on it. */
    private void reachNow() {
        now.getChildren().clear();
        model.reach().ifPresent(reach -> now.getChildren()
                .addAll(
                        Parts.label("As it is on the medium now", "strong", "small"),
                        Parts.paragraph(reach.why(), "small"),
                        Parts.paragraph(reach.findBy(), "small", "soft"),
                        Parts.paragraph(reach.growth().finding().text(), "small", "soft")));
    }

    private Stream<String> startFiles(FirstStartFiles found) {
        return Stream.concat(
                        board().at().profile().startFiles().settings().stream(),
                        Stream.of(found.files().kernelLine()))
                .filter(file -> found.files().body(file).isPresent())
                .map(found.files()::written);
    }

    private FirstStartJob job() {
        return new FirstStartJob(house.workbench());
    }

    private String drive() {
        return board().medium().orElseThrow().file();
    }

    private void apply() {
        try {
            Intents wanted = draft.intents();
            String drive = drive();
            house.facts().perform(() -> job().apply(board().at(), drive, wanted));
        } catch (UnreadableInput e) {
            house.reading().say(e.getMessage());
        }
    }

    private void undo() {
        String drive = drive();
        house.facts().perform(() -> job().undo(job().order(board().at(), drive, Intents.NONE)));
    }

    private void save(FileEdit edit) {
        String drive = drive();
        house.facts().perform(() -> job().edit(job().order(board().at(), drive, Intents.NONE), List.of(edit)));
    }

    private void sheet(Reach reach) {
        house.facts().perform(() -> {
            Path folder = Files.createDirectories(house.workbench().folder().resolve("reports"));
            Path file = ReachSheet.save(board().name(), reach, folder.resolve("first-start-" + board().id() + ".pdf"));
            house.reading().say("The sheet is in " + file + ".");
        });
    }

    private void run(Optional<Path> image, List<CardBatch.Card> cards) {
        CardBatch.Batch wanted = new CardBatch.Batch(board().at().profile(), image, draft.shared(), cards);
        house.jobs()
                .start(
                        Request.of(
                                        "Setting up " + cards.size() + " cards",
                                        meter -> new CardBatch(house.workbench(), house.targets()).run(wanted, meter))
                                .at(board().id())
                                .holding(wanted.drives()),
                        made -> batch.ifPresent(view -> view.made(made)));
    }
}
