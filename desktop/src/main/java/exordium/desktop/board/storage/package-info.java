// SPDX-License-Identifier: Apache-2.0
/** The storage station: candidates, roles, what would have to change; view and model. */
package exordium.desktop.board.storage;
