// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;

/**
 * Which boards a switch gives power over Ethernet, port by port: what it cannot give it does not switch on (IEEE 802.3, clause 33). What
 * a board may draw at its end is 12.95, 25.5, 51 or 71.3 W by the class of the port.
 */
public final class PortPower {
    private PortPower() {}

    /** Boards that stay off; draws: watts of each, in the order of the ports. */
    public static Set<String> off(double budget, Map<String, Double> draws) {
        Set<String> off = new LinkedHashSet<>();
        double given = 0;
        for (Map.Entry<String, Double> each : draws.entrySet()) {
            if (given + each.getValue() > budget) {
                off.add(each.getKey());
            } else {
                given += each.getValue();
            }
        }
        return off;
    }
}
