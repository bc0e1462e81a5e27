// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;

/**
 * In what steps a write goes: bytes that are handled at once, and bytes after which the medium is made to take in what it has.
 *
 * @param chunk a multiple of {@link AlignedBuffers#ALIGNMENT}
 */
public record WriteGranularity(int chunk, long flushEvery) {
    public static final WriteGranularity USUAL = new WriteGranularity(4 << 20, 64L << 20);

    public WriteGranularity {
        if (chunk < Pieces.PIECE || chunk % Pieces.PIECE != 0 || flushEvery < 1) {
            throw new IllegalArgumentException("a chunk is a multiple of " + Pieces.PIECE + ", not " + chunk);
        }
    }
}
