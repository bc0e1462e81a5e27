// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.rehearsal;

import exordium.core.daysheet.Pennant;
import exordium.core.rehearsal.faults.SingleFaults;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Every single fault as a small matrix: media down, what can befall them across; under it what can befall the board. */
final class FaultSheet extends VBox {
    private static final double CELL = 112;

    FaultSheet(SingleFaults sheet) {
        super(6);
        setId("faults");
        if (!sheet.sound().runs()) {
            getChildren()
                    .add(Parts.paragraph(
                            "It does not start as it stands. Once it does, every single thing is pulled or spoiled here in turn, and"
                                    + " each start rehearsed.",
                            "soft"));
            return;
        }
        List<SingleFaults.Fault> across = new ArrayList<>();
        for (SingleFaults.Fault fault : SingleFaults.Fault.values()) {
            if (fault.ofMedium()) {
                across.add(fault);
            }
        }
        GridPane grid = new GridPane();
        grid.setHgap(8);
        grid.setVgap(3);
        for (int i = 0; i < across.size(); i++) {
            grid.add(Parts.whole(Parts.label(across.get(i).title(), "soft", "small")), i + 1, 0);
        }
        List<String> names = new ArrayList<>();
        HBox board = Parts.row(16);
        for (SingleFaults.Row row : sheet.rows()) {
            if (row.fault().ofMedium()) {
                if (!names.contains(row.name())) {
                    names.add(row.name());
                    grid.add(Parts.whole(Parts.label(row.name(), "small")), 0, names.size());
                }
                grid.add(
                        Parts.cell(cell(row, said(row)), CELL),
                        across.indexOf(row.fault()) + 1,
                        names.indexOf(row.name()) + 1);
            } else {
                board.getChildren().add(cell(row, row.fault().title()));
            }
        }
        getChildren().addAll(grid, board);
    }

    private static String said(SingleFaults.Row row) {
        return switch (row.verdict()) {
            case UNTOUCHED -> "as before";
            case SURVIVES -> "from " + row.trace().startedFrom().orElse("nowhere");
            case UNREACHED -> "not reached";
            case FAILS -> row.trace().cause().shortText();
        };
    }

    private static Label cell(SingleFaults.Row row, String words) {
        Pennant pennant =
                switch (row.verdict()) {
                    case UNTOUCHED -> Pennant.PROVEN;
                    case SURVIVES -> Pennant.SET;
                    case UNREACHED -> Pennant.DUE;
                    case FAILS -> Pennant.FAILING;
                };
        Label cell = Parts.label(words, "small");
        cell.setGraphic(new PennantGlyph(pennant));
        cell.setAlignment(Pos.CENTER_LEFT);
        cell.setFocusTraversable(true);
        cell.getStyleClass().add("fault");
        cell.setAccessibleText(row.text());
        return Parts.hint(cell, row.text());
    }
}
