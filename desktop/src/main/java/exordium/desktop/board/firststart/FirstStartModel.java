// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.rehearsal.MediumContents;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.Desk;
import java.io.IOException;
import java.util.Optional;

/** What is on the medium a board's first start is written to. */
public record FirstStartModel(OpenedBoard board, Optional<MediumContents> contents) implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static FirstStartModel read(Desk house, OpenedBoard board) throws IOException {
        return new FirstStartModel(board, house.benches().mainContents(board.at()));
    }
}
