// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.Optional;

/**
 * How what is known of a board is known, where it is not read this moment, and what was seen at it beside its firmware and order.
 *
 * @param firmware how its release is known; empty for a board that is read
 * @param order how its start order is known; empty for a board that is read
 * @param root the device that held {@code /}
 * @param started the port it started from
 * @param trouble what went wrong, when it did not start; gone once it was seen to have started
 */
public record Knowledge(
        Optional<Known> firmware,
        Optional<Known> order,
        Optional<Seen> root,
        Optional<Seen> started,
        Optional<Seen> trouble) {

    /** For a board that is read. */
    public static final Knowledge NOTHING =
            new Knowledge(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());

    /**
     * What was seen at the board, and when.
     *
     * @param by how; files of earlier versions leave it out for what was told
     */
    public record Seen(String what, Instant at, @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Known.By> by) {
        public static Seen of(String what, Known known) {
            return new Seen(what, known.at(), Optional.of(known.by()).filter(each -> each != Known.By.TOLD));
        }

        public Known known() {
            return new Known(by.orElse(Known.By.TOLD), at);
        }
    }

    /** For a new board: what was not told is a default. */
    public static Knowledge fresh(boolean firmwareTold, boolean orderTold, Instant now) {
        return new Knowledge(
                Optional.of(firmwareTold ? Known.told(now) : Known.byDefault(now)),
                Optional.of(orderTold ? Known.told(now) : Known.byDefault(now)),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /** With what was seen now in place of what was known before. */
    public Knowledge with(Sighting sighting, Known now) {
        Optional<Seen> startedNow = sighting.started().map(what -> Seen.of(what, now));
        Optional<Seen> troubleNow = sighting.trouble().map(what -> Seen.of(what, now));
        Optional<Seen> rootNow = sighting.root().map(what -> Seen.of(what, now));
        return new Knowledge(
                sighting.firmware().isPresent() ? Optional.of(now) : firmware,
                sighting.order().isPresent() ? Optional.of(now) : order,
                rootNow.isPresent() ? rootNow : troubleNow.isPresent() ? Optional.empty() : root,
                startedNow.isPresent() ? startedNow : troubleNow.isPresent() ? Optional.empty() : started,
                troubleNow.isPresent() ? troubleNow : startedNow.isPresent() ? Optional.empty() : trouble);
    }
}
