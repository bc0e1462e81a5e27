// SPDX-License-Identifier: Apache-2.0
/** A board's page: its name, its start line, and the station one is at. */
package exordium.desktop.board;
