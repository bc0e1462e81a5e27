// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.rehearsal.Bench;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.Desk;
import java.io.IOException;

/** What a board's order is tried on: everything that is plugged in. */
public record OrderModel(OpenedBoard board, Bench bench) implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static OrderModel read(Desk house, OpenedBoard board) throws IOException {
        return new OrderModel(board, house.benches().of(board.at()));
    }
}
