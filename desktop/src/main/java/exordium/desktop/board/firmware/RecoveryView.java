// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.access.Ability;
import exordium.core.finding.Sentence;
import exordium.core.firmware.FirmwareRelease;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Targets;
import exordium.jobs.firmware.RecoveryJob;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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
        boolean played = board.at().register().can(Ability.WRITE_CHIP);
        Set<LocalDate> sets = played ? Set.of() : sets();
        release.getItems()
                .setAll(newestFirst.stream()
                        .filter(each -> played || sets.contains(each.version()))
                        .toList());
        keepOrder.setVisible(played);
        keepOrder.setManaged(played);
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
                        release.getItems().isEmpty() && !played ? noSet() : target,
                        Parts.heading("At the board", "what to read off before and after"),
                        steps);
    }

    /** Releases of which its maker's own set is on the shelf. */
    private Set<LocalDate> sets() {
        try {
            return Set.copyOf(house.workbench()
                    .firmwareShelf()
                    .setDates(board.at().profile().id()));
        } catch (IOException e) {
            house.reading().say(Sentence.of(e));
            return Set.of();
        }
    }

    private VBox noSet() {
        return Parts.empty(
                "recovery-no-set",
                "A card for a real board is made of its maker's own set: a program that writes the chip, the chip's image, its"
                        + " signature. None for this family is on the shelf.",
                "Take the maker's set onto the shelf …",
                () -> house.navigation().go(Place.Form.ADD_RELEASE));
    }

    void choose(FirmwareRelease wanted) {
        if (release.getItems().contains(wanted)) {
            release.getSelectionModel().select(wanted);
        }
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
