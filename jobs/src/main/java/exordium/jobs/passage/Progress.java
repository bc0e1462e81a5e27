// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.quantity.Coded;

/** How far a step of a passage is. */
public enum Progress implements Coded {
    DONE,
    NEXT,
    OPEN,
    /** It was done, and what showed it does not hold any more. */
    FALLEN
}
