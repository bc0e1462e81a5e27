// SPDX-License-Identifier: Apache-2.0
/**
 * Partition tables: MBR with its logical partitions, GPT with both headers, or none.
 *
 * <p>In: a block device. Out: a table with findings. Uses block.
 */
package exordium.core.layout;
