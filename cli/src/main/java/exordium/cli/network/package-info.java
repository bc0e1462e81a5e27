// SPDX-License-Identifier: Apache-2.0
/** Boards that start over the network. */
package exordium.cli.network;
