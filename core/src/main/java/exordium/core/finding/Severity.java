// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import exordium.core.quantity.Coded;

/** How much a finding weighs; the order is from worst to least. */
public enum Severity implements Coded {
    /** It must not go on, or would not work. */
    STOP,
    /** It works, with a price or a risk that should be known. */
    CAUTION,
    /** Worth knowing. */
    NOTE;
}
