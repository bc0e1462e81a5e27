// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.desktop.Parts;
import exordium.desktop.draw.CopyBand;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.model.BoardDetail;
import exordium.desktop.model.HouseModel;
import exordium.store.Copies;
import exordium.store.Media;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;

/** Past copies and the next one along the calendar; making one, and checking those that are kept. */
final class CopiesStation extends Station {
    CopiesStation(HouseModel house, BoardDetail board) {
        super(house, board);
    }

    @Override
    Node surface() {
        List<LocalDate> days = board.copies().stream().map(copy -> day(copy)).toList();
        VBox list = new VBox(6);
        List<Copies.Copy> newestFirst = new ArrayList<>(board.copies());
        java.util.Collections.reverse(newestFirst);
        for (Copies.Copy copy : newestFirst) {
            var date = Parts.label(day(copy).toString(), "figure");
            date.setMinWidth(90);
            list.getChildren()
                    .add(Parts.row(
                            10,
                            new PennantGlyph(Pennant.PROVEN),
                            date,
                            Parts.label(
                                    ByteSize.of(copy.source()).said() + ", kept in "
                                            + ByteSize.of(copy.bytes()).said(),
                                    "figure",
                                    "soft"),
                            Parts.hint(Parts.label(copy.file(), "soft", "small"), "SHA-256 " + copy.sha256())));
        }
        if (newestFirst.isEmpty()) {
            list.getChildren().add(Parts.label("No copy of this board is in the vault.", "soft"));
        }
        String medium = board.medium().map(Media.Medium::name).orElse("");
        Button copy = Parts.button(
                board.medium().isEmpty() ? "Nothing to copy" : "Copy " + medium + " into the vault",
                () -> house.copy("Copying " + medium + " of " + board.name(), board.id()),
                "deed");
        copy.setId("copy");
        copy.disableProperty().bind(house.runningProperty().isNotNull());
        if (board.medium().isEmpty()) {
            copy.disableProperty().unbind();
            copy.setDisable(true);
        }
        Button check = Parts.button("Check the copies kept", () -> house.checkCopies(board.id()));
        check.setId("check");
        check.setDisable(newestFirst.isEmpty());
        advise(advice());
        return new VBox(
                12,
                Parts.heading("Copies", "past and coming"),
                new CopyBand(days, board.facts().due(), board.workbench().today()),
                Parts.row(10, copy, check),
                Parts.heading("Kept in the vault", "each was read back whole before it counted"),
                list);
    }

    private LocalDate day(Copies.Copy copy) {
        return LocalDate.ofInstant(copy.proven(), board.workbench().zone());
    }

    private List<Finding> advice() {
        List<Finding> findings = new ArrayList<>();
        var due = board.facts().due();
        Basis rule = Basis.houseRule("copies every 30 days, 90 when lightly used");
        findings.add(
                due.overdue()
                        ? Finding.caution("copy-due", due.reason(), rule)
                        : Finding.note("copy-in-time", due.reason() + " Next: " + due.date() + ".", rule));
        board.medium().ifPresent(medium -> board.contents().ifPresent(contents -> {
            ByteSize extent = contents.inspection().leastMedium();
            ByteRate rate = board.bench().attached().stream()
                    .filter(each -> each.name().equals(medium.name()))
                    .findFirst()
                    .map(each -> each.kind().readRate())
                    .orElse(ByteRate.ofMegabytes(20));
            findings.add(Finding.note(
                    "copy-extent",
                    "A copy holds " + extent.said() + ", to the end of the last partition; about "
                            + Span.said(rate.timeFor(extent)) + " to read.",
                    Basis.computed("the partition table and the medium's rate")));
        }));
        findings.add(Finding.caution(
                "copy-quiet",
                "Stop what writes on the board first, and switch it off before taking its medium out.",
                Basis.practice()));
        findings.add(Finding.note(
                "copy-identifiers",
                "A copy written to another medium has the same identifiers: never run both in one board.",
                Basis.practice()));
        return findings;
    }
}
