// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.health.MediumHealth;
import exordium.core.storage.media.Replacement;
import exordium.core.storage.media.Wear;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.chart.PaceLine;
import exordium.desktop.draw.strip.FillBar;
import exordium.desktop.drives.PluggedStrip;
import exordium.desktop.part.Gradual;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.media.OpenedSource;
import exordium.store.Media;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The drawer as labelled media with their wear; one of them laid open with all that is known of it. */
public final class MediaView extends VBox implements Page {
    private static final int CARDS_A_FRAME = 3;

    private final House house;
    private final MediaModel model;
    private final Consumer<OpenedSource.Subject> inside;
    private final FlowPane drawer = new FlowPane(8, 8);
    private final VBox open = new VBox(8);
    private final VBox work = new VBox(8);
    private final PluggedStrip plugged;
    private String workedOn = "";
    private String laid = "";
    private boolean closed;

    /** Where inside: lays a drive open over the window. */
    MediaView(House house, Consumer<OpenedSource.Subject> inside) {
        super(10);
        this.house = house;
        this.inside = inside;
        this.model = new MediaModel(house);
        this.plugged = PluggedStrip.whole(house, inside);
        getStyleClass().add("page");
        Button look = Parts.button("Look into them all", model::lookIntoAll);
        look.setId("media-look");
        Button labels = Parts.button("Sheet of labels", model::printLabels);
        labels.setId("media-labels");
        Button out = Parts.button("To media.csv", model::csvOut);
        out.setId("media-csv-out");
        Button in = Parts.button("From media.csv", model::csvIn);
        in.setId("media-csv-in");
        Button works = Parts.button("What works …", () -> house.navigation().go(Place.Form.WORKS));
        works.setId("media-works");
        Button add = Parts.button(
                Place.Form.NEW_DRIVE.title(), () -> house.navigation().go(Place.Form.NEW_DRIVE), "task");
        add.setId("open-form");
        HBox title = Parts.row(
                10,
                Parts.whole(Parts.label(Place.Shelf.MEDIA.title(), "title")),
                Parts.grow(new HBox()),
                look,
                labels,
                out,
                in,
                works,
                add);
        ScrollPane scroll = new ScrollPane(drawer);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setFocusTraversable(false);
        ScrollPane one = new ScrollPane(open);
        one.setFitToWidth(true);
        one.setFocusTraversable(false);
        one.getStyleClass().add("advice");
        getChildren()
                .addAll(
                        title,
                        plugged,
                        Parts.grow(new HBox(14, Parts.grow(new VBox(10, Parts.grow(scroll), work)), one)));
        model.read(this::show);
    }

    @Override
    public Node root() {
        return this;
    }

    @Override
    public void facts() {
        model.read(this::show);
        plugged.facts();
    }

    @Override
    public void close() {
        closed = true;
        plugged.close();
        closeWork();
    }

    private void closeWork() {
        work.getChildren().stream()
                .filter(DriveDeeds.class::isInstance)
                .map(DriveDeeds.class::cast)
                .forEach(DriveDeeds::close);
    }

    private void show() {
        if (closed) {
            // What was read for this page arrives after it was left.
            return;
        }
        Node owner = getScene() == null ? null : getScene().getFocusOwner();
        String focus = owner == null ? null : owner.getId();
        List<Supplier<Node>> cards = model.entries().isEmpty()
                ? List.of(this::none)
                : model.entries().stream()
                        .<Supplier<Node>>map(entry -> () -> card(entry))
                        .toList();
        Gradual.fill(drawer, cards, CARDS_A_FRAME, () -> {});
        Map<String, String> typed = typed();
        open.getChildren().clear();
        model.chosen().ifPresent(entry -> {
            lay(entry);
            if (entry.medium().id().equals(laid)) {
                typed.forEach((id, text) -> {
                    if (lookup("#" + id) instanceof TextField field) {
                        field.setText(text);
                    }
                });
            }
            laid = entry.medium().id();
        });
        Node again = focus == null ? null : lookup("#" + focus);
        if (again != null) {
            again.requestFocus();
        }
    }

    private Node none() {
        return Parts.empty(
                "empty-begin",
                "No medium is in the register yet. Each card, stick and drive stands here with what is on it, its wear,"
                        + " and the board it is in. A real one is taken in while it is plugged into this machine; a"
                        + " virtual one is made to try everything on.",
                Place.Form.NEW_DRIVE.title(),
                () -> house.navigation().go(Place.Form.NEW_DRIVE));
    }

    /** What was typed and not yet used; news of the drawer do not wipe it away. */
    private Map<String, String> typed() {
        return open.lookupAll(".text-field").stream()
                .filter(TextField.class::isInstance)
                .map(TextField.class::cast)
                .filter(field -> field.getId() != null && !field.getText().equals(field.getUserData()))
                .collect(Collectors.toMap(TextField::getId, TextField::getText));
    }

    private Button card(MediaRegister.Entry entry) {
        Media.Medium medium = entry.medium();
        boolean retired = entry.details().state() == Media.State.RETIRED;
        Label name = Parts.label(entry.details().label(), "figure-label");
        VBox content = new VBox(
                2,
                Parts.row(
                        6,
                        new PennantGlyph(model.pennant(entry)),
                        name,
                        Parts.spring(),
                        Parts.label(medium.size().binary(), "figure", "soft")),
                Parts.label(medium.name(), "strong"),
                Parts.label(model.where(entry), "aside", "small"),
                Parts.row(
                        6,
                        new FillBar(medium.worn()),
                        Parts.label(
                                Math.round(medium.worn() * 100) + " % worn",
                                Wear.out(medium.worn()) ? "alarm" : "soft",
                                "small")));
        Button card = new Button();
        card.setGraphic(content);
        card.getStyleClass().setAll("medium-card");
        if (retired) {
            card.getStyleClass().add("retired");
        }
        if (model.chosen()
                .filter(each -> each.medium().id().equals(medium.id()))
                .isPresent()) {
            card.getStyleClass().add("here");
        }
        card.setId("medium-" + medium.id());
        card.setAccessibleText(entry.details().label() + ", " + medium.name() + ", " + model.where(entry) + ", "
                + Math.round(medium.worn() * 100) + " percent worn");
        card.setOnAction(event -> {
            model.choose(medium.id());
            show();
        });
        return card;
    }

    private void lay(MediaRegister.Entry entry) {
        Media.Medium medium = entry.medium();
        Media.Details details = entry.details();
        open.getChildren()
                .addAll(
                        Parts.row(
                                8,
                                Parts.label(medium.name() + "  " + details.label(), "heading"),
                                Parts.spring(),
                                lookInside(entry)),
                        fact("Serial", medium.serial().isEmpty() ? "none told" : medium.serial()),
                        fact("Kind", medium.kind()),
                        fact("Real bytes", medium.size().exact()),
                        fact("Holds", details.holds().isEmpty() ? "never looked into" : details.holds()),
                        fact(
                                "Identifier",
                                details.diskId()
                                        .map(id -> id.length() > 8 ? id.substring(0, 8) + " …" : id)
                                        .orElse("none")),
                        fact(
                                "Written",
                                medium.written().said()
                                        + medium.ratedWrites()
                                                .map(rated -> " of " + rated.said())
                                                .orElse("")));
        health(entry);
        if (!entry.measurements().isEmpty()) {
            open.getChildren().addAll(Parts.heading("Measured", ""), new PaceLine(entry.measurements()));
        }
        for (MediumHealth.Fault fault : entry.faults()) {
            open.getChildren()
                    .add(Parts.paragraph(
                            fault.at().toString().substring(0, 10) + "  " + fault.text(), "alarm", "small"));
        }
        for (Finding finding : model.twinsOf(entry)) {
            open.getChildren()
                    .add(new HBox(
                            6, new PennantGlyph(Pennant.DUE), Parts.grow(Parts.paragraph(finding.text(), "small"))));
        }
        String faults = entry.misbehaves();
        if (!faults.isEmpty()) {
            open.getChildren()
                    .add(Parts.paragraph("Made to misbehave, for practice: " + faults + ".", "alarm", "small"));
        }
        open.getChildren().add(Parts.heading("Copying it on", "the bytes decide, not the label"));
        open.getChildren().addAll(CopyOnRow.of(model, entry));
        if (model.triable(entry)) {
            String family = model.family(entry).orElseThrow();
            open.getChildren()
                    .add(Parts.row(
                            8,
                            button("known-good", "Works with " + family, () -> model.known(entry, true)),
                            button("known-bad", "Does not", () -> model.known(entry, false))));
        }
        open.getChildren().add(Parts.heading("Call it, lend it, retire it", ""));
        TextField label = field("medium-label", details.label(), "label, as it is printed on it");
        open.getChildren()
                .add(Parts.row(
                        8,
                        Parts.grow(label),
                        button("set-label", "Label it", () -> model.label(entry, label.getText()))));
        TextField place = field("medium-place", medium.place(), "where it lies when it is in no board");
        open.getChildren()
                .add(Parts.row(
                        8,
                        Parts.grow(place),
                        button("set-place", "Lay it there", () -> model.place(entry, place.getText()))));
        TextField note = field("medium-note", details.note(), "to whom, or why");
        open.getChildren().add(note);
        open.getChildren().add(states(entry, note));
        if (model.here(entry)) {
            work(medium, model.where(entry));
        } else {
            workedOn = "";
            closeWork();
            work.getChildren().clear();
        }
        if (!model.twinsOf(entry).isEmpty()) {
            TextField name = field("medium-confirm", "", medium.file());
            open.getChildren()
                    .addAll(
                            Parts.paragraph(
                                    "Type " + medium.file()
                                            + " to give it a new identifier; kernel line and fstab change with it.",
                                    "soft",
                                    "small"),
                            Parts.row(
                                    8,
                                    Parts.grow(name),
                                    button(
                                            "new-identifier",
                                            "New identifier",
                                            () -> model.newIdentifier(entry, name.getText()))));
        }
    }

    /** By when it is to be replaced and why; what it tells of itself; and that it failed, put down by hand. */
    private void health(MediaRegister.Entry entry) {
        open.getChildren()
                .add(fact(
                        "Replace",
                        entry.health().replacement().map(Replacement::when).orElse("nothing known says so")));
        entry.health().replacement().ifPresent(day -> open.getChildren()
                .add(Parts.paragraph(day.reason(), day.soon() ? "alarm" : "soft", "small")));
        for (Finding finding : entry.health().findings()) {
            if (!finding.isAbout(Subject.REPLACEMENT)) {
                open.getChildren().add(Parts.paragraph(finding.text(), "soft", "small"));
            }
        }
        TextField failed = field("medium-fault", "", "what went wrong with it");
        Button ask = Parts.hint(
                button("ask-medium", "Ask it", () -> model.ask(entry)),
                "Asks the medium itself how it is, where it tells, and what its file systems noted.");
        ask.setDisable(!model.here(entry));
        open.getChildren()
                .addAll(
                        failed,
                        Parts.row(
                                8,
                                button(
                                        "put-fault",
                                        "Put down that it failed",
                                        () -> model.failed(entry, failed.getText())),
                                ask));
    }

    private Button lookInside(MediaRegister.Entry entry) {
        Button look = button(
                "medium-inside",
                "Look inside",
                () -> inside.accept(OpenedSource.Subject.of(house.workbench(), entry.medium())));
        look.getStyleClass().add("small");
        look.setVisible(model.here(entry));
        look.setManaged(model.here(entry));
        return look;
    }

    /** Below the drawer, where there is room for its soundings; news of the drawer leave it alone. */
    private void work(Media.Medium medium, String where) {
        if (!workedOn.equals(medium.id())) {
            workedOn = medium.id();
            closeWork();
            work.getChildren()
                    .setAll(
                            Parts.heading(
                                    "What " + medium.name() + " can be put through",
                                    "its size proven, its tables taken off, its last partition grown"),
                            new DriveDeeds(house, medium, where));
        }
    }

    private HBox states(MediaRegister.Entry entry, TextField note) {
        HBox row = Parts.row(8);
        if (entry.details().state() == Media.State.HERE) {
            row.getChildren()
                    .addAll(
                            button("lend", "Lend it", () -> model.state(entry, Media.State.LENT, note.getText())),
                            button(
                                    "retire",
                                    "Retire it",
                                    () -> model.state(entry, Media.State.RETIRED, note.getText())));
        } else {
            row.getChildren().add(button("back", "It is back", () -> model.state(entry, Media.State.HERE, "")));
        }
        return row;
    }

    private Button button(String id, String words, Runnable deed) {
        Button button = Parts.button(words, deed);
        button.setId(id);
        return button;
    }

    private static TextField field(String id, String text, String prompt) {
        TextField field = new TextField(text);
        field.setId(id);
        field.setUserData(text);
        field.setPromptText(prompt);
        field.setAccessibleText(prompt);
        return field;
    }

    private static Node fact(String name, String value) {
        return new HBox(
                8, Parts.cell(Parts.label(name, "soft", "small"), 74), Parts.grow(Parts.paragraph(value, "figure")));
    }
}
