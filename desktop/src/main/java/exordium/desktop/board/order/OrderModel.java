// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.board.BoardProfile;
import exordium.core.multiboot.StartSets;
import exordium.core.rehearsal.Bench;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.jobs.multiboot.SetsJob;
import exordium.store.Media;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a board's order is tried on: everything that is plugged in; and its start sets.
 *
 * @param tried name of the set that is tried once
 * @param media those that go into each port
 */
public record OrderModel(
        OpenedBoard board,
        Bench bench,
        List<SetsJob.Proven> sets,
        Optional<String> tried,
        Map<String, List<Media.Medium>> media)
        implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static OrderModel read(House house, OpenedBoard board) throws IOException {
        SetsJob job = new SetsJob(house.workbench(), house.benches());
        BoardProfile profile = board.at().profile();
        return new OrderModel(
                board,
                house.benches().of(board.at()),
                job.proven(board.at()),
                job.of(board.id()).fallback().map(StartSets.Fallback::set),
                job.media(profile));
    }
}
