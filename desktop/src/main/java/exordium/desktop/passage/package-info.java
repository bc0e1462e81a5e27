// SPDX-License-Identifier: Apache-2.0
/** What is wished for a board: the ways to it side by side, and the job card of the one that was begun. */
package exordium.desktop.passage;
