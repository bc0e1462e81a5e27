// SPDX-License-Identifier: Apache-2.0
/** The image station: what is written to what, the name typed, soundings, report; view and model. */
package exordium.desktop.board.image;
