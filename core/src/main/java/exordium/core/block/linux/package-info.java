// SPDX-License-Identifier: Apache-2.0
/**
 * A Linux machine: its drives and what stands on them, claims, calls of its kernel by architecture, loop devices, its tools, its
 * message bus, and who opens a drive that its user may not open alone: the desktop's own disk service over the bus, else one small
 * process that runs with leave to do so and ends with the deed.
 *
 * <p>Nobody names a class of this room but who starts the program's helper: the rest of the program asks {@link
 * exordium.core.block.Machine}, which finds this one by the service loader.
 */
package exordium.core.block.linux;
