// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.Surroundings;
import exordium.core.firststart.intents.Intents;
import exordium.core.rehearsal.Reach;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.firststart.IntentSets;
import exordium.jobs.firststart.Neighbours;
import exordium.jobs.firststart.ReachCheck;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What a board's first start is planned from.
 *
 * @param files all files of its medium a first start may change; empty where there is no start partition
 * @param kept what was set up for it last
 * @param undo what the logbook could take back, in its own words
 * @param images on the shelf, and targets: what cards of a batch are written from and to
 */
public record FirstStartModel(
        OpenedBoard board,
        Optional<FirstStartFiles> files,
        Optional<Reach> reach,
        Surroundings around,
        Optional<Intents> kept,
        List<String> sets,
        Optional<String> undo,
        List<Path> images,
        List<Targets.Target> targets)
        implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static FirstStartModel read(House house, OpenedBoard board) throws IOException {
        Workbench workbench = house.workbench();
        Optional<MediumContents> contents = house.benches().mainContents(board.at());
        boolean start = contents.flatMap(MediumContents::start).isPresent();
        Neighbours neighbours = new Neighbours(workbench, house.benches());
        List<Targets.Target> targets = new ArrayList<>();
        for (Targets.Target target : house.targets().all(workbench.drives())) {
            if (target.description().refusals().isEmpty()) {
                targets.add(target);
            }
        }
        Optional<String> undo = undo(workbench, board);
        return new FirstStartModel(
                board,
                start ? house.benches().mainFiles(board.at()) : Optional.empty(),
                start ? new ReachCheck(workbench, house.benches()).of(board.at()) : Optional.empty(),
                neighbours.around(Optional.of(board.id())),
                neighbours.kept(board.id()),
                new IntentSets(workbench.folder()).names(),
                undo,
                workbench.records().images().stream()
                        .map(image -> workbench.images().resolve(image.file()))
                        .toList(),
                targets);
    }

    /** A medium that is away has nothing taken back on it. */
    private static Optional<String> undo(Workbench workbench, OpenedBoard board) throws IOException {
        try {
            return board.medium().isPresent()
                    ? new FirstStartJob(workbench)
                            .last(board.medium().get().file())
                            .map(entry -> entry.text())
                    : Optional.empty();
        } catch (UnreadableInput | NotPossible e) {
            return Optional.empty();
        }
    }
}
