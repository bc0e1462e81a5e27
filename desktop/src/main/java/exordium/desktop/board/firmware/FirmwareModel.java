// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareAdvice;
import exordium.core.firmware.FirmwareRelease;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.firmware.FirmwareFacts;
import exordium.jobs.firmware.FirmwareJob;
import java.io.IOException;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What is known of a board's firmware.
 *
 * @param releases of its family, oldest first
 * @param plans what is to be said of each release, by its date
 * @param targets drives a recovery card can be made of; none where its family has no chip
 */
public record FirmwareModel(
        OpenedBoard board,
        List<FirmwareRelease> releases,
        Map<LocalDate, List<Finding>> plans,
        FirmwareAdvice advice,
        List<Targets.Target> targets)
        implements StationModel {
    /** What the station shows now; not to be called on the interface thread. */
    public static FirmwareModel read(House house, OpenedBoard board) throws IOException {
        List<FirmwareRelease> releases =
                house.workbench().firmware().of(board.at().profile().id());
        FirmwareJob job = new FirmwareJob(house.workbench());
        Map<LocalDate, List<Finding>> plans = new HashMap<>();
        releases.forEach(release -> plans.put(release.version(), job.plan(board.at(), release)));
        return new FirmwareModel(
                board,
                releases,
                plans,
                new FirmwareFacts(house.workbench(), house.benches()).advice(board.at()),
                new TargetHistory(house.workbench()).free(house.targets()));
    }
}
