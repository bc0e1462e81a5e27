// SPDX-License-Identifier: Apache-2.0
/** Boards, their ports, the network, the digits of an order. */
package exordium.desktop.draw.bench;
