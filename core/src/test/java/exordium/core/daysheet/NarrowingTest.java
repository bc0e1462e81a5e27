// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.access.BoardWays;
import exordium.core.finding.Step;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class NarrowingTest {
    private static final DaySheet SHEET = new DaySheet(
            List.of(
                    board("tide-clock", "Tide clock", "Hall", Pennant.PROVEN),
                    board("ticket-desk", "Ticket desk", "Hall", Pennant.DUE),
                    board("mast-webcam", "Mast webcam", "Mast", Pennant.FAILING),
                    board("spare", "Store-room spare", "Store", Pennant.UNKNOWN)),
            List.of(task("mast-webcam", Pennant.FAILING), task("ticket-desk", Pennant.DUE)));

    private static BoardRow board(String id, String name, String place, Pennant pennant) {
        Cell cell = Cell.of(Step.STORAGE, pennant, "", "");
        return new BoardRow(id, name, place, "plover-4", "4 GB", BoardWays.byHand(), List.of(cell));
    }

    private static Task task(String board, Pennant pennant) {
        return new Task(board, Step.STORAGE, pennant, "", "", "");
    }

    private static List<String> shown(String text, String place, boolean needing) {
        Narrowing narrowing = new Narrowing(text, Optional.of(place).filter(each -> !each.isEmpty()), needing);
        return narrowing.of(SHEET).boards().stream().map(BoardRow::id).toList();
    }

    @Test
    void everyWordTypedStandsSomewhere() {
        assertThat(shown("", "", false)).hasSize(4);
        assertThat(shown("tide", "", false)).containsExactly("tide-clock");
        assertThat(shown(" HALL  de ", "", false)).containsExactly("tide-clock", "ticket-desk");
        assertThat(shown("hall desk", "", false)).containsExactly("ticket-desk");
        assertThat(shown("plover-4", "Mast", false)).containsExactly("mast-webcam");
        assertThat(shown("heron", "", false)).isEmpty();
    }

    @Test
    void whatNeedsSomethingIsDueOrFails() {
        assertThat(shown("", "", true)).containsExactly("ticket-desk", "mast-webcam");
        assertThat(shown("", "Hall", true)).containsExactly("ticket-desk");
        assertThat(new Narrowing("", Optional.of("Hall"), false).of(SHEET).tasks())
                .extracting(Task::board)
                .containsExactly("ticket-desk");
        assertThat(Narrowing.places(SHEET)).containsExactly("Hall", "Mast", "Store");
    }
}
