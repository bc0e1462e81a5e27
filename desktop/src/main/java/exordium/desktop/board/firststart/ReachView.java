// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.daysheet.Pennant;
import exordium.core.rehearsal.Reach;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.VBox;

/** Whether the board is reached after its first start as the medium is now, and how. */
final class ReachView extends VBox {
    private int row;
    private final GridPane grid = new GridPane();

    ReachView(Reach reach, Runnable sheet) {
        super(12);
        grid.setHgap(16);
        grid.setVgap(8);
        getChildren()
                .add(Parts.row(
                        8,
                        new PennantGlyph(reach.reachable() ? Pennant.PROVEN : Pennant.FAILING),
                        Parts.label(reach.reachable() ? "It will be reached" : "It will not be reached", "strong")));
        line("Why", reach.why());
        line("Find it", reach.findBy());
        reach.connect().ifPresent(this::connect);
        line("Host key", reach.hostKey());
        reach.fingerprints().forEach(each -> figure(each));
        String name = "It needs";
        for (String need : reach.needs()) {
            line(name, need);
            name = "";
        }
        var button = Parts.button("Put this on a sheet to print", sheet, "task");
        button.setId("reach-sheet");
        getChildren().addAll(grid, button);
    }

    private void line(String name, String words) {
        grid.add(Parts.whole(Parts.label(name, "soft")), 0, row);
        grid.add(Parts.paragraph(words), 1, row++);
    }

    private void figure(String words) {
        grid.add(Parts.paragraph(words, "figure", "small"), 1, row++);
    }

    /** To be copied. */
    private void connect(String line) {
        TextField field = new TextField(line);
        field.setEditable(false);
        field.setId("connect");
        field.setAccessibleText("Type this to log in");
        field.getStyleClass().add("figure");
        field.setPrefColumnCount(32);
        grid.add(Parts.whole(Parts.label("Type", "soft")), 0, row);
        grid.add(field, 1, row++);
    }
}
