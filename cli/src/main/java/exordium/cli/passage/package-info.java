// SPDX-License-Identifier: Apache-2.0
/** Commands about passages: from a wish to a board that is as wished for. */
package exordium.cli.passage;
