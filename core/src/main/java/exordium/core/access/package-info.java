// SPDX-License-Identifier: Apache-2.0
/**
 * How one gets at a board: what it is at this moment, and what can be done to it. In: profiles, firmware. Out: a board's state.
 * Simulated boards are one way to get at one; boards read off and told by hand, or reached by a login, are others.
 */
package exordium.core.access;
