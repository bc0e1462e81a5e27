// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareAdvice;
import exordium.core.firmware.Gate;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Leave it or update it: the verdict, its reasons, and the gates a careful person goes through first. */
final class AdvicePane extends VBox {
    private final VBox system = new VBox(8);

    AdvicePane(FirmwareAdvice advice, Consumer<Step> goTo) {
        super(8);
        String verdict =
                switch (advice.verdict()) {
                    case LEAVE -> "Leave it";
                    case UPDATE ->
                        "Update it"
                                + advice.to()
                                        .map(release -> " to " + release.version())
                                        .orElse("");
                    case FIND_OUT -> "Find out what it runs first";
                };
        var title = Parts.label(verdict, "strong");
        title.setId("firmware-verdict");
        getChildren().addAll(Parts.heading("Leave or update", ""), title);
        advice.reasons().forEach(each -> getChildren().add(Parts.paragraph(each.text(), "small")));
        if (!advice.gates().isEmpty()) {
            getChildren().add(Parts.heading("Before it", "in this order"));
            advice.gates().forEach(gate -> getChildren().add(row(gate, goTo)));
        }
        getChildren().add(system);
        advice.doNotMixUp().forEach(each -> getChildren().add(Parts.paragraph(each.text(), "soft", "small")));
    }

    void system(List<Finding> findings) {
        system.getChildren().clear();
        if (!findings.isEmpty()) {
            system.getChildren().add(Parts.heading("Its system", "another kind of update"));
            findings.forEach(each -> system.getChildren().add(Parts.paragraph(each.text(), "small")));
        }
    }

    private static HBox row(Gate gate, Consumer<Step> goTo) {
        Pennant pennant =
                switch (gate.state()) {
                    case HOLDS -> Pennant.PROVEN;
                    case OPEN -> Pennant.FAILING;
                    case LOOK -> Pennant.UNKNOWN;
                    case THEN -> Pennant.SET;
                };
        VBox words =
                new VBox(Parts.label(gate.what().title(), "strong", "small"), Parts.paragraph(gate.text(), "small"));
        HBox row = Parts.row(8, new PennantGlyph(pennant), Parts.grow(words));
        boolean elsewhere = gate.state() == Gate.State.OPEN
                && gate.step().filter(step -> step != Step.FIRMWARE).isPresent();
        if (elsewhere) {
            Step step = gate.step().orElseThrow();
            var go = Parts.button("Go there", () -> goTo.accept(step), "task", "small");
            go.setId("gate-" + gate.what().code());
            go.setAccessibleText(gate.what().title() + ": go to " + step.title());
            row.getChildren().add(go);
        }
        return row;
    }
}
