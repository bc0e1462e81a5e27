// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.writing.TransferMeter;
import java.util.Optional;
import java.util.Set;

/**
 * What runs now.
 *
 * @param board whose station shows it
 * @param target the drive it writes to
 * @param inHand drives that nobody else may change meanwhile
 */
public record RunningJob(String title, String board, Optional<String> target, Set<String> inHand, TransferMeter meter) {
    /** Whether it has any of these drives in hand. */
    boolean holds(Set<String> drives) {
        return drives.stream().anyMatch(inHand::contains);
    }
}
