// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Step;
import exordium.desktop.draw.PennantGlyph;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The narrow column on the right: findings, each with what it rests on and the way to its remedy. */
public final class AdviceColumn extends VBox {
    private final VBox list = new VBox(10);
    private final Step here;
    private final Consumer<Step> goTo;

    private List<Finding> shown;

    public AdviceColumn(String title, Step here, Consumer<Step> goTo) {
        this.here = here;
        this.goTo = goTo;
        getStyleClass().add("advice");
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        getChildren().addAll(Parts.label(title, "heading"), Parts.grow(scroll));
    }

    public void show(List<Finding> findings) {
        if (findings.equals(shown)) {
            return;
        }
        shown = List.copyOf(findings);
        list.getChildren().clear();
        for (Finding finding : findings) {
            list.getChildren().add(entry(finding));
        }
        if (findings.isEmpty()) {
            list.getChildren().add(Parts.paragraph("Nothing to add.", "soft", "small"));
        }
    }

    /** By which a finding of that weight is known at a glance. */
    public static Pennant pennant(Severity severity) {
        return switch (severity) {
            case STOP -> Pennant.FAILING;
            case CAUTION -> Pennant.DUE;
            case NOTE -> Pennant.SET;
        };
    }

    private HBox entry(Finding finding) {
        String word =
                switch (finding.severity()) {
                    case STOP -> "Stop";
                    case CAUTION -> "Caution";
                    case NOTE -> "Note";
                };
        VBox text = new VBox(
                1,
                Parts.label(
                        word,
                        finding.stops() ? new String[] {"strong", "small", "alarm"} : new String[] {"strong", "small"}),
                Parts.paragraph(finding.text(), "small"),
                Parts.paragraph(finding.basis().source(), "aside", "small"));
        finding.remedy().filter(step -> step != here).ifPresent(step -> text.getChildren()
                .add(Parts.button(
                        "Mend it at " + step.title().toLowerCase(java.util.Locale.ROOT),
                        () -> goTo.accept(step),
                        "quiet",
                        "small")));
        HBox row = new HBox(6, new PennantGlyph(pennant(finding.severity())), Parts.grow(text));
        row.setAccessibleText(word + ": " + finding.text());
        return row;
    }
}
