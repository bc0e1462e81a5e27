// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.daysheet.Pennant;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteReport;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import java.time.Duration;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** How a write ended, with the figures it rests on, and the report as a file for others. */
public final class ReportBox extends HBox {
    ReportBox(WriteReport report, boolean named, Runnable save) {
        super(10);
        boolean proven = report.verdict() == Verdict.VERIFIED;
        Pennant state = proven ? Pennant.PROVEN : report.verdict() == Verdict.WRITTEN ? Pennant.SET : Pennant.FAILING;
        Label verdict = Parts.label(report.verdict().code() + (named ? ", " + report.target() : ""), "heading");
        if (!report.verdict().good()) {
            verdict.getStyleClass().add("alarm");
        }
        verdict.setId("report-verdict");
        Button keep = Parts.button("Keep it as PDF and JSON", save, "task", "small");
        keep.setId("report-save");
        String figures = ByteSize.of(report.writtenBytes()).said() + " written at "
                + report.writeRate().said()
                + report.verification()
                        .map(each -> ", " + ByteSize.of(each.checkedBytes()).said() + " read back at "
                                + report.readRate().said())
                        .orElse("")
                + ", " + Span.said(Duration.ofMillis(Math.round(report.seconds() * 1000))) + " in all";
        getChildren()
                .addAll(
                        new PennantGlyph(state),
                        Parts.grow(new VBox(
                                2,
                                Parts.row(10, verdict, Parts.spring(), keep),
                                Parts.paragraph(report.sentence()),
                                Parts.label(figures, "figure", "soft"))));
        getStyleClass().add("report");
        setId("report");
    }
}
