// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.daysheet.BoardRow;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardRegister;
import exordium.store.Boards;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ListView;
import org.junit.jupiter.api.Test;

/** A house of more boards than stand below each other: only those that are seen are laid out, and the sheet is narrowed. */
class LargeHouseTest extends WindowCase {
    private static final int BOARDS = 60;
    private static final List<String> PLACES = List.of("Hall", "Loft", "Mast");

    @Override
    Workbench furnish() throws IOException {
        workbench = DemoHouse.empty(own);
        for (int i = 0; i < BOARDS; i++) {
            String name = String.format(Locale.ROOT, "Exhibit %02d", i);
            new BoardRegister(workbench).add(BoardRegister.Description.of(name, "plover-4", "4 GB"));
            Boards.Board made = workbench.workspace().boards().all().get(i);
            workbench
                    .workspace()
                    .boards()
                    .change(new Boards.Board(
                            made.id(),
                            made.name(),
                            PLACES.get(i % PLACES.size()),
                            made.profile(),
                            made.channel(),
                            made.lightlyUsed(),
                            made.slotReachable(),
                            made.dailyWrites(),
                            made.way(),
                            made.note()));
        }
        return workbench;
    }

    private List<String> rows() {
        return Hand.on(() -> ((ListView<?>) hand.see("sheet-rows"))
                .getItems().stream().map(each -> ((BoardRow) each).id()).toList());
    }

    private long laidOut() {
        return Hand.on(() -> stage.getScene().getRoot().lookupAll(".sheet-row").size());
    }

    @Test
    void onlyWhatIsSeenIsLaidOutAndTheSheetIsNarrowed() {
        ready();
        hand.until("all boards are in it", () -> rows().size() == BOARDS);
        assertThat(laidOut()).isLessThan(BOARDS / 2);
        hand.click("narrow-text");
        hand.type("loft 1");
        hand.until("words narrow it", () -> rows().equals(
                        List.of("exhibit-01", "exhibit-10", "exhibit-13", "exhibit-16", "exhibit-19", "exhibit-31")));
        hand.untilPageSays("6 of 60");
        hand.fill("narrow-text", "");
        Hand.on(() -> hand.<Optional<String>>box("narrow-place").setValue(Optional.of("Mast")));
        hand.until("a place narrows it", () -> rows().size() == BOARDS / PLACES.size());
        Hand.on(() -> ((CheckBox) hand.see("narrow-needing")).fire());
        hand.until("what needs nothing goes", () -> rows().size() <= BOARDS / PLACES.size());
        hand.click("cell-exhibit-02-storage");
        hand.until("its page is open", () -> hand.page().contains("Saltmarsh plover-4, 4 GB"));
    }
}
