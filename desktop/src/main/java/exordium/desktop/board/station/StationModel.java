// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.desktop.desk.House;
import java.io.IOException;

/** What one station shows of one board, read together off the interface thread. */
public interface StationModel {
    OpenedBoard board();

    /** Reads a station's model of a board; not to be called on the interface thread. */
    interface Reader<M extends StationModel> {
        M read(House house, OpenedBoard board) throws IOException;
    }
}
