// SPDX-License-Identifier: Apache-2.0
/** The first start station: intents, and the files as they would be. */
package exordium.desktop.board.firststart;
