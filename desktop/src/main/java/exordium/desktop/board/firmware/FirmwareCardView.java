// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.finding.Finding;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.draw.time.TraceBar;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.firmware.FirmwareCardJob;
import java.io.File;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** A card that carries the firmware: from which archive, what comes onto it and what not, and what the board does with it. */
final class FirmwareCardView extends VBox {
    private final House house;
    private final OpenedBoard board;
    private final Consumer<List<Finding>> advise;
    private final TextField archive = new TextField();
    private final TextField second = new TextField();
    private final TextField leaveOut = new TextField();
    private final VBox shown = new VBox(6);
    private final CardTarget target;
    private Optional<FirmwareCardJob.Planned> planned = Optional.empty();

    FirmwareCardView(House house, OpenedBoard board, List<Targets.Target> targets, Consumer<List<Finding>> advise) {
        super(9);
        this.house = house;
        this.board = board;
        this.advise = advise;
        archive.setId("firmware-archive");
        archive.setPromptText("a .zip or .tar, as it is published");
        archive.setAccessibleText("Archive of the firmware");
        archive.setPrefWidth(380);
        archive.setOnAction(event -> look());
        Button browse = Parts.button("Look for it …", this::browse);
        browse.setId("firmware-browse");
        Button look = Parts.button("Show what comes onto it", this::look, "task");
        look.setId("firmware-look");
        second.setId("firmware-archive-2");
        second.setPromptText("and another, laid over it; or leave it out");
        second.setAccessibleText("Another archive");
        second.setPrefWidth(260);
        second.setOnAction(event -> look());
        leaveOut.setId("firmware-leave-out");
        leaveOut.setPromptText("such as readme*, *.txt");
        leaveOut.setAccessibleText("Files that do not go onto it");
        leaveOut.setOnAction(event -> look());
        target = new CardTarget(
                "firmware-card",
                targets,
                "the firmware card",
                (drive, typed) -> planned.ifPresent(plan -> house.jobs()
                        .start(CardTarget.making(
                                house, "a firmware card", board.id(), drive, (path, meter) -> new FirmwareCardJob(
                                                house.workbench(), new BenchReader(house.workbench()))
                                        .make(plan, house.targets(), path, typed, meter)))));
        getChildren()
                .addAll(
                        Parts.heading("Firmware card", "stays in the slot; without it this board does nothing"),
                        Parts.row(10, Parts.label("Archive", "soft", "small"), archive, browse, look),
                        Parts.row(
                                10,
                                Parts.label("And", "soft", "small"),
                                second,
                                Parts.label("Leave out", "soft", "small"),
                                leaveOut),
                        shown,
                        target);
    }

    private void browse() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Archive of the firmware");
        File chosen = chooser.showOpenDialog(getScene().getWindow());
        if (chosen != null) {
            archive.setText(chosen.getPath());
            look();
        }
    }

    private void look() {
        String typed = archive.getText().strip();
        planned = Optional.empty();
        target.ready(false);
        shown.getChildren().clear();
        if (!typed.isEmpty()) {
            FirmwareCardJob job = new FirmwareCardJob(house.workbench(), house.benches());
            List<String> archives = Stream.of(typed, second.getText().strip())
                    .filter(each -> !each.isEmpty())
                    .toList();
            List<String> unwanted = Arrays.stream(leaveOut.getText().split(","))
                    .map(String::strip)
                    .filter(each -> !each.isEmpty())
                    .toList();
            house.reading()
                    .read(
                            () -> job.plan(
                                    board.at(), archives.stream().map(Path::of).toList(), unwanted),
                            this::show);
        }
    }

    private void show(FirmwareCardJob.Planned plan) {
        planned = Optional.of(plan);
        target.ready(!Finding.anyStops(plan.findings()));
        advise.accept(plan.findings());
        shown.getChildren()
                .setAll(
                        Parts.paragraph(plan.card().files().size() + " files: "
                                + String.join(", ", plan.card().files().keySet()) + "."),
                        Parts.paragraph(
                                plan.card().leftOut().isEmpty()
                                        ? "Nothing of the archive is left out."
                                        : "Left out: "
                                                + String.join(", ", plan.card().leftOut()) + ".",
                                "soft",
                                "small"),
                        Parts.heading("With it in the slot", "and everything else as it is"),
                        new TraceBar(
                                "With it in the slot",
                                plan.start(),
                                plan.start().seconds()));
        plan.card().settings().ifPresent(line -> shown.getChildren()
                .add(1, Parts.paragraph("Its settings get the line " + line + ".", "small")));
        for (int i = 0; i < plan.steps().size(); i++) {
            shown.getChildren()
                    .add(Parts.paragraph((i + 1) + ".  " + plan.steps().get(i), "small"));
        }
    }
}
