// SPDX-License-Identifier: Apache-2.0
/** Firmware of a board: judged, staged. In: bench and run. Out: what is staged, its row and its words. */
package exordium.jobs.firmware;
