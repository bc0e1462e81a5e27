// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.firmware.FirmwareRelease;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Targets;
import exordium.jobs.firmware.RecoveryJob;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.layout.VBox;

/** A card that has the chip written anew: what will be on it, where it goes, and what to do with it. */
final class RecoveryView extends VBox {
    private final House house;
    private final OpenedBoard board;
    private final RecoveryJob job;
    private final ComboBox<FirmwareRelease> release = new ComboBox<>();
    private final CheckBox keepOrder = new CheckBox();
    private final CardTarget target;
    private final VBox steps = new VBox(4);

    RecoveryView(House house, OpenedBoard board, List<FirmwareRelease> newestFirst, List<Targets.Target> targets) {
        super(9);
        this.house = house;
        this.board = board;
        this.job = new RecoveryJob(house.workbench());
        release.setId("recovery-release");
        release.setAccessibleText("Release that goes onto the card");
        release.getItems().setAll(newestFirst);
        WordCell.in(release, each -> each.version() + "  " + each.channel().code());
        release.getSelectionModel().select(0);
        release.setOnAction(event -> show());
        keepOrder.setId("recovery-keep-order");
        keepOrder.setText("with the order it has now, " + board.at().order() + ", and not the factory's");
        keepOrder.setOnAction(event -> show());
        target = new CardTarget("recovery", targets, "a recovery card", this::make);
        getChildren()
                .addAll(
                        Parts.heading("Recovery card", "writes the chip anew, and its settings with it"),
                        Parts.row(10, Parts.label("Release", "soft", "small"), release, keepOrder),
                        target,
                        Parts.heading("At the board", "what to read off before and after"),
                        steps);
    }

    void choose(FirmwareRelease wanted) {
        release.getSelectionModel().select(wanted);
    }

    void show() {
        FirmwareRelease wanted = release.getValue();
        if (wanted != null) {
            Optional<String> order = order();
            house.reading().read(() -> job.plan(board.at(), wanted, order).steps(), this::showSteps);
        }
        target.ready(wanted != null);
    }

    private Optional<String> order() {
        return keepOrder.isSelected() ? Optional.of(board.at().order()) : Optional.empty();
    }

    private void showSteps(List<String> all) {
        steps.getChildren().clear();
        for (int i = 0; i < all.size(); i++) {
            steps.getChildren().add(Parts.paragraph((i + 1) + ".  " + all.get(i)));
        }
    }

    private void make(Targets.Target chosen, String typed) {
        FirmwareRelease wanted = release.getValue();
        Optional<String> order = order();
        house.reading().read(() -> job.plan(board.at(), wanted, order), card -> house.jobs()
                .start(CardTarget.making(house, "a recovery card", board.id(), chosen, (path, meter) -> new RecoveryJob(
                                house.workbench())
                        .make(board.at(), card, house.targets(), path, typed, meter))));
    }
}
