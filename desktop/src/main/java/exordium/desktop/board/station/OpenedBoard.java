// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.station;

import exordium.core.daysheet.BoardFacts;
import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.DaySheet;
import exordium.desktop.desk.House;
import exordium.jobs.bench.Workbench;
import exordium.jobs.passage.UnderWay;
import exordium.store.Media;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** A board as all its stations know it; what one station shows beyond this is in its own model. */
public record OpenedBoard(
        Workbench.BoardAtHand at,
        BoardFacts facts,
        BoardRow state,
        Optional<Media.Medium> medium,
        Optional<UnderWay> passage) {

    /** The board as it is now; not to be called on the interface thread. */
    public static OpenedBoard read(House house, String id) throws IOException {
        Workbench.BoardAtHand at = house.workbench().board(id);
        BoardFacts facts = house.sheets().facts(at);
        return new OpenedBoard(
                at,
                facts,
                DaySheet.of(List.of(facts)).board(id),
                house.workbench().mainMedium(at),
                UnderWay.of(house.workbench()).stream()
                        .filter(each -> each.board().equals(id))
                        .findFirst());
    }

    public String id() {
        return at.register().id();
    }

    public String name() {
        return at.register().name();
    }
}
