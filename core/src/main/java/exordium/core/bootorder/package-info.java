// SPDX-License-Identifier: Apache-2.0
/**
 * The start order in its four dialects behind one interface.
 *
 * <p>In: the value as the board stores it. Out: sources in the order they are tried, and back. Uses board.
 */
package exordium.core.bootorder;
