// SPDX-License-Identifier: Apache-2.0
/** The rehearsal station: the bench, what if, the trace; view and model. */
package exordium.desktop.board.rehearsal;
