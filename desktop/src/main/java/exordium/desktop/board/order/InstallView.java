// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.daysheet.Pennant;
import exordium.core.rehearsal.NetworkInstall;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;

/** An install over the network: what it needs, with what is there, its two doors, and how it writes. */
final class InstallView {
    private InstallView() {}

    /** Where take: puts an order onto the ladder. */
    static VBox of(NetworkInstall install, Consumer<String> take) {
        VBox all = new VBox(8, Parts.heading("What it needs", "an install over the network"));
        for (NetworkInstall.Need each : install.needs()) {
            Pennant pennant =
                    switch (each.state()) {
                        case MET -> Pennant.PROVEN;
                        case LACKING -> Pennant.FAILING;
                        case TO_SEE -> Pennant.UNKNOWN;
                    };
            all.getChildren().add(Parts.row(10, new PennantGlyph(pennant), Parts.grow(Parts.paragraph(each.text()))));
        }
        all.getChildren().add(Parts.heading("Its two doors, and how it writes", ""));
        for (int i = 0; i < install.steps().size(); i++) {
            all.getChildren()
                    .add(Parts.paragraph((i + 1) + ".  " + install.steps().get(i)));
        }
        Button ladder = Parts.button(
                install.listed() ? "It is in the order" : "Put it on the ladder, " + install.inOrder(),
                () -> take.accept(install.inOrder()),
                "task");
        ladder.setId("install-order");
        ladder.setDisable(install.listed());
        all.getChildren().add(Parts.row(10, ladder));
        return all;
    }
}
