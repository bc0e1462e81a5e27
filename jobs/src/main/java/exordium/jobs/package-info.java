// SPDX-License-Identifier: Apache-2.0
/**
 * The jobs of the house, the same for window and command line: each plans with core, touches drives and boards, and
 * puts down in the registers and the logbook what happened.
 *
 * <p>In: a workspace and what the user asked for. Out: reports, and the day sheet. Uses core, store and sim.
 */
package exordium.jobs;
