// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.board.BoardProfile;
import exordium.core.copies.care.Spares;
import exordium.core.finding.NotPossible;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Copies;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Which medium of the drawer a board's next spare is written to. */
public final class SpareJob {
    private final Workbench workbench;
    private final BenchReader benches;

    public SpareJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** The next one first, those that will not do at the end. @throws NotPossible when the board has no medium */
    public List<Spares.Verdict> of(String board) throws IOException {
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        Workbench.BoardAtHand at = workbench.board(board);
        Media.Medium main = Workbench.mainMedium(at, record.media())
                .orElseThrow(() -> new NotPossible(at.register().name() + " has no medium a spare could stand for."));
        ByteSize extent = benches.contents(main, at.profile()).inspection().leastMedium();
        List<String> buses = at.board().attached().stream()
                .filter(plug -> plug.drive().equals(main.file()))
                .findFirst()
                .flatMap(plug -> at.profile().port(plug.port()))
                .map(BoardProfile.Port::buses)
                .orElse(List.of());
        MediaHealth health = MediaHealth.of(workbench, record);
        Map<String, Boards.Board> service = workbench.inService();
        List<Copies.Copy> copies = workbench.workspace().copies().all();
        List<Spares.Medium> drawer = new ArrayList<>();
        for (Media.Listed each : record.media()) {
            if (each.details().state() == Media.State.HERE
                    && !service.containsKey(each.medium().file())) {
                Optional<Copies.Copy> holds = Optional.ofNullable(
                                record.lastWrites().get(each.medium().id()))
                        .flatMap(write -> written(write, copies));
                drawer.add(new Spares.Medium(
                        each.medium().id(),
                        each.medium().name()
                                + (each.details().label().isEmpty()
                                        ? ""
                                        : " " + each.details().label()),
                        each.medium().size(),
                        buses.contains(workbench.kind(each.medium().kind()).bus()),
                        health.of(each, Optional.empty()).replacement(),
                        holds.map(Copies.Copy::board),
                        holds.map(copy -> LocalDate.ofInstant(copy.proven(), workbench.zone())),
                        holdsSomething(each.details().holds())));
            }
        }
        return Spares.of(board, extent, drawer);
    }

    private static boolean holdsSomething(String holds) {
        return !holds.isEmpty() && !holds.equals("nothing");
    }

    private static Optional<Copies.Copy> written(Operations.Operation write, List<Copies.Copy> copies) {
        return copies.stream()
                .filter(copy ->
                        copy.file().substring(copy.file().lastIndexOf('/') + 1).equals(write.image()))
                .findFirst();
    }
}
