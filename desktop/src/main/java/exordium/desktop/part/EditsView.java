// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import exordium.core.firststart.dialect.MarkedFile;
import exordium.core.firststart.settings.LineFinding;
import exordium.desktop.draw.PennantGlyph;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Files with their lines numbered, edits marked, and what is found at the line it is found at. */
public final class EditsView extends VBox {
    private static final double NUMBER_WIDTH = 26;
    private static final double SIGN_WIDTH = 16;
    private static final int MOST_LINES = 120;

    public EditsView() {
        super(10);
    }

    public void show(List<MarkedFile> files) {
        getChildren().clear();
        for (MarkedFile file : files) {
            VBox box = new VBox(
                    1,
                    Parts.row(
                            8,
                            Parts.label(file.file(), "figure", "strong"),
                            Parts.label(file.fate(), "aside", "small")));
            box.getStyleClass().add("diff");
            file.lines().stream().limit(MOST_LINES).forEach(line -> box.getChildren()
                    .add(row(line)));
            if (file.lines().size() > MOST_LINES) {
                box.getChildren()
                        .add(Parts.label((file.lines().size() - MOST_LINES) + " lines more", "aside", "small"));
            }
            getChildren().add(box);
        }
    }

    private static HBox row(MarkedFile.Line line) {
        String sign =
                switch (line.mark()) {
                    case ADDED -> "+";
                    case REMOVED -> "−";
                    case SAME -> "";
                };
        Label number = Parts.label(String.valueOf(line.number()), "figure", "soft", "small");
        number.setAlignment(Pos.TOP_RIGHT);
        Label text = Parts.paragraph(line.text(), "figure", "small");
        VBox all = new VBox(1, text);
        for (LineFinding each : line.found()) {
            all.getChildren()
                    .add(Parts.row(
                            4,
                            new PennantGlyph(AdviceColumn.pennant(each.finding().severity())),
                            said(each)));
        }
        HBox row = new HBox(
                4,
                Parts.fixed(number, NUMBER_WIDTH),
                Parts.fixed(Parts.label(sign, "figure"), SIGN_WIDTH),
                Parts.grow(all));
        row.setAlignment(Pos.TOP_LEFT);
        row.getStyleClass().add("line-" + line.mark().name().toLowerCase(java.util.Locale.ROOT));
        row.setAccessibleText(sign + " " + line.text());
        return row;
    }

    public static Label said(LineFinding each) {
        return Parts.paragraph(
                each.finding().code()
                        + each.mend().map(way -> "; mend: " + way.words()).orElse(""),
                "aside",
                "small");
    }
}
