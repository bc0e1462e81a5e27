// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.access.HandSteps;
import exordium.core.access.Sighting;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.reading.Pasted;
import exordium.desktop.desk.House;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.jobs.board.SightingJob;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;

/** What was seen at a board by hand, put down in one small sheet; what is to be done there stands above it. */
public final class SightingSheet extends FormSheet {
    private static final String NOT_SEEN = "not looked at";
    private static final int MOST_NAMED = 6;

    private final OpenedBoard board;
    private final TextField firmware = new TextField();
    private final TextField order = new TextField();
    private final TextField root = new TextField();
    private final ComboBox<String> started = new ComboBox<>();
    private final TextField trouble = new TextField();
    private final TextArea pasted = new TextArea();
    private final Label found = Parts.paragraph("", "aside", "small");

    public SightingSheet(House house, OpenedBoard board, Runnable close) {
        super(
                house,
                close,
                "What " + board.name() + " shows",
                "Paste what its terminal or screen showed, or fill it in; leave out what you did not look at.");
        this.board = board;
        firmware.setId("told-firmware");
        order.setId("told-order");
        root.setId("told-root");
        started.setId("told-started");
        trouble.setId("told-trouble");
        firmware.setPromptText("date on its start screen, such as 2026-09-02");
        order.setPromptText("as its settings show it, such as "
                + board.at().profile().order().usual());
        root.setPromptText("what holds /, such as /dev/mmcblk0p2");
        trouble.setPromptText("if it did not start: lamp, screen, words");
        started.getItems().add(NOT_SEEN);
        board.at().profile().ports().stream().map(BoardProfile.Port::id).forEach(started.getItems()::add);
        started.setValue(NOT_SEEN);
        int number = 1;
        for (String step : HandSteps.restart(
                board.at().register().way(),
                board.at().profile(),
                board.at().board().chip())) {
            steps(number++ + "  " + step);
        }
        firmware.setDisable(!board.at().profile().firmware().updatable());
        pasted.setId("told-pasted");
        pasted.setPromptText("what its terminal or screen showed; what is known of it is filled in below");
        pasted.setPrefRowCount(2);
        Parts.tabGoesOn(pasted);
        pasted.textProperty().addListener((property, before, now) -> fill(now));
        found.setId("told-found");
        field("Pasted", pasted);
        under(found);
        field("Started from", started);
        field("/ is on", root);
        field("Firmware", firmware);
        field("Order", order);
        field("What went wrong", trouble);
        deedIs("Put it down");
    }

    /** Read beside the window; what it tells goes into its field, and nothing is told before it is put down. */
    private void fill(String text) {
        found.setText("");
        if (!text.isBlank()) {
            house.reading().look(() -> Pasted.of(text.getBytes(StandardCharsets.UTF_8)), read -> {
                if (pasted.getText().equals(text)) {
                    fill(read);
                }
            });
        }
    }

    private void fill(Pasted read) {
        Sighting shows = read.sighting(board.at().profile());
        shows.firmware().filter(each -> !firmware.isDisabled()).ifPresent(each -> firmware.setText(each.toString()));
        shows.order().ifPresent(order::setText);
        shows.root().ifPresent(root::setText);
        shows.started().ifPresent(started::setValue);
        found.setText(
                read.facts().isEmpty()
                        ? "Nothing in it is known."
                        : "Read: "
                                + read.facts().stream()
                                        .map(each -> each.fact() + " (line " + each.line() + ")")
                                        .distinct()
                                        .limit(MOST_NAMED)
                                        .collect(Collectors.joining(", "))
                                + ".");
    }

    private void steps(String words) {
        under(Parts.paragraph(words, "soft"));
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        house.reading().read(this::told, outcome -> {
            close.run();
            house.facts().refresh();
            if (!outcome.findings().isEmpty()) {
                house.reading().problemProperty().set(outcome.findings().get(0).text());
            }
        });
    }

    private SightingJob.Outcome told() throws java.io.IOException {
        return new SightingJob(house.workbench(), house.benches()).told(board.at(), telling());
    }

    private Sighting telling() throws UnreadableInput {
        return new Sighting(
                firmware.isDisabled() ? Optional.empty() : Parts.date(firmware.getText()),
                typed(order.getText()),
                typed(root.getText()),
                Optional.of(started.getValue()).filter(each -> !each.equals(NOT_SEEN)),
                typed(trouble.getText()));
    }

    private static Optional<String> typed(String text) {
        return Optional.of(text.strip()).filter(each -> !each.isEmpty());
    }
}
