// SPDX-License-Identifier: Apache-2.0
/**
 * A start over the network: the plan for a server and its boards, what has to stand where for it, how long it takes, what a board asks
 * for, and how far a server's log says it came. Knows no sockets.
 */
package exordium.core.network;
