// SPDX-License-Identifier: Apache-2.0
/** The order station: digits and places, two orders compared; view and model. */
package exordium.desktop.board.order;
