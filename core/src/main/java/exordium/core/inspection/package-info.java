// SPDX-License-Identifier: Apache-2.0
/**
 * What is on an image or a drive: table, file systems, the system installed, and the least medium it fits.
 *
 * <p>In: a block device. Out: {@link exordium.core.inspection.DriveInspection}. Uses image, layout, filesystem.
 */
package exordium.core.inspection;
