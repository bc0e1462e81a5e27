// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board;

import exordium.core.finding.Step;
import exordium.desktop.board.copies.CopiesModel;
import exordium.desktop.board.copies.CopiesStation;
import exordium.desktop.board.firmware.FirmwareModel;
import exordium.desktop.board.firmware.FirmwareStation;
import exordium.desktop.board.firststart.FirstStartModel;
import exordium.desktop.board.firststart.FirstStartStation;
import exordium.desktop.board.image.ImageModel;
import exordium.desktop.board.image.ImageStation;
import exordium.desktop.board.order.OrderModel;
import exordium.desktop.board.order.OrderStation;
import exordium.desktop.board.rehearsal.RehearsalModel;
import exordium.desktop.board.rehearsal.RehearsalStation;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.Station;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.board.storage.StorageModel;
import exordium.desktop.board.storage.StorageStation;
import exordium.desktop.desk.House;
import java.io.IOException;
import java.util.function.BiFunction;

/** How a step's station is read and opened. */
record StationKind<M extends StationModel>(StationModel.Reader<M> reader, BiFunction<House, M, Station<M>> opener) {
    static StationKind<?> of(Step step) {
        return switch (step) {
            case STORAGE -> new StationKind<>(StorageModel::read, StorageStation::new);
            case IMAGE -> new StationKind<>(ImageModel::read, ImageStation::new);
            case FIRST_START -> new StationKind<>(FirstStartModel::read, FirstStartStation::new);
            case FIRMWARE -> new StationKind<>(FirmwareModel::read, FirmwareStation::new);
            case ORDER -> new StationKind<>(OrderModel::read, OrderStation::new);
            case REHEARSAL -> new StationKind<>(RehearsalModel::read, RehearsalStation::new);
            case COPIES -> new StationKind<>(CopiesModel::read, CopiesStation::new);
        };
    }

    /** Not to be called on the interface thread. */
    M read(House house, String board) throws IOException {
        return reader.read(house, OpenedBoard.read(house, board));
    }

    Station<M> open(House house, M model) {
        return opener.apply(house, model);
    }
}
