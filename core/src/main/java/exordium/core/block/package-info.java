// SPDX-License-Identifier: Apache-2.0
/**
 * Devices as ranges of bytes: files, slices, and block devices of the machine; reading past the page cache.
 *
 * <p>In: paths. Out: {@link exordium.core.block.BlockDevice}. Uses quantity, finding.
 */
package exordium.core.block;
