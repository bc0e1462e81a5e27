// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.quantity.Coded;

/** How one gets at a board. */
public enum Reach implements Coded {
    /** The program plays it: what it is, is read this moment, and deeds take effect by themselves. */
    SIMULATED,
    /** The user acts at it: deeds are steps to do there, and what is known of it was told. */
    BY_HAND
}
