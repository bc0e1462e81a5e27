// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;

/**
 * How what is known of a board by hand is known, and what was seen at it beside its firmware and order.
 *
 * @param firmware how its release is known; empty for a board that is read
 * @param order how its start order is known; empty for a board that is read
 * @param root the device that held {@code /}
 * @param started the port it started from
 * @param trouble what went wrong, when it did not start; gone once it was told to have started
 */
public record Told(
        Optional<Known> firmware,
        Optional<Known> order,
        Optional<Seen> root,
        Optional<Seen> started,
        Optional<Seen> trouble) {

    /** For a board that is read. */
    public static final Told NOTHING =
            new Told(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());

    /** What somebody saw at the board, and when it was told. */
    public record Seen(String what, Instant at) {}

    /** What a user tells after looking at the board; each part may be left out. */
    public record Telling(
            Optional<LocalDate> firmware,
            Optional<String> order,
            Optional<String> root,
            Optional<String> started,
            Optional<String> trouble) {
        public boolean isEmpty() {
            return firmware.isEmpty() && order.isEmpty() && root.isEmpty() && started.isEmpty() && trouble.isEmpty();
        }
    }

    /** For a new board by hand: what was not told is a default. */
    public static Told fresh(boolean firmwareTold, boolean orderTold, Instant now) {
        return new Told(
                Optional.of(firmwareTold ? Known.told(now) : Known.byDefault(now)),
                Optional.of(orderTold ? Known.told(now) : Known.byDefault(now)),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /** With what was told now in place of what was known before. */
    public Told with(Telling telling, Instant now) {
        Optional<Known> known = Optional.of(Known.told(now));
        Optional<Seen> startedNow = seen(telling.started(), now);
        Optional<Seen> troubleNow = seen(telling.trouble(), now);
        return new Told(
                telling.firmware().isPresent() ? known : firmware,
                telling.order().isPresent() ? known : order,
                telling.root().isPresent()
                        ? seen(telling.root(), now)
                        : troubleNow.isPresent() ? Optional.empty() : root,
                startedNow.isPresent() ? startedNow : troubleNow.isPresent() ? Optional.empty() : started,
                troubleNow.isPresent() ? troubleNow : startedNow.isPresent() ? Optional.empty() : trouble);
    }

    private static Optional<Seen> seen(Optional<String> what, Instant now) {
        return what.map(each -> new Seen(each, now));
    }
}
