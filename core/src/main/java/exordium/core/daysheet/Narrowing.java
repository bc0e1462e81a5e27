// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What of a day sheet is shown.
 *
 * @param text words of which each stands in a board's name, id, place or family; empty for all
 * @param place the one place; empty for all
 * @param needing only boards at which something is to be done
 */
public record Narrowing(String text, Optional<String> place, boolean needing) {
    public static final Narrowing NONE = new Narrowing("", Optional.empty(), false);

    public boolean shows(BoardRow board) {
        String all = String.join("\n", board.name(), board.id(), board.place(), board.profile())
                .toLowerCase(Locale.ROOT);
        return place.map(board.place()::equals).orElse(true)
                && (!needing || board.worst().weight() >= Pennant.DUE.weight())
                && Arrays.stream(text.toLowerCase(Locale.ROOT).strip().split("\\s+"))
                        .allMatch(all::contains);
    }

    /** The sheet with those boards alone, and what is to be done at them. */
    public DaySheet of(DaySheet whole) {
        if (equals(NONE)) {
            return whole;
        }
        List<BoardRow> boards = whole.boards().stream().filter(this::shows).toList();
        List<String> ids = boards.stream().map(BoardRow::id).toList();
        return new DaySheet(
                boards,
                whole.tasks().stream()
                        .filter(task -> ids.contains(task.board()))
                        .toList());
    }

    /** The places there are, in the sheet's order. */
    public static List<String> places(DaySheet sheet) {
        return sheet.boards().stream().map(BoardRow::place).distinct().toList();
    }
}
