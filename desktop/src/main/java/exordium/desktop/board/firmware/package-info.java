// SPDX-License-Identifier: Apache-2.0
/** The firmware station: releases on their line, what an update needs, staging it. */
package exordium.desktop.board.firmware;
