// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.rehearsal;

import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.diagnosis.BootLog;
import exordium.core.rehearsal.diagnosis.Diagnosis;
import exordium.core.rehearsal.diagnosis.Sign;
import exordium.desktop.desk.House;
import exordium.desktop.draw.strip.ShareBar;
import exordium.desktop.part.Parts;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** After the fact: a conversation of three questions at most about what the real board did, and what may be wrong, the likeliest first. */
final class DiagnosisView extends HBox {
    private static final int SHOWN = 5;

    private final House house;
    private final Bench bench;
    private final BiConsumer<Diagnosis, Diagnosis.Seen> putDown;
    private final Consumer<Step> goTo;
    private final VBox conversation = new VBox(8);
    private final VBox suspects = new VBox(8);
    private final TextArea log = new TextArea();
    private final TextField release = new TextField();
    private final Set<Sign> asked = EnumSet.noneOf(Sign.class);
    private Diagnosis.Seen told = Diagnosis.Seen.nothing();
    private Diagnosis.Seen pasted = Diagnosis.Seen.nothing();

    /** Where putDown: keeps what was found in the logbook; goTo: the station where it is mended. */
    DiagnosisView(House house, Bench bench, BiConsumer<Diagnosis, Diagnosis.Seen> putDown, Consumer<Step> goTo) {
        super(24);
        this.house = house;
        this.bench = bench;
        this.putDown = putDown;
        this.goTo = goTo;
        setId("diagnosis");
        log.setId("pasted-log");
        log.setPromptText("A boot log, or what findmnt / or mount says, pasted here");
        log.setAccessibleText("A boot log, or the output of a few commands");
        log.setPrefRowCount(4);
        log.getStyleClass().add("figure");
        Parts.tabGoesOn(log);
        Button read = Parts.button("Read it", this::ask);
        read.setId("read-log");
        release.setId("release-seen");
        release.setPromptText("such as 2026-09-02");
        release.setMinWidth(130);
        release.setAccessibleText("The date of the firmware it shows");
        release.setOnAction(event -> ask());
        Button again = Parts.button("From the beginning", this::again);
        again.setId("diagnosis-again");
        VBox left = new VBox(
                10,
                conversation,
                Parts.label("Or paste what it said", "strong", "small"),
                log,
                Parts.row(10, read, again),
                Parts.row(8, Parts.label("Firmware's date, Enter", "soft", "small"), release));
        left.setMinWidth(330);
        left.setPrefWidth(430);
        suspects.setMinWidth(260);
        getChildren().addAll(Parts.grow(left), Parts.grow(suspects));
        ask();
    }

    private void again() {
        asked.clear();
        told = Diagnosis.Seen.nothing();
        log.clear();
        release.clear();
        ask();
    }

    /** Works it out anew off the interface thread. */
    private void ask() {
        Optional<LocalDate> shown;
        try {
            shown = Parts.date(release.getText());
        } catch (UnreadableInput e) {
            house.reading().say(e.getMessage());
            return;
        }
        String text = log.getText();
        Bench known = shown.map(bench::withFirmware).orElse(bench);
        Set<Sign> done = asked.isEmpty() ? EnumSet.noneOf(Sign.class) : EnumSet.copyOf(asked);
        Diagnosis.Seen seen = told;
        house.reading()
                .read(
                        () -> {
                            Diagnosis.Seen said = BootLog.read(text, known);
                            return Map.entry(said, Diagnosis.of(known, seen.and(said), done));
                        },
                        found -> {
                            pasted = found.getKey();
                            show(found.getValue());
                        });
    }

    private void show(Diagnosis diagnosis) {
        conversation.getChildren().clear();
        told.signs().forEach((sign, value) -> conversation
                .getChildren()
                .add(Parts.paragraph(sign.question() + "  " + sign.words(value, bench.profile()), "soft", "small")));
        if (diagnosis.next().isPresent()) {
            question(diagnosis.next().get());
        } else {
            conversation
                    .getChildren()
                    .add(Parts.paragraph(
                            switch (diagnosis.certainty()) {
                                case SURE -> "That is enough: it is as good as sure.";
                                case LIKELY -> "That is enough: one thing is much likelier than the rest.";
                                case OPEN ->
                                    "Nothing more that can be seen tells these apart: try the first, then the next.";
                            },
                            "strong"));
        }
        showSuspects(diagnosis);
    }

    private void question(Diagnosis.Question question) {
        var title = Parts.paragraph((asked.size() + 1) + ".  " + question.text(), "strong");
        title.setId("question");
        FlowPane answers = new FlowPane(6, 6);
        question.answers().forEach((value, words) -> {
            Button answer = Parts.button(words, () -> answered(question.sign(), Optional.of(value)), "small");
            answer.setId("answer-" + value);
            answers.getChildren().add(answer);
        });
        Button cannot =
                Parts.button("cannot tell", () -> answered(question.sign(), Optional.empty()), "spare", "small");
        cannot.setId("answer-unknown");
        answers.getChildren().add(cannot);
        conversation.getChildren().addAll(title, answers);
    }

    private void answered(Sign sign, Optional<String> value) {
        asked.add(sign);
        value.ifPresent(each -> told = told.with(sign, each));
        ask();
    }

    private void showSuspects(Diagnosis diagnosis) {
        boolean nothing = told.equals(Diagnosis.Seen.nothing()) && pasted.equals(Diagnosis.Seen.nothing());
        suspects.getChildren()
                .setAll(Parts.label(
                        nothing ? "What happens most, before anything is seen" : "What may be wrong", "strong"));
        for (Diagnosis.Ranked each :
                diagnosis.ranked().subList(0, Math.min(SHOWN, diagnosis.ranked().size()))) {
            Button mend = Parts.button(
                    each.suspect().mend(),
                    () -> goTo.accept(each.suspect().kind().step()),
                    "task",
                    "small");
            mend.setWrapText(true);
            mend.setMinWidth(0);
            suspects.getChildren()
                    .add(new VBox(
                            2,
                            new ShareBar(each.share(), each.suspect().text()),
                            Parts.paragraph(each.suspect().text()),
                            mend));
        }
        if (!nothing) {
            Button keep =
                    Parts.button("Put down in the logbook", () -> putDown.accept(diagnosis, told.and(pasted)), "deed");
            keep.setId("put-down");
            suspects.getChildren().add(keep);
        }
    }
}
