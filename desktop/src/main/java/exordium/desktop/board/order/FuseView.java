// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.access.Ability;
import exordium.core.bootorder.FusePlan;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.part.Parts;
import exordium.jobs.order.OrderJob;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** The bit of one-time memory that allows a source: what it comes to, the steps, and asking twice. */
final class FuseView {
    private FuseView() {}

    /** One-time memory: what it comes to, and asking twice. */
    static VBox of(House house, OpenedBoard board) {
        try {
            FusePlan plan = FusePlan.of(board.at().profile(), board.at().order());
            VBox all = new VBox(8, Parts.heading("The one-time bit", "can never be undone; asked twice"));
            plan.findings().forEach(each -> all.getChildren().add(Parts.paragraph(each.text(), "alarm", "small")));
            for (int i = 0; i < plan.steps().size() && !Finding.anyStops(plan.findings()); i++) {
                all.getChildren()
                        .add(Parts.paragraph((i + 1) + ".  " + plan.steps().get(i), "small"));
            }
            if (Finding.anyStops(plan.findings()) || !board.at().register().can(Ability.SET_BIT)) {
                return all;
            }
            TextField id = new TextField();
            id.setId("fuse-confirm");
            id.setPromptText(board.id());
            id.setAccessibleText("The board's id, the first time of asking");
            TextField again = new TextField();
            again.setId("fuse-again");
            again.setPromptText(plan.secondWord());
            again.setAccessibleText("The bit, the second time of asking: " + plan.secondWord());
            Button set = Parts.button(
                    "Set " + plan.secondWord() + " for ever",
                    () -> house.facts().perform(() -> new OrderJob(house.workbench())
                            .setFuse(board.at(), id.getText(), again.getText())),
                    "deed");
            set.setId("set-fuse");
            set.disableProperty()
                    .bind(id.textProperty()
                            .isNotEqualTo(board.id())
                            .or(again.textProperty().isNotEqualTo(plan.secondWord())));
            all.getChildren()
                    .addAll(
                            Parts.label("Type the board's id, then \"" + plan.secondWord() + "\"", "soft", "small"),
                            Parts.row(8, id, again),
                            set);
            return all;
        } catch (UnreadableInput e) {
            return new VBox(Parts.paragraph(e.getMessage(), "alarm", "small"));
        }
    }
}
