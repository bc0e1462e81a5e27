// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.copies.CopyAdvice;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.ByteSize;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.Desk;
import exordium.desktop.draw.CopyBand;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.jobs.copies.CopyJob;
import exordium.store.Copies;
import exordium.store.Media;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;

/** Past copies and the next one along the calendar; making one, and checking those that are kept. */
public final class CopiesStation extends Station<CopiesModel> {
    public CopiesStation(Desk house, CopiesModel model) {
        super(house, model);
    }

    @Override
    public Node surface() {
        List<LocalDate> days = model.copies().stream().map(copy -> day(copy)).toList();
        VBox list = new VBox(6);
        List<Copies.Copy> newestFirst = new ArrayList<>(model.copies());
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
            list.getChildren()
                    .add(
                            board().medium().isPresent()
                                    ? Parts.label("No copy of this board is in the vault.", "soft")
                                    : Parts.empty(
                                            "empty-begin",
                                            "There is nothing to copy: no medium is known to be in " + board().name()
                                                    + ". Its copies stand here, each read back whole before it counted.",
                                            "Choose a medium for it",
                                            () -> goTo(Step.STORAGE)));
        }
        String medium = board().medium().map(Media.Medium::name).orElse("");
        Button copy = Parts.button(
                board().medium().isEmpty() ? "Nothing to copy" : "Copy " + medium + " into the vault",
                () -> house.jobs()
                        .copy(
                                "Copying " + medium + " of " + board().name(),
                                board().id(),
                                board().medium().map(Media.Medium::file).orElseThrow()),
                "deed");
        copy.setId("copy");
        copy.setDisable(board().medium().isEmpty());
        board().medium()
                .ifPresent(each -> copy.disableProperty().bind(house.jobs().held(Set.of(each.file()))));
        Button check = Parts.button("Check the copies kept", this::check);
        check.setId("check");
        check.setDisable(newestFirst.isEmpty());
        advise(advice());
        return new VBox(
                12,
                Parts.heading("Copies", "past and coming"),
                new CopyBand(days, board().facts().due(), house.workbench().today()),
                Parts.row(10, copy, check),
                Parts.heading("Kept in the vault", "each was read back whole before it counted"),
                list);
    }

    private void check() {
        house.facts().perform(() -> new CopyJob(house.workbench(), house.sheets())
                .checkAndTell(board().id())
                .forEach(house.reading()::say));
    }

    private LocalDate day(Copies.Copy copy) {
        return LocalDate.ofInstant(copy.proven(), house.workbench().zone());
    }

    private List<Finding> advice() {
        Optional<CopyAdvice.Source> source = board().medium()
                .flatMap(medium -> model.contents().flatMap(contents -> model.bench().attached().stream()
                        .filter(each -> each.name().equals(medium.name()))
                        .findFirst()
                        .map(each -> new CopyAdvice.Source(
                                contents.inspection().leastMedium(), each.kind().readRate()))));
        return CopyAdvice.of(
                house.facts().rules().copyRule(),
                board().facts().due(),
                source,
                house.facts().rules().wayBack().finding(board().facts().lastCopy()));
    }
}
