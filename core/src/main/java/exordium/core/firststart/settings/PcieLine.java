// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.settings;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;

/**
 * The line of a settings file that switches PCIe on. A carrier that does not announce itself needs it beside probing in the chip's settings:
 * people set both (common practice, no source).
 */
public final class PcieLine {
    public static final String PARAM = "dtparam";
    public static final String PCIE = "pciex1";

    private PcieLine() {}

    public static boolean isIn(SettingsDocument settings) {
        return settings.sets(PARAM, PCIE) || settings.sets(PARAM, PCIE + "=on");
    }

    /** For a drive in such a carrier, where the line is missing; the board starts, by what its firmware sees. */
    public static Finding missing() {
        return Finding.caution(
                        "pcie-line-missing",
                        "The drive on PCIe sits in a carrier that does not announce itself, and no line " + PARAM + "="
                                + PCIE
                                + " stands in the settings file: people set both, probing in the chip and this line,"
                                + " and without it the running system may not see the drive.",
                        Basis.practice())
                .mendAt(Step.FIRST_START);
    }
}
