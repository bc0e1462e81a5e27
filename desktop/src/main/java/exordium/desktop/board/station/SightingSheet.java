// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.access.HandSteps;
import exordium.core.access.Sighting;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.reading.BoardScript;
import exordium.core.reading.Pasted;
import exordium.desktop.desk.House;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.jobs.board.PasteJob;
import exordium.jobs.board.SightingJob;
import java.io.File;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

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
    private final TextArea script = new TextArea(BoardScript.text());
    private final HBox scriptDeeds = Parts.row(
            8,
            Parts.button("Copy it", this::copyScript, "small"),
            Parts.button("Keep it as a file …", this::keepScript, "small"));
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
        found.managedProperty().bind(found.textProperty().isNotEmpty());
        field("Pasted", pasted);
        Button ask = Parts.button("What to run at the board …", this::showScript, "quiet", "small");
        ask.setId("told-script");
        script.setId("told-script-text");
        script.setEditable(false);
        script.setPrefRowCount(7);
        script.getStyleClass().add("figure");
        script.setAccessibleText("A script that asks the board");
        Parts.tabGoesOn(script);
        under(new VBox(6, found, ask, script, scriptDeeds));
        shown(false);
        field("Started from", started);
        field("/ is on", root);
        field("Firmware", firmware);
        field("Order", order);
        field("What went wrong", trouble);
        deedIs("Put it down");
    }

    private void shown(boolean is) {
        script.setVisible(is);
        script.setManaged(is);
        scriptDeeds.setVisible(is);
        scriptDeeds.setManaged(is);
    }

    private void showScript() {
        shown(!script.isVisible());
        if (script.isVisible()) {
            script.requestFocus();
        }
    }

    private void copyScript() {
        ClipboardContent content = new ClipboardContent();
        content.putString(BoardScript.text());
        Clipboard.getSystemClipboard().setContent(content);
    }

    private void keepScript() {
        FileChooser chooser = new FileChooser();
        chooser.setInitialFileName("ask.sh");
        File chosen = chooser.showSaveDialog(getScene().getWindow());
        if (chosen != null) {
            house.reading().look(() -> Files.writeString(chosen.toPath(), BoardScript.text()), file -> {
                house.reading().problemProperty().set("It is in " + file.getFileName() + ". At the board: sh ask.sh");
            });
        }
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
                                + (read.facts().size() > MOST_NAMED
                                        ? " and " + (read.facts().size() - MOST_NAMED) + " more"
                                        : "")
                                + "; " + read.unread().size() + " lines belong to nothing known.");
    }

    private void steps(String words) {
        under(Parts.paragraph(words, "soft"));
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        house.reading().look(this::told, findings -> {
            close.run();
            house.facts().refresh();
            if (!findings.isEmpty()) {
                house.reading().problemProperty().set(findings.get(0).text());
            }
        });
    }

    /** What stands in the fields counts; what else a pasted text tells, of its media too, is put down with it. */
    private List<Finding> told() throws java.io.IOException {
        Sighting telling = telling();
        if (pasted.getText().isBlank()) {
            return new SightingJob(house.workbench(), house.benches())
                    .told(board.at(), telling)
                    .findings();
        }
        PasteJob job = new PasteJob(house.workbench(), house.benches());
        PasteJob.Told read =
                job.read(pasted.getText().getBytes(StandardCharsets.UTF_8), Optional.of(board.id()), Optional.empty());
        return job.putDown(read, telling).findings();
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
