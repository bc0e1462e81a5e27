// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.copies.care.CopyAdvice;
import exordium.core.copies.care.CopyCare;
import exordium.core.copies.care.Spares;
import exordium.core.copies.schedule.Retention;
import exordium.core.copies.schedule.VaultForecast;
import exordium.core.quantity.ByteSize;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.copies.care.CareJob;
import exordium.jobs.copies.care.SpareJob;
import exordium.jobs.copies.schedule.CopySource;
import exordium.jobs.copies.vault.VaultJob;
import exordium.store.Copies;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** A board's copies, oldest first, with the room they take and what the house's rule says of each. */
public record CopiesModel(
        OpenedBoard board,
        Optional<CopyAdvice.Source> source,
        VaultJob.Strata strata,
        VaultJob.Pruned pruned,
        CopyCare care,
        Optional<Spares.Verdict> spare)
        implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static CopiesModel read(House house, OpenedBoard board) throws IOException {
        VaultJob vault = new VaultJob(house.workbench());
        return new CopiesModel(
                board,
                source(house, board),
                vault.strata(Optional.of(board.id())),
                vault.preview(Optional.of(board.id())),
                new CareJob(house.workbench()).of(board.id()),
                board.medium().isEmpty()
                        ? Optional.empty()
                        : new SpareJob(house.workbench(), house.benches())
                                .of(board.id()).stream()
                                        .filter(Spares.Verdict::usable)
                                        .findFirst());
    }

    /** Of a medium that was never read here nothing is known. */
    private static Optional<CopyAdvice.Source> source(House house, OpenedBoard board) throws IOException {
        if (board.medium().isEmpty() || house.benches().unread(board.medium().get())) {
            return Optional.empty();
        }
        return Optional.of(new CopySource(house.workbench(), house.benches(), MediaHealth.of(house.workbench()))
                .of(board.at(), board.medium().get()));
    }

    List<VaultJob.Generation> generations() {
        return strata.generations();
    }

    /** What keeps a copy, or that nothing does. */
    String verdict(Copies.Copy copy) {
        return pruned.verdicts().stream()
                .filter(each -> each.copy().id() == copy.id())
                .findFirst()
                .map(each -> (each.stays() ? "stays: " : "would go: ") + each.why())
                .orElse("");
    }

    /** The one that takes most, own and shared together; the bars go by it. */
    long largest() {
        return generations().stream()
                .mapToLong(each -> each.own().bytes() + each.shared().bytes())
                .max()
                .orElse(1);
    }

    /** The room of the coming year. */
    List<VaultForecast.Point> ahead(LocalDate today, Retention rule) {
        return VaultForecast.of(
                generations().stream()
                        .map(each -> new VaultForecast.Generation(
                                each.copy().proven(),
                                each.copy().before(),
                                each.own(),
                                ByteSize.of(each.copy().bytes())))
                        .toList(),
                strata.room(board.id()).all(),
                today,
                board.facts().due().date(),
                board.facts().due().allowed(),
                rule);
    }
}
