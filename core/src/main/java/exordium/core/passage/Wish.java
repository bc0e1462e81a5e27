// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.finding.BadArgument;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.Coded;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What somebody wants of a board.
 *
 * @param value of an order: as the board stores it; of a batch: how many
 */
public record Wish(Kind kind, Optional<String> value) {
    /** Cards of a class, where nobody says how many. */
    public static final int CLASS = 10;
    /** More than these nobody writes in one go. */
    private static final int MOST = 40;

    /** The wishes there are, as people say them. */
    public enum Kind implements Coded {
        NEW_BOARD("a new board that runs"),
        TO_USB_SSD("from its card to an SSD on USB"),
        TO_NVME("from its card to NVMe"),
        TO_LARGER("to a larger medium"),
        TO_SMALLER("to a smaller medium"),
        SPARE("a spare that stays with the board"),
        FIRMWARE("newer firmware"),
        REVIVE("its broken firmware made whole"),
        ORDER("another start order, with a way back"),
        READ_ONLY("read-only for the season"),
        NETWORK("start over the network"),
        SEVERAL_SYSTEMS("a second system beside its own"),
        ON_BOARD("a system onto its on-board storage"),
        BATCH("cards for a class"),
        PUT_BACK("back from its newest copy"),
        RETIRE("retired: archived, then cleared");

        private final String title;

        Kind(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    public static Wish of(Kind kind) {
        return new Wish(kind, Optional.empty());
    }

    /**
     * As it is typed: {@code to-nvme}, {@code order=0xf416}, {@code batch=4}.
     *
     * @throws UnreadableInput when it is none; the nearest one is named
     */
    public static Wish parse(String text) throws UnreadableInput {
        String said = text.strip().toLowerCase(Locale.ROOT);
        int equals = said.indexOf('=');
        String name = equals < 0 ? said : said.substring(0, equals).strip();
        Optional<String> value = equals < 0
                ? Optional.empty()
                : Optional.of(text.strip().substring(equals + 1).strip());
        Kind kind = Arrays.stream(Kind.values())
                .filter(each -> each.code().equals(name))
                .findFirst()
                .orElseThrow(() -> unknown(text));
        if (value.isPresent() && kind != Kind.ORDER && kind != Kind.BATCH) {
            throw new BadArgument(
                    "The wish " + kind.code() + " takes no value; leave out \"=" + value.get() + "\".", text);
        }
        if (kind == Kind.ORDER && value.filter(each -> !each.isEmpty()).isEmpty()) {
            throw new BadArgument("The wish order needs the order, such as order=0xf416.", text);
        }
        Wish wish = new Wish(kind, value);
        if (kind == Kind.BATCH) {
            wish.requireCount(text);
        }
        return wish;
    }

    private void requireCount(String text) throws BadArgument {
        if (value.filter(each -> !each.matches("[1-9][0-9]?") || Integer.parseInt(each) > MOST)
                .isPresent()) {
            throw new BadArgument(
                    "A batch is of 1 to " + MOST + " cards, such as batch=4, not \"" + text + "\".", text);
        }
    }

    /** How many cards. */
    public int count() {
        return value.map(Integer::parseInt).orElse(CLASS);
    }

    /** What {@link #parse} reads again. */
    public String said() {
        return kind.code() + value.map(each -> "=" + each).orElse("");
    }

    /** As people say it. */
    public String title() {
        return kind.title() + value.map(each -> ", " + each).orElse("");
    }

    private static UnknownName unknown(String text) {
        List<String> all = Arrays.stream(Kind.values()).map(Kind::code).toList();
        return new UnknownName(
                "There is no wish \"" + text + "\"; there are " + String.join(", ", all) + ".", text, all);
    }
}
