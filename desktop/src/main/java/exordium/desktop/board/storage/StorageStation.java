// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.storage;

import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.daysheet.Flags;
import exordium.core.finding.Step;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.plan.SideBySide;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.chart.MeritBar;
import exordium.desktop.draw.chart.PriceAgainstLife;
import exordium.desktop.draw.strip.Bands;
import exordium.desktop.drives.PluggedStrip;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.desktop.part.WordCell;
import exordium.store.Images;
import exordium.store.Media;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import javafx.animation.PauseTransition;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** Which medium for this board: what it is for on the left, candidates in their order, the one looked at drawn to scale. */
public final class StorageStation extends Station<StorageModel> {
    private final StorageDraft draft;
    private final ComboBox<Images.Image> image = new ComboBox<>();
    private final VBox candidates = new VBox(3);
    private final VBox picture = new VBox(8);
    private final ToggleGroup views = new ToggleGroup();
    private final ComboBox<String> other = new ComboBox<>();
    /** A role that is still being moved is not put down at every pixel. */
    private final PauseTransition keep = new PauseTransition(Duration.millis(600));
    /** What would make another come first takes a moment: it is asked once nothing moves any more. */
    private final PauseTransition ask = new PauseTransition(Duration.millis(200));

    /** The ways to look at a choice. */
    private enum View {
        SCALE("To scale"),
        PRICE("Price against life"),
        BESIDE("Side by side"),
        WORKING("How it was worked out");

        private final String title;

        View(String title) {
            this.title = title;
        }
    }

    /** Beside what lies in the drawer. */
    private final PluggedStrip plugged;

    public StorageStation(House house, StorageModel model) {
        super(house, model);
        plugged = PluggedStrip.brief(house);
        draft = new StorageDraft(model);
        image.getItems().setAll(model.images());
        image.setId("storage-image");
        WordCell.in(image, each -> each.title() + ", " + each.size().said());
        image.setAccessibleText("Image it is for");
        image.setPromptText("a system of the kind on the left");
        model.images().stream()
                .filter(this::suits)
                .findFirst()
                .or(() -> model.images().stream().findFirst())
                .ifPresent(image::setValue);
        draft.image(Optional.ofNullable(image.getValue()).map(Images.Image::least));
        image.valueProperty().addListener((property, before, now) -> {
            draft.image(Optional.ofNullable(now).map(Images.Image::least));
            show();
        });
        keep.setOnFinished(event -> keepRole());
        ask.setOnFinished(event -> askWhatIf());
    }

    /** The image whose system the board runs now, else any. */
    private boolean suits(Images.Image candidate) {
        return board().facts()
                .medium()
                .flatMap(medium -> medium.system())
                .filter(candidate.title()::equals)
                .isPresent();
    }

    @Override
    public String adviceTitle() {
        return "Why, in numbers";
    }

    @Override
    protected Step step() {
        return Step.STORAGE;
    }

    @Override
    public Node surface() {
        RoleSliders role = new RoleSliders(draft.role(), this::change);
        CheckBox shops = new CheckBox("and what shops have");
        shops.setId("storage-shops");
        if (model.candidates().isEmpty()) {
            // Nothing is at hand to choose from: what can be bought is all there is.
            shops.setSelected(true);
            draft.shops(true);
        }
        shops.selectedProperty().addListener((property, before, now) -> {
            draft.shops(now);
            show();
        });
        HBox top = Parts.row(10, Parts.whole(Parts.label("For", "soft")), image, shops);
        ScrollPane list = new ScrollPane(candidates);
        list.setFitToWidth(true);
        list.setFocusTraversable(false);
        list.getStyleClass().add("candidates");
        VBox right = new VBox(
                8,
                plugged,
                Parts.heading("Candidates", "at hand, best first"),
                top,
                Parts.grow(list),
                views(),
                picture);
        picture.getStyleClass().add("storage-picture");
        right.setMinWidth(420);
        show();
        return new HBox(18, role, Parts.grow(right));
    }

    private HBox views() {
        HBox row = Parts.row(0);
        for (View view : View.values()) {
            ToggleButton toggle =
                    Views.toggle(views, view.title, "view-" + view.name().toLowerCase(Locale.ROOT));
            toggle.setUserData(view);
            toggle.setOnAction(event -> {
                toggle.setSelected(true);
                showPicture();
            });
            row.getChildren().add(toggle);
        }
        views.selectToggle(views.getToggles().get(0));
        return row;
    }

    @Override
    public boolean update(StorageModel fresh) {
        boolean same =
                fresh.media().equals(model.media()) && fresh.inServiceAt().equals(model.inServiceAt());
        model = fresh;
        return same;
    }

    @Override
    public void close() {
        plugged.close();
        ask.stop();
        adviceGoesTo(findings -> {});
        if (keep.getStatus() == javafx.animation.Animation.Status.RUNNING) {
            keep.stop();
            keepRole();
        }
    }

    private void change(UnaryOperator<Role> change) {
        draft.role(change.apply(draft.role()));
        show();
        keep.playFromStart();
    }

    private void keepRole() {
        Role role = draft.role();
        house.facts().perform(() -> house.workbench().records().role(board().id(), role));
    }

    private void show() {
        candidates.getChildren().clear();
        for (StorageAssessment each : draft.rank()) {
            candidates.getChildren().add(candidate(each));
        }
        showPicture();
    }

    private void showPicture() {
        View view = (View) views.getSelectedToggle().getUserData();
        Optional<StorageAssessment> chosen = draft.chosen();
        picture.getChildren().clear();
        switch (view) {
            case SCALE ->
                chosen.ifPresent(each -> picture.getChildren().addAll(new Bands(each, draft.need()), deeds(each)));
            case PRICE ->
                picture.getChildren()
                        .add(new PriceAgainstLife(draft.ranked(), draft.role(), chosen.map(each -> each.medium()
                                .id())));
            case BESIDE -> beside();
            case WORKING -> chosen.ifPresent(this::workings);
        }
        advise(draft.advice());
        ask.playFromStart();
    }

    private void askWhatIf() {
        Supplier<Optional<String>> question = draft.whatIf();
        StorageNeed asked = draft.need();
        Optional<String> about = draft.chosen().map(each -> each.medium().id());
        house.reading().look(question::get, answer -> {
            boolean stands = asked.equals(draft.need())
                    && about.equals(draft.chosen().map(each -> each.medium().id()));
            if (stands && answer.isPresent()) {
                advise(draft.advice(answer));
            }
        });
    }

    private void beside() {
        other.getItems()
                .setAll(draft.ranked().stream().map(each -> each.medium().id()).toList());
        other.setId("beside");
        other.setAccessibleText("The other one");
        WordCell.in(other, this::name);
        other.setOnAction(null);
        other.setValue(draft.besideIt().map(each -> each.medium().id()).orElse(null));
        other.setOnAction(event -> {
            draft.beside(other.getValue());
            showPicture();
        });
        String here = draft.chosen().map(each -> each.medium().name()).orElse("");
        picture.getChildren().add(Parts.row(10, Parts.label(here, "strong"), Parts.label("beside", "soft"), other));
        draft.comparison().ifPresent(comparison -> {
            GridPane grid = new GridPane();
            grid.setHgap(26);
            grid.setVgap(3);
            int at = 0;
            for (SideBySide.Row row : comparison.rows()) {
                grid.add(Parts.label(row.figure(), "soft"), 0, at);
                grid.add(Parts.label(row.first(), "figure", row.better() < 0 ? "better" : "soft"), 1, at);
                grid.add(Parts.label(row.second(), "figure", row.better() > 0 ? "better" : "soft"), 2, at);
                at++;
            }
            picture.getChildren().add(grid);
        });
    }

    private String name(String id) {
        return draft.ranked().stream()
                .filter(each -> each.medium().id().equals(id))
                .findFirst()
                .map(each -> each.medium().name() + ", " + where(each))
                .orElse(id);
    }

    private void workings(StorageAssessment each) {
        GridPane grid = new GridPane();
        grid.setHgap(14);
        grid.setVgap(6);
        int at = 0;
        for (StorageAssessment.Working working : each.workings()) {
            grid.add(Parts.whole(Parts.label(working.figure(), "strong", "small")), 0, at);
            grid.add(
                    new VBox(
                            Parts.paragraph(working.formula(), "small"),
                            Parts.paragraph(working.inputs(), "figure"),
                            Parts.paragraph(working.basis(), "aside", "small")),
                    1,
                    at++);
        }
        ScrollPane scroll = new ScrollPane(grid);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(true);
        picture.getChildren().add(Parts.grow(scroll));
    }

    private String where(StorageAssessment each) {
        return register(each)
                .map(medium -> model.inServiceAt().containsKey(medium.file()) ? "in this board" : medium.place())
                .orElse(String.format(Locale.ROOT, "%.0f euros", each.price()));
    }

    private Button candidate(StorageAssessment each) {
        String verdict = each.verdict();
        Label words = Parts.label(verdict, each.fits() ? "soft" : "alarm", "small");
        words.setMinWidth(0);
        words.setPrefWidth(60);
        HBox line = Parts.row(
                8,
                new PennantGlyph(Flags.of(each)),
                Parts.cell(Parts.label(each.medium().name(), "strong"), 108),
                Parts.cell(Parts.label(where(each), "aside", "small"), 76),
                new MeritBar(each.merit(), each.fits()),
                Parts.grow(words));
        words.setMaxWidth(Double.MAX_VALUE);
        Button button = new Button();
        button.setGraphic(line);
        button.getStyleClass().setAll("candidate", "low");
        line.prefWidthProperty().bind(button.widthProperty().subtract(24));
        if (draft.chosen().filter(each::equals).isPresent()) {
            button.getStyleClass().add("here");
        }
        String id = each.medium().id();
        button.setId("candidate-" + id);
        button.setAccessibleText(each.medium().name() + ", " + where(each) + ": " + verdict);
        button.setOnAction(event -> {
            draft.choose(id);
            show();
            candidates.lookup("#candidate-" + id).requestFocus();
        });
        return Parts.hint(button, verdict);
    }

    private Optional<Media.Medium> register(StorageAssessment each) {
        return model.media().stream()
                .filter(medium -> medium.id().equals(each.medium().id()))
                .findFirst();
    }

    /** Plugging it in, where it lies in the drawer and fits. */
    private HBox deeds(StorageAssessment each) {
        HBox deeds = Parts.row(10);
        Optional<Media.Medium> medium =
                register(each).filter(found -> !model.inServiceAt().containsKey(found.file()));
        if (medium.isPresent() && each.socket().isPresent() && each.fits()) {
            StorageNeed.Socket socket = each.socket().get();
            Media.Medium found = medium.get();
            Button plug = Parts.button(
                    "Plug " + found.name() + " in: " + socket.title(),
                    () -> house.facts().perform(() -> house.boardJobs()
                            .plug(
                                    board().at(),
                                    new BoardState.Plug(
                                            socket.port(), found.file(), found.kind(), CarrierKind.ANNOUNCING, true))),
                    "deed");
            plug.setId("plug");
            deeds.getChildren().addAll(plug, Parts.label("Power off first; power goes in last.", "aside", "small"));
        }
        return deeds;
    }
}
