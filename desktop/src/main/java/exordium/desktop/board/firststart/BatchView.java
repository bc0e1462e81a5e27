// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Targets;
import exordium.jobs.firststart.CardBatch;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Several cards from one image, each its own board: one line a card, what it is and where it goes. */
final class BatchView extends VBox {
    private final FirstStartModel model;
    private final BiConsumer<Optional<Path>, List<CardBatch.Card>> run;
    private final ComboBox<Optional<Path>> image = new ComboBox<>();
    private final GridPane table = new GridPane();
    private final Label problem = Parts.paragraph("", "alarm", "small");
    private final Button begin = Parts.button("", this::begin, "deed");
    private final List<Line> lines = new ArrayList<>();

    /** Where run: begins what was listed. */
    BatchView(FirstStartModel model, BiConsumer<Optional<Path>, List<CardBatch.Card>> run) {
        super(10);
        this.model = model;
        this.run = run;
        image.setId("batch-image");
        image.setAccessibleText("Image");
        image.getItems().add(Optional.empty());
        model.images().forEach(each -> image.getItems().add(Optional.of(each)));
        WordCell.in(image, each -> each.map(path -> path.getFileName().toString())
                .orElse("none: the cards are written already"));
        image.setValue(image.getItems().get(image.getItems().size() > 1 ? 1 : 0));
        image.setOnAction(event -> show());
        table.setHgap(8);
        table.setVgap(6);
        begin.setId("batch-begin");
        problem.setId("batch-problem");
        Button add = Parts.button("Another card", () -> {
            add();
            show();
        });
        add.setId("batch-add");
        getChildren()
                .addAll(
                        Parts.heading(
                                "Several cards from one image", "each its own board, with what is wanted on the left"),
                        Parts.row(8, Parts.label("Image", "soft"), image),
                        table,
                        Parts.row(10, add, begin),
                        problem,
                        Parts.paragraph(
                                "Each gets its own name, address, disk identifier and, at its first start, its own host keys. The name"
                                        + " of each target is typed, because writing erases what is on it.",
                                "aside",
                                "small"));
        add();
        add();
        show();
    }

    /** One card while it is entered. */
    private final class Line {
        final ComboBox<Targets.Target> target = new ComboBox<>();
        final TextField hostName = field("host-name", "a name of its own");
        final TextField address = field("address", "from the router");
        final TextField label = field("label", "on the card");
        final TextField typed = field("typed", "the target's name");
        final Label state = Parts.label("", "small", "soft");
        final Button away = Parts.signButton(
                "M1 0 L5 4 L9 0 L10 1 L6 5 L10 9 L9 10 L5 6 L1 10 L0 9 L4 5 L0 1 Z", "Not this card", () -> {
                    lines.remove(this);
                    show();
                });

        Line(int number) {
            target.setId("batch-target-" + number);
            target.setAccessibleText("Target of card " + number);
            target.getItems().setAll(model.targets());
            WordCell.in(
                    target,
                    each -> each.description().id() + ", "
                            + each.description().size().said());
            target.setPrefWidth(180);
            target.setOnAction(event -> check());
            for (TextField each : List.of(hostName, address, label, typed)) {
                each.setId("batch-" + each.getId() + "-" + number);
                each.setPrefWidth(130);
                each.textProperty().addListener((property, before, now) -> check());
            }
        }

        private TextField field(String id, String prompt) {
            TextField field = new TextField();
            field.setId(id);
            field.setPromptText(prompt);
            field.setAccessibleText(prompt);
            return field;
        }

        CardBatch.Card card() {
            return new CardBatch.Card(
                    target.getValue().description().path(),
                    typed.getText().strip(),
                    Optional.empty(),
                    hostName.getText().strip(),
                    text(address),
                    List.of(),
                    text(label));
        }

        private Optional<String> text(TextField field) {
            return field.getText().isBlank()
                    ? Optional.empty()
                    : Optional.of(field.getText().strip());
        }
    }

    private void add() {
        lines.add(new Line(lines.size() + 1));
    }

    private void show() {
        table.getChildren().clear();
        boolean writes = image.getValue().isPresent();
        int row = 0;
        for (Line line : lines) {
            table.add(Parts.whole(Parts.label("Card " + (lines.indexOf(line) + 1), "strong", "small")), 0, row);
            table.add(named("Goes to", line.target), 1, row);
            table.add(named("Host name", line.hostName), 2, row);
            table.add(named("Address", line.address), 3, row);
            table.add(line.away, 4, row++);
            if (writes) {
                table.add(named("Type the target's name", line.typed), 1, row);
            }
            table.add(named("Label on the card", line.label), 2, row);
            table.add(line.state, 3, row++, 2, 1);
        }
        check();
    }

    private static VBox named(String words, Region field) {
        field.setMaxWidth(Double.MAX_VALUE);
        return new VBox(2, Parts.label(words, "soft", "small"), field);
    }

    /** What is missing yet, in one sentence. */
    private void check() {
        Optional<String> missing = Optional.empty();
        for (int i = 0; i < lines.size() && missing.isEmpty(); i++) {
            Line line = lines.get(i);
            String card = "Card " + (i + 1);
            if (line.target.getValue() == null) {
                missing = Optional.of(card + " goes nowhere yet.");
            } else if (line.hostName.getText().isBlank()) {
                missing = Optional.of(card + " has no host name yet.");
            } else if (image.getValue().isPresent()
                    && !line.typed
                            .getText()
                            .strip()
                            .equals(line.target.getValue().description().id())) {
                missing = Optional.of(
                        "Writing erases " + line.target.getValue().description().id() + ": type its name to allow it.");
            }
        }
        problem.setText(missing.orElse(""));
        begin.setDisable(missing.isPresent() || lines.isEmpty());
        begin.setText((image.getValue().isPresent() ? "Write and set up " : "Set up ")
                + lines.size()
                + (lines.size() == 1 ? " card" : " cards"));
    }

    private void begin() {
        run.accept(image.getValue(), lines.stream().map(Line::card).toList());
    }

    /** What became of each card. */
    void made(List<CardBatch.Made> made) {
        for (int i = 0; i < Math.min(made.size(), lines.size()); i++) {
            CardBatch.Made each = made.get(i);
            lines.get(i)
                    .state
                    .setText(
                            each.good()
                                    ? "ready, disk " + each.diskId().orElse("as it was")
                                    : "failed: "
                                            + each.findings().stream()
                                                    .filter(finding -> finding.stops())
                                                    .findFirst()
                                                    .map(finding -> finding.text())
                                                    .orElse(""));
        }
    }
}
