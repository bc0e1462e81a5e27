// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import java.util.zip.CRC32C;

/** A block nobody else would write, put at the end of an image: where it turns up elsewhere, the drive wraps round. */
record WrapMark(long place, ByteBuffer block) {
    private static final int LENGTH = AlignedBuffers.ALIGNMENT;

    /** The place is below nought where the image is shorter than a block. */
    static WrapMark atTheEndOf(ByteSize image, String target) {
        CRC32C seed = new CRC32C();
        seed.update((target + System.nanoTime()).getBytes(StandardCharsets.UTF_8));
        byte[] block = new byte[LENGTH];
        new Random(seed.getValue()).nextBytes(block);
        return new WrapMark(
                image.bytes() / LENGTH * LENGTH - LENGTH, ByteBuffer.wrap(block).asReadOnlyBuffer());
    }

    /** Puts it on the medium, through a buffer the device can take. */
    void put(BlockDevice target, ByteBuffer spare) throws IOException {
        target.write(place, spare.limit(LENGTH).put(block.duplicate()).flip());
        target.flush();
    }

    /** Throws where one of these pieces, read at this position, holds the mark and is not its place. */
    void refuseElsewhere(BlockDevice target, long position, ByteBuffer there, Pieces pieces) throws IOException {
        for (Pieces.Extent stretch : pieces.extents()) {
            for (int at = stretch.from(); at + LENGTH <= stretch.to(); at += LENGTH) {
                if (position + at != place && there.slice(at, LENGTH).mismatch(block) < 0) {
                    throw new MediumException(
                            target.name(),
                            position + at,
                            "what was written at byte " + place + " is found at byte " + (position + at)
                                    + ": it holds less than it says and wraps round");
                }
            }
        }
    }
}
