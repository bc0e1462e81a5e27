// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.List;
import java.util.Optional;

/**
 * What may lead to a wish.
 *
 * @param already that there is nothing to do
 * @param why there is no way, where none is found; saysWhy: whether that says more than that the board does not start now
 */
record Offered(List<Scheme> schemes, Optional<String> already, String why, boolean saysWhy) {
    static Offered none(String why) {
        return new Offered(List.of(), Optional.empty(), why, true);
    }

    static Offered done(String already) {
        return new Offered(List.of(), Optional.of(already), "", false);
    }

    static Offered of(List<Scheme> schemes, String why) {
        return new Offered(schemes, Optional.empty(), why, false);
    }

    /** The same where the reason is about the board as it would be. */
    Offered sayingWhy() {
        return new Offered(schemes, already, why, true);
    }
}
