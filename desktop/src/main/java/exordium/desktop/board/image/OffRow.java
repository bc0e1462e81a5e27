// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.desktop.desk.House;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.Targets;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.layout.HBox;

/** Where only the house rule keeps a drive of this machine from being written: the rule is changed here. */
final class OffRow extends HBox {
    OffRow(House house) {
        super(8);
        setAlignment(Pos.CENTER_LEFT);
        Button allow = Parts.button(
                "Allow writing to drives of this machine",
                () -> {
                    house.facts().rules().realDrives(true);
                    house.facts().refresh();
                },
                "task",
                "small");
        allow.setId("allow-real-drives");
        getChildren()
                .setAll(
                        Parts.cell(Parts.label("Refused", "soft"), 52),
                        Parts.label("by a house rule alone; look twice at its name and size.", "alarm", "small"),
                        allow);
        show(Optional.empty());
    }

    void show(Optional<Targets.Target> target) {
        boolean off = target.filter(
                        each -> each.description().refusals().stream().allMatch(Targets.OFF::equals)
                                && !each.description().refusals().isEmpty())
                .isPresent();
        setVisible(off);
        setManaged(off);
    }
}
