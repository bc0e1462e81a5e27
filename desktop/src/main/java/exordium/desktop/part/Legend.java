// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import exordium.core.daysheet.Pennant;
import exordium.desktop.draw.PennantGlyph;
import javafx.scene.layout.FlowPane;

/** What the five pennants mean, and the ring at the foot of one. */
public final class Legend {
    private Legend() {}

    public static FlowPane row() {
        FlowPane row = new FlowPane(26, 2);
        for (Pennant pennant : Pennant.values()) {
            row.getChildren()
                    .add(Parts.row(6, new PennantGlyph(pennant), Parts.label(pennant.text(), "soft", "small")));
        }
        row.getChildren().add(Parts.row(6, PennantGlyph.told(), Parts.label("told, not read", "soft", "small")));
        return row;
    }
}
