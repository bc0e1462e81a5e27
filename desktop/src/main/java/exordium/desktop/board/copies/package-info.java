// SPDX-License-Identifier: Apache-2.0
/** The copies station: past and coming copies of a board. */
package exordium.desktop.board.copies;
