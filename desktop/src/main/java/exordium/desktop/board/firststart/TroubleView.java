// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.daysheet.Pennant;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.StartedBut;
import exordium.core.firststart.intents.Intents;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** "It started, but …": what is seen, what on this medium explains it, and the mend. */
final class TroubleView extends VBox {
    private final FirstStartFiles found;
    private final BoardProfile board;
    private final Consumer<Intents> want;
    private final VBox reasons = new VBox(10);

    /** Where want: takes up the intents that mend it. */
    TroubleView(FirstStartFiles found, BoardProfile board, Consumer<Intents> want) {
        super(12);
        this.found = found;
        this.board = board;
        this.want = want;
        ToggleGroup group = new ToggleGroup();
        FlowPane symptoms = new FlowPane(6, 6);
        for (StartedBut.Symptom each : StartedBut.Symptom.values()) {
            ToggleButton button = new ToggleButton(each.title());
            button.setId("seen-" + each.code());
            button.setToggleGroup(group);
            button.setOnAction(event -> {
                button.setSelected(true);
                show(each);
            });
            symptoms.getChildren().add(button);
        }
        getChildren().addAll(Parts.label("It started, but", "strong"), symptoms, reasons);
        ToggleButton first = (ToggleButton) symptoms.getChildren().get(5);
        first.setSelected(true);
        show(StartedBut.Symptom.LOGIN_REFUSED);
    }

    private void show(StartedBut.Symptom symptom) {
        reasons.getChildren().setAll(Parts.label("What on this medium explains it", "soft", "small"));
        for (StartedBut.Reason reason : StartedBut.of(symptom, found, board)) {
            HBox row = Parts.row(
                    8,
                    new PennantGlyph(reason.sure() ? Pennant.FAILING : Pennant.UNKNOWN),
                    Parts.grow(Parts.paragraph(reason.sure() ? reason.text() : "Else look at: " + reason.text())));
            reason.mend().ifPresent(mend -> {
                Button button = Parts.button("Want this mended", () -> want.accept(mend), "task");
                button.setId("mend-" + reasons.getChildren().size());
                row.getChildren().add(button);
            });
            reasons.getChildren().add(row);
        }
    }
}
