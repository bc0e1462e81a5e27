// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.Pennant;
import exordium.core.passage.Deed;
import exordium.core.passage.Step;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Request;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.jobs.passage.PassageJob;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.InvalidationListener;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** The step that is next: what to do with which caution, what proves it, the name to type or what was seen, and its doing. */
final class StepForm extends VBox {
    /** What is seen at a board, and how it is asked for. */
    private static final Map<String, String> ASKED = Map.of(
            "firmwareDate", "date of the firmware it shows",
            "order", "order it shows",
            "startDevice", "port it started from",
            "rootDevice", "what holds /, such as /dev/sda2");

    private final House house;
    private final String board;
    private final PassageJob.Standing standing;
    private final Map<String, TextField> told = new LinkedHashMap<>();
    private final TextField confirm = new TextField();
    private final Button deed;
    private final Label atWork = Parts.label("At work; how far it is stands below.", "aside");
    private boolean pressed;
    private boolean over;
    private final ListChangeListener<Object> running = change -> check();

    StepForm(House house, String board, int number, PassageJob.Standing standing) {
        super(6);
        this.house = house;
        this.board = board;
        this.standing = standing;
        Step step = standing.step();
        getStyleClass().add("next-step");
        setId("step-" + step.id());
        deed = Parts.button(step.deed().press(), this::carryOut, "deed");
        deed.setId("passage-do");
        deed.setAccessibleText(step.deed().press() + ": " + step.text());
        Label text = Parts.paragraph(step.text(), "heading");
        text.setMaxWidth(Double.MAX_VALUE);
        getChildren()
                .add(Parts.row(
                        8,
                        Parts.cell(Parts.label(String.valueOf(number), "figure"), 22),
                        Parts.cell(Parts.label(StepRow.place(step), "small", "soft"), 46),
                        Parts.grow(text),
                        Parts.cell(Parts.label(step.cost().wholeMinutes() + " min", "figure"), 56)));
        VBox inner = new VBox(6);
        inner.setStyle("-fx-padding: 0 0 0 6em;");
        step.caution().ifPresent(caution -> inner.getChildren()
                .add(Parts.row(8, new PennantGlyph(Pennant.DUE), Parts.grow(Parts.paragraph(caution)))));
        inner.getChildren().add(Parts.paragraph("It shows in this: " + step.proves() + ".", "soft", "small"));
        if (!standing.over().isEmpty()) {
            inner.getChildren().add(Parts.paragraph("What is on it is gone then: " + standing.over(), "small"));
        }
        confirm().ifPresent(inner.getChildren()::add);
        if (!standing.tells().facts().isEmpty()) {
            inner.getChildren().add(asked());
        }
        inner.getChildren().add(deeds());
        getChildren().add(inner);
        confirm.textProperty().addListener((InvalidationListener) change -> check());
        house.jobs().running().addListener(running);
        check();
    }

    private Optional<Node> confirm() {
        if (!standing.step().deed().wantsName()) {
            return Optional.empty();
        }
        Label ask = Parts.paragraph(
                standing.confirm()
                        .map(name -> "Type its name, " + name + ", to confirm.")
                        .orElse(
                                "It is not seen here: plug it in. A blank one without a serial is told by its drive's name,"
                                        + " such as sdb, typed here."),
                "soft");
        confirm.setId("passage-confirm");
        confirm.getStyleClass().add("confirm");
        confirm.setAccessibleText(ask.getText());
        confirm.setOnAction(event -> deed.fire());
        ask.setLabelFor(confirm);
        return Optional.of(Parts.row(10, ask, confirm));
    }

    /** What was seen, as somebody tells it who stands at the board. */
    private Node asked() {
        FlowPane fields = new FlowPane(12, 6);
        for (String fact : standing.tells().facts()) {
            TextField field = new TextField();
            field.setId("saw-" + fact);
            field.setPromptText(ASKED.get(fact));
            field.setAccessibleText(ASKED.get(fact));
            field.setPrefColumnCount(20);
            field.textProperty().addListener((InvalidationListener) change -> check());
            field.setOnAction(event -> deed.fire());
            told.put(fact, field);
            Label name = Parts.label(Words.capital(ASKED.get(fact)), "soft", "small");
            name.setLabelFor(field);
            fields.getChildren().add(new VBox(1, name, field));
        }
        return fields;
    }

    private Node deeds() {
        FlowPane row = new FlowPane(10, 6, deed);
        Step step = standing.step();
        if (step.deed() == Deed.BUY && step.medium().isPresent()) {
            Button take = Parts.button(
                    "Take it into the register", () -> house.navigation().go(Place.Shelf.MEDIA), "task");
            take.setId("passage-take-in");
            row.getChildren().add(take);
        }
        row.getChildren().add(atWork);
        return row;
    }

    /** The name is that of the target, what has to be told is told, and nothing of this passage runs. */
    private void check() {
        String typed = confirm.getText().strip();
        boolean named = !standing.step().deed().wantsName()
                || standing.confirm().map(typed::equals).orElse(!typed.isEmpty());
        boolean enough = standing.tells().enough(saw().keySet());
        boolean busy =
                house.jobs().running().stream().anyMatch(job -> job.board().equals(board));
        deed.setDisable(!named || !enough || busy || pressed);
        atWork.setVisible(busy);
        atWork.setManaged(busy);
    }

    private void carryOut() {
        Map<String, String> saw = saw();
        String typed = confirm.getText().strip();
        Step step = standing.step();
        pressed = true;
        Request<PassageJob.Shown> request = Request.of(
                        step.text(), meter -> house.passages().done(step.id(), Optional.of(board), typed, saw, meter))
                .at(board)
                .holding(held());
        house.jobs().start(request, done -> over = true, this::ended);
        check();
    }

    /** Once it is done it is not to be pressed again before the card shows what is next. */
    private void ended() {
        pressed = over;
        check();
    }

    /** What was filled in. */
    private Map<String, String> saw() {
        Map<String, String> saw = new LinkedHashMap<>();
        told.forEach((fact, field) -> {
            if (!field.getText().isBlank()) {
                saw.put(fact, field.getText().strip());
            }
        });
        return saw;
    }

    private Set<String> held() {
        return standing.confirm().map(Set::of).orElse(Set.of());
    }

    /** Puts the keyboard where it is wanted. */
    void focus() {
        if (standing.step().deed().wantsName()) {
            confirm.requestFocus();
        } else if (!told.isEmpty()) {
            told.values().iterator().next().requestFocus();
        } else {
            deed.requestFocus();
        }
    }

    void close() {
        house.jobs().running().removeListener(running);
    }
}
