// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.finding.Finding;
import exordium.core.firststart.LineFinding;
import exordium.core.firststart.SettingsDocument;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.AdviceColumn;
import exordium.desktop.part.Parts;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** A file of the start partition with its lines numbered, and what is found at the line it is found at. */
final class LintedFile extends VBox {
    private static final int MOST_LINES = 200;
    private static final double NUMBER_WIDTH = 26;
    private static final double MARK_WIDTH = 18;

    LintedFile(String name, byte[] content, List<LineFinding> found) {
        super(2, Parts.label(name, "strong", "small"));
        List<SettingsDocument.Line> lines = SettingsDocument.parse(content).lines();
        lines.stream().limit(MOST_LINES).forEach(line -> {
            List<LineFinding> here =
                    found.stream().filter(each -> each.line() == line.number()).toList();
            getChildren().add(row(line, here));
        });
        if (lines.size() > MOST_LINES) {
            getChildren().add(Parts.label((lines.size() - MOST_LINES) + " lines more", "aside", "small"));
        }
    }

    private static HBox row(SettingsDocument.Line line, List<LineFinding> here) {
        Label number = Parts.label(String.valueOf(line.number()), "figure", "soft");
        number.setAlignment(Pos.TOP_RIGHT);
        Label text = Parts.paragraph(line.text().replaceAll("\\p{Cntrl}", "?"), "figure");
        HBox mark = new HBox();
        mark.setMinWidth(MARK_WIDTH);
        VBox all = new VBox(1, text);
        if (!here.isEmpty()) {
            mark.getChildren()
                    .add(new PennantGlyph(
                            AdviceColumn.pennant(here.get(0).finding().severity())));
            for (LineFinding each : here) {
                Finding finding = each.finding();
                String mend = each.mend().map(way -> "; mend: " + way.words()).orElse("");
                all.getChildren().add(Parts.label(finding.code() + mend, "aside", "small"));
            }
        }
        HBox row = new HBox(4, mark, Parts.fixed(number, NUMBER_WIDTH), Parts.grow(all));
        row.setAlignment(Pos.TOP_LEFT);
        return row;
    }
}
