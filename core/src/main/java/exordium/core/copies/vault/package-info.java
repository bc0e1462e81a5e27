// SPDX-License-Identifier: Apache-2.0
/**
 * Copies of a drive as they are kept: chunks in packs, lists of them, the proof of each; checked, mended, pruned, moved.
 *
 * <p>In: a drive, a vault. Out: copies with their digests. Uses writing.
 */
package exordium.core.copies.vault;
