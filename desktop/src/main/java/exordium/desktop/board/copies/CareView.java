// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.copies.care.CopyCare;
import exordium.desktop.desk.House;
import exordium.desktop.part.Parts;
import exordium.jobs.copies.care.CareJob;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** What a copy of a board asks of the people around it. */
final class CareView extends VBox {
    private final TextField stop;
    private final TextField services;
    private final TextField quiet;

    CareView(House house, String board, CopyCare care) {
        super(8);
        stop = field("care-stop", care.stopFirst(), "such as: the ticket service, by its red button");
        services = field("care-services", care.services(), "such as: tickets at the desk");
        quiet = field("care-quiet", care.quiet().text(), "such as: mon-fri 18:00-22:00, sun; nothing for always");
        Button keep = Parts.button("Keep this", () -> {}, "task");
        keep.setId("care-keep");
        keep.setOnAction(event -> house.facts().perform(() -> {
            new CareJob(house.workbench())
                    .tell(
                            board,
                            Optional.of(stop.getText()),
                            Optional.of(services.getText()),
                            Optional.of(quiet.getText()));
        }));
        getChildren()
                .addAll(
                        Parts.heading(
                                "Before a copy", "said at every copy, on the round and when evenings are planned"),
                        Parts.label("Stop first what writes", "soft"),
                        stop,
                        Parts.label("While it is off there is no", "soft"),
                        services,
                        Parts.label("It may be off", "soft"),
                        quiet,
                        Parts.row(10, keep));
    }

    private static TextField field(String id, String text, String prompt) {
        TextField field = new TextField(text);
        field.setId(id);
        field.setPromptText(prompt);
        field.setMaxWidth(520);
        return field;
    }
}
