// SPDX-License-Identifier: Apache-2.0
/** What every station is, and what it knows of its board. */
package exordium.desktop.board.station;
