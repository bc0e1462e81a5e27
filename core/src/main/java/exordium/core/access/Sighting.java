// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.time.LocalDate;
import java.util.Optional;

/**
 * What one look at a board showed, whoever looked; each part may be left out.
 *
 * @param firmware the release it runs
 * @param order its start order, as it is stored there
 * @param root the device that held {@code /}
 * @param started the port it started from
 * @param trouble what went wrong, when it did not start
 */
public record Sighting(
        Optional<LocalDate> firmware,
        Optional<String> order,
        Optional<String> root,
        Optional<String> started,
        Optional<String> trouble) {
    public boolean isEmpty() {
        return firmware.isEmpty() && order.isEmpty() && root.isEmpty() && started.isEmpty() && trouble.isEmpty();
    }
}
