// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.FormSheet;
import exordium.jobs.shelf.Intake;
import java.util.Arrays;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/** Makes a virtual drive and lays it in the drawer. */
public final class NewDriveSheet extends FormSheet {
    private final TextField name = new TextField();
    private final ComboBox<String> kind = new ComboBox<>();
    private final TextField faults = new TextField();
    private final TextField size = new TextField("31.9 GB");

    public NewDriveSheet(House house, Runnable close) {
        super(
                house,
                close,
                "New virtual drive",
                "A sparse file of the workspace that behaves as a drive of its kind: to plan, practise and test with.");
        name.setId("drive-name");
        kind.setId("drive-kind");
        size.setId("drive-size");
        name.setPromptText("such as Tidewell 32");
        house.workbench().media().kinds().stream().map(MediumKind::id).forEach(kind.getItems()::add);
        kind.setValue(kind.getItems().get(0));
        field("Name", name);
        field("Kind", kind);
        field("Size", size);
        faults.setId("drive-faults");
        faults.setPromptText("sound; else such as wrap:8000000000 or bad:50000000+4096");
        field("Made to misbehave", faults);
        deedIs("Make it");
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        house.reading()
                .read(
                        () -> new Intake(house.workbench())
                                .drive(
                                        name.getText(),
                                        kind.getValue(),
                                        ByteSize.parse(size.getText()),
                                        Arrays.stream(faults.getText().strip().split("[,;\\s]+"))
                                                .filter(each -> !each.isEmpty())
                                                .toList()),
                        medium -> {
                            close.run();
                            house.navigation().go(Place.Shelf.MEDIA);
                            house.facts().refresh();
                        });
    }
}
