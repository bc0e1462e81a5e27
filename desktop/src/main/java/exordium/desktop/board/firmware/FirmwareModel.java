// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.firmware.FirmwareRelease;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.Desk;
import java.util.List;

/** The releases known for a board's family, oldest first. */
public record FirmwareModel(OpenedBoard board, List<FirmwareRelease> releases) implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static FirmwareModel read(Desk house, OpenedBoard board) {
        return new FirmwareModel(
                board, house.workbench().firmware().of(board.at().profile().id()));
    }
}
