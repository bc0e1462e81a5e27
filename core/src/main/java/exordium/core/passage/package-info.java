// SPDX-License-Identifier: Apache-2.0
/**
 * From a wish to a running board: the deeds there are, each with what it needs, brings about, costs and is proven by, and the
 * cheapest ways through them. Knows what a board and its media are like and plans with that alone; touches no bytes. Every state in
 * which a board is switched on is rehearsed. Uses the rooms before it; none of them knows it.
 */
package exordium.core.passage;
