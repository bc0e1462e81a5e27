// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.bootorder.ChipSettings;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FlashChip;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.part.Parts;
import exordium.jobs.firmware.ChipSettingsJob;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.TextArea;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The settings a firmware keeps beside itself: edited, looked through at every letter, compared, staged. */
final class ChipSettingsView extends VBox {
    private final OpenedBoard board;
    private final ChipSettingsJob job;
    private final Consumer<List<Finding>> advise;
    private final TextArea text = new TextArea();
    private final VBox diff = new VBox(2);
    private final Button stage;

    ChipSettingsView(House house, OpenedBoard board, Consumer<List<Finding>> advise) {
        super(8);
        this.board = board;
        this.job = new ChipSettingsJob(house.workbench());
        this.advise = advise;
        text.setId("chip-settings");
        text.setAccessibleText("Settings kept beside the firmware, a line each");
        text.getStyleClass().add("figure");
        text.setPrefRowCount(9);
        Parts.tabGoesOn(text);
        text.setText(board.at().board().chip().nextConfig().text());
        text.textProperty().addListener((property, before, now) -> show());
        setVgrow(text, Priority.ALWAYS);
        diff.getStyleClass().add("diff");
        stage = Parts.button(
                "",
                () -> house.facts()
                        .perform(() -> job.stage(board.at(), ChipSettingsJob.plan(board.at(), text.getText()))),
                "deed");
        stage.setId("stage-settings");
        FirmwareConfig factory = FirmwareConfig.factory(board.at().profile());
        Button back = Parts.button("As from the factory", () -> text.setText(factory.text()));
        back.setId("factory-settings");
        Button undo = Parts.button(
                "As they stand",
                () -> text.setText(board.at().board().chip().nextConfig().text()));
        undo.setId("reset-settings");
        getChildren()
                .addAll(
                        Parts.heading("Settings in the chip", "they count from the next restart"),
                        text,
                        Parts.heading("What changes", ""),
                        diff,
                        Parts.row(10, stage, back, undo));
    }

    /** Looks through what stands there; at first when it comes into view. */
    void show() {
        try {
            ChipSettings change = ChipSettingsJob.plan(board.at(), text.getText());
            diff.getChildren().clear();
            change.out().forEach(line -> diff.getChildren().add(Parts.label("−  " + line, "figure", "soft")));
            change.in().forEach(line -> diff.getChildren().add(Parts.label("+  " + line, "figure")));
            diff.getChildren()
                    .add(Parts.label(
                            (change.changes() ? "" : "nothing, ") + change.bytes() + " of " + FlashChip.MOST_SETTINGS
                                    + " bytes",
                            "soft",
                            "small"));
            stage.setText(change.changes() ? "Stage these settings on " + board.name() : "Nothing to stage");
            stage.setDisable(!change.changes() || Finding.anyStops(change.findings()));
            advise.accept(change.findings());
        } catch (UnreadableInput e) {
            diff.getChildren().setAll(Parts.paragraph(e.getMessage(), "alarm"));
            stage.setDisable(true);
        }
    }
}
