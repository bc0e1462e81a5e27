// SPDX-License-Identifier: Apache-2.0
/**
 * What is done to one board: firmware and order staged, restarted, switched off, plugged, its start partition edited. In: bench and run.
 * Out: the board as it is then.
 */
package exordium.jobs.board;
