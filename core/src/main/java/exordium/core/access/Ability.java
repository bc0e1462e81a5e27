// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

/** What a way to a board can do by itself; what it cannot is a step for the board's user. */
public enum Ability {
    /** Everything about the board is read whenever it is asked for: nothing is ever told of it. */
    ALWAYS_READ,
    /** Looks at the board when asked and brings back what it shows. */
    LOOK,
    /** Puts settings and releases down there for the next restart. */
    STAGE,
    RESTART,
    SWITCH_OFF,
    /** Lets the power fail in the middle of a restart. */
    CUT_POWER,
    /** Writes the firmware chip itself; what stands in for a maker's file is enough for it. */
    WRITE_CHIP,
    /** Sets the bit of one-time memory. */
    SET_BIT
}
