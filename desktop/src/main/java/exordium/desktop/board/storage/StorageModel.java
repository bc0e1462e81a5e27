// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.storage;

import exordium.core.storage.media.MediumKind;
import exordium.core.storage.plan.StorageChoice;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.jobs.storage.StorageQuestion;
import exordium.store.Images;
import exordium.store.Media;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What is up for choice for a board.
 *
 * @param media all of the drawer
 * @param candidates those that are free or in this board
 * @param offered what shops have
 * @param inServiceAt the name of the board a drive is in, by the drive's file
 */
public record StorageModel(
        OpenedBoard board,
        List<Media.Medium> media,
        List<MediumKind.Medium> candidates,
        List<MediumKind.Medium> offered,
        Map<String, String> inServiceAt,
        List<Images.Image> images,
        StorageChoice choice)
        implements StationModel {

    /** What the station shows now; not to be called on the interface thread. */
    public static StorageModel read(House house, OpenedBoard board) throws IOException {
        StorageQuestion question = new StorageQuestion(house.workbench());
        return new StorageModel(
                board,
                house.workbench().records().media(),
                question.candidates(board.at()),
                house.workbench().media().offered(),
                house.workbench().inServiceAt(),
                house.workbench().records().images(),
                question.choice(board.at(), question.role(board.at()), Optional.empty()));
    }
}
