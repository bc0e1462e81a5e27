// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.Pennant;
import exordium.core.passage.Deed;
import exordium.core.passage.Step;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Progress;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** One step in a line: its number or how far it is, where it is done, what is done, how long it takes. */
final class StepRow {
    private StepRow() {}

    static HBox planned(int number, Step step) {
        VBox text = new VBox(Parts.paragraph(step.text()));
        step.caution().ifPresent(caution -> text.getChildren().add(Parts.paragraph(caution, "aside", "small")));
        return row(Parts.label(String.valueOf(number), "figure", "soft"), step, text);
    }

    /** As it stands on the card. */
    static HBox of(int number, PassageJob.Standing standing) {
        Progress progress = standing.progress();
        boolean over = progress == Progress.DONE || progress == Progress.FALLEN;
        VBox text = new VBox(Parts.paragraph(standing.step().text(), over ? "soft" : "label"));
        if (!standing.said().isEmpty()) {
            text.getChildren()
                    .add(Parts.paragraph(standing.said(), "small", progress == Progress.FALLEN ? "alarm" : "aside"));
        }
        Node mark =
                switch (progress) {
                    case DONE -> new PennantGlyph(Pennant.PROVEN);
                    case FALLEN -> new PennantGlyph(Pennant.FAILING);
                    case NEXT, OPEN -> Parts.label(String.valueOf(number), "figure", "soft");
                };
        HBox row = row(mark, standing.step(), text);
        row.setAccessibleText(progress.code() + ": " + standing.step().text() + " " + standing.said());
        return row;
    }

    private static HBox row(Node mark, Step step, VBox text) {
        HBox number = Parts.row(0, mark);
        Label place = Parts.label(place(step), "small", "soft");
        Label minutes = Parts.label(
                step.cost().wholeMinutes() == 0 ? "" : step.cost().wholeMinutes() + " min", "figure", "soft");
        HBox row =
                new HBox(8, Parts.cell(number, 22), Parts.cell(place, 46), Parts.grow(text), Parts.cell(minutes, 56));
        row.setAlignment(Pos.TOP_LEFT);
        return row;
    }

    static String place(Step step) {
        return step.deed().place() == Deed.Place.PC ? "PC" : "board";
    }
}
