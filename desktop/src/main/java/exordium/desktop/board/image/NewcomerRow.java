// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Newcomer;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;

/** What a drive that is in no register yet will be called there, and what it is: it is taken in with what is done to it. */
final class NewcomerRow extends HBox {
    private final TextField name = new TextField();
    private final ComboBox<MediumKind> kind = new ComboBox<>();
    private Optional<Newcomer> shown = Optional.empty();
    private String about = "";

    NewcomerRow(List<MediumKind> kinds) {
        super(8);
        setAlignment(Pos.CENTER_LEFT);
        name.setId("newcomer-name");
        name.setAccessibleText("What it is called in the register");
        name.setPrefColumnCount(14);
        kind.setId("newcomer-kind");
        kind.setAccessibleText("What it is");
        WordCell.in(kind, MediumKind::title);
        kind.getItems().setAll(kinds);
        getChildren()
                .setAll(
                        Parts.cell(Parts.label("New", "soft"), 52),
                        name,
                        kind,
                        Parts.label(
                                "taken into the register with this write, proof and wear with it", "aside", "small"));
        show("", Optional.empty());
    }

    /** What was typed stays as long as it is about the same drive, also where that is in use for a moment. */
    void show(String drive, Optional<Newcomer> guess) {
        setVisible(guess.isPresent());
        setManaged(guess.isPresent());
        if (guess.isPresent() && !drive.equals(about)) {
            about = drive;
            name.setText(guess.get().name());
            kind.setValue(guess.get().kind());
        }
        shown = guess;
    }

    /** As its owner has it now; empty where the drive is known already. */
    Optional<Newcomer> told() {
        return shown.map(guess -> new Newcomer(
                name.getText().isBlank() ? guess.name() : name.getText().strip(), kind.getValue()));
    }
}
