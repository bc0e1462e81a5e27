// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * One way a wish may be met, before its steps are known: with which medium, in which port, from what.
 *
 * @param target the medium that is written, port where it goes, source what goes onto it
 * @param deeds those that may be of use
 * @param orders start orders that may be set, the house's first
 * @param release of the firmware
 * @param goal when the wish is met
 */
record Scheme(
        Optional<String> target,
        Optional<String> port,
        Optional<String> source,
        Set<Deed> deeds,
        List<String> orders,
        Optional<LocalDate> release,
        Goal goal) {

    /** When a wish is met. */
    interface Goal {
        /** Where starts: what the board would do as things stand. */
        boolean met(Situation now, Starts starts);
    }

    boolean allows(Deed deed) {
        return deeds.contains(deed);
    }
}
