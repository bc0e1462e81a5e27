// SPDX-License-Identifier: Apache-2.0
/** A small network that ships: a server that answers by its own files, a switch, faults in both, and starts in simulated time. */
package exordium.sim.network;
