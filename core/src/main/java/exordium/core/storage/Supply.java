// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.quantity.Watts;
import java.util.Locale;

/** What feeds the board; via is adapter, poe-af, poe-at or poe-bt. */
public record Supply(double volts, double amps, String via) {

    /**
     * What reaches the board: the least of what the adapter or splitter gives and, over Ethernet, what the class allows at the
     * device (IEEE 802.3).
     */
    public Watts power() {
        Watts own = Watts.of(volts, amps);
        Watts most =
                switch (via) {
                    case "poe-af" -> new Watts(12.95);
                    case "poe-at" -> new Watts(25.5);
                    case "poe-bt" -> new Watts(51);
                    default -> own;
                };
        return own.compareTo(most) < 0 ? own : most;
    }

    public String title() {
        return via.startsWith("poe")
                ? "Power over Ethernet, " + via.substring(4)
                : String.format(Locale.ROOT, "%.0f V x %.1f A", volts, amps);
    }
}
