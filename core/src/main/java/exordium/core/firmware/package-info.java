// SPDX-License-Identifier: Apache-2.0
/**
 * Firmware releases by channel, what a chip runs and has staged, and what a restart or a switch-off does to it.
 *
 * <p>In: a catalogue and a chip. Out: a status with findings. Uses board.
 */
package exordium.core.firmware;
