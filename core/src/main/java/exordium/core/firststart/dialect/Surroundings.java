// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;

/**
 * What a first start has to fit in with besides the medium.
 *
 * @param memory of the board, where it is known
 * @param mac its hardware address, empty where nobody knows it
 * @param nvme whether a drive sits on its PCIe
 * @param silentCarrier whether that one's carrier does not announce itself
 * @param others names and addresses of all other boards
 * @param freeTail percent of a medium the house leaves free at its end
 */
public record Surroundings(
        Optional<ByteSize> memory,
        String mac,
        boolean nvme,
        boolean silentCarrier,
        List<Neighbour> others,
        int freeTail) {
    public static final Surroundings UNKNOWN = new Surroundings(Optional.empty(), "", false, false, List.of(), 0);

    public Surroundings {
        others = List.copyOf(others);
    }

    /** Another board, as far as it is known how it is reached. */
    public record Neighbour(String board, Optional<String> hostName, Optional<String> address) {}
}
