// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.quantity.Watts;
import java.util.Locale;

/** What feeds the board; via is adapter, poe-af, poe-at or poe-bt. */
public record Supply(double volts, double amps, String via) {

    /** What reaches the board; Power over Ethernet by its class (IEEE 802.3, power at the device). */
    public Watts power() {
        return switch (via) {
            case "poe-af" -> new Watts(12.95);
            case "poe-at" -> new Watts(25.5);
            case "poe-bt" -> new Watts(51);
            default -> Watts.of(volts, amps);
        };
    }

    public String title() {
        return via.startsWith("poe")
                ? "Power over Ethernet, " + via.substring(4)
                : String.format(Locale.ROOT, "%.0f V x %.1f A", volts, amps);
    }
}
