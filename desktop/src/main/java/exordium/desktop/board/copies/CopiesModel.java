// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.MediumContents;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.Desk;
import exordium.store.Copies;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** A board's copies, oldest first, and what the next one would be made of. */
public record CopiesModel(OpenedBoard board, Bench bench, Optional<MediumContents> contents, List<Copies.Copy> copies)
        implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static CopiesModel read(Desk house, OpenedBoard board) throws IOException {
        return new CopiesModel(
                board,
                house.benches().of(board.at()),
                house.benches().mainContents(board.at()),
                house.workbench().records().copiesOf(board.id()));
    }
}
