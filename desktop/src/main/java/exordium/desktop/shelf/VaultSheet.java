// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.desktop.desk.House;
import exordium.desktop.desk.Request;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.jobs.copies.vault.VaultPlace;
import java.util.Optional;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;

/** Takes the vault to another folder: first it says what that takes, then it does it. */
public final class VaultSheet extends FormSheet {
    private final TextField folder = new TextField();
    private final Label words = Parts.paragraph("", "soft", "small");
    private Optional<VaultPlace.Planned> planned = Optional.empty();

    public VaultSheet(House house, Runnable close) {
        super(
                house,
                close,
                "Where the vault lies",
                "Copies can lie on another drive or a mounted share, so that they outlive this machine. A share that is away is"
                        + " noticed: nothing is copied into its empty folder.");
        folder.setId("vault-folder");
        folder.setPromptText("/media/…/vault, or empty for in the workspace");
        field("Folder", folder);
        lookForFolder(folder, "vault-browse", "Look for the vault's folder");
        words.setId("vault-words");
        under(words);
        folder.textProperty().addListener((property, before, now) -> unplanned());
        unplanned();
        house.reading().read(() -> house.workbench().vault().toAbsolutePath().normalize(), now -> {
            if (planned.isEmpty()) {
                words.setText("Now it lies in " + now + ".");
            }
        });
    }

    private void unplanned() {
        planned = Optional.empty();
        deedIs("Say what that takes");
    }

    @Override
    protected void carryOut() {
        house.reading().problemProperty().set("");
        if (planned.isPresent()) {
            close.run();
            VaultPlace.Planned plan = planned.get();
            house.jobs()
                    .start(
                            Request.of("Taking the vault to " + plan.to(), meter -> new VaultPlace(house.workbench())
                                    .move(plan, meter)),
                            house.reading()::say);
            return;
        }
        String typed = folder.getText().strip();
        house.reading()
                .look(
                        () -> new VaultPlace(house.workbench())
                                .plan(Optional.of(typed).filter(text -> !text.isEmpty())),
                        plan -> {
                            if (folder.getText().strip().equals(typed)) {
                                planned = Optional.of(plan);
                                words.setText(plan.said());
                                deedIs("Take it there");
                            }
                        });
    }
}
