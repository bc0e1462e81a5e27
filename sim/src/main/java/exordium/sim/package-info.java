// SPDX-License-Identifier: Apache-2.0
/**
 * Stand-ins that ship: virtual drives with faults and speeds, virtual boards with a firmware chip.
 *
 * <p>In: descriptions in YAML. Out: the same interfaces real things have. Uses core alone.
 */
package exordium.sim;
