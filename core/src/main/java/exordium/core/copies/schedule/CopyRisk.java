// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.schedule;

import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.media.Replacement;
import exordium.core.storage.media.Wear;
import java.util.Optional;

/**
 * What makes copies of a board due sooner than the house's days: a medium near its end, much that is written, little that may be
 * lost. The bounds are common practice, no source.
 *
 * @param days that a copy covers, fewer than usual
 * @param reason one sentence
 */
public record CopyRisk(int days, String reason) {
    private static final int WHILE_FAILING = 7;
    private static final ByteSize MUCH = ByteSize.ofGigabytes(10);

    /**
     * What is known of a board.
     *
     * @param worn share of what the medium bears
     * @param role what the board is for, where somebody said it
     */
    public record Known(Optional<Replacement> replacement, double worn, ByteSize dailyWrites, Optional<Role> role) {
        public static final Known NOTHING = new Known(Optional.empty(), 0, ByteSize.ZERO, Optional.empty());
    }

    /** The risk that leaves fewest days; empty where none leaves fewer than the usual ones. */
    public static Optional<CopyRisk> of(int usual, Known known) {
        Optional<CopyRisk> least = Optional.empty();
        least = less(usual, least, medium(usual, known));
        least = less(usual, least, writes(usual, known));
        return less(usual, least, lost(known));
    }

    private static Optional<CopyRisk> less(int usual, Optional<CopyRisk> least, Optional<CopyRisk> next) {
        int most = least.map(CopyRisk::days).orElse(usual);
        return next.filter(risk -> risk.days() < most).or(() -> least);
    }

    private static Optional<CopyRisk> medium(int usual, Known known) {
        if (known.replacement().filter(Replacement::due).isPresent()) {
            return Optional.of(new CopyRisk(
                    WHILE_FAILING,
                    "Its medium is to be replaced: " + known.replacement().get().reason()));
        }
        if (known.replacement().filter(Replacement::soon).isPresent()) {
            return Optional.of(new CopyRisk(
                    half(usual),
                    "Its medium is to be replaced by "
                            + known.replacement().get().date() + ": "
                            + known.replacement().get().reason()));
        }
        return Wear.going(known.worn())
                ? Optional.of(new CopyRisk(
                        half(usual),
                        "Its medium has had " + Math.round(known.worn() * 100) + " % of the writes it bears."))
                : Optional.empty();
    }

    private static Optional<CopyRisk> writes(int usual, Known known) {
        return known.dailyWrites().compareTo(MUCH) >= 0
                ? Optional.of(new CopyRisk(
                        half(usual), "It writes " + known.dailyWrites().said() + " a day."))
                : Optional.empty();
    }

    private static Optional<CopyRisk> lost(Known known) {
        return known.role()
                .filter(role -> role.habit().records())
                .map(role -> new CopyRisk(
                        Math.max(1, role.lostDays()),
                        "It " + role.habit().title() + ", and at most " + role.lostDays()
                                + " days of that may be lost."));
    }

    private static int half(int days) {
        return Math.max(1, days / 2);
    }
}
