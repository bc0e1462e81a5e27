// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.rehearsal;

import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.faults.SingleFaults;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import java.io.IOException;

/** The bench a board's start is rehearsed on. */
public record RehearsalModel(OpenedBoard board, Bench bench, SingleFaults faults) implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static RehearsalModel read(House house, OpenedBoard board) throws IOException {
        Bench bench = house.benches().of(board.at());
        return new RehearsalModel(board, bench, SingleFaults.of(bench));
    }
}
