// SPDX-License-Identifier: Apache-2.0
/**
 * File systems told by their signatures; FAT and ext2/3/4 read, FAT written.
 *
 * <p>In: a slice of a block device. Out: label, identifier, used bytes, files. Uses block, layout.
 */
package exordium.core.filesystem;
