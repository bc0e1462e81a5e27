// SPDX-License-Identifier: Apache-2.0
/**
 * What a board will do when it is switched on, computed from the real bytes attached to it.
 *
 * <p>In: a bench of board, firmware, order, supply, media and network. Out: a trace with a reason a step. Uses all before it.
 */
package exordium.core.rehearsal;
