// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.nio.ByteBuffer;

/** Buffers outside the heap whose address and size suit direct input and output. */
public final class AlignedBuffers {
    /** Large enough for drives with 512 and with 4096 byte sectors. */
    public static final int ALIGNMENT = 4096;

    private AlignedBuffers() {}

    /** Where size: in bytes, a multiple of {@link #ALIGNMENT}. */
    public static ByteBuffer allocate(int size) {
        if (size <= 0 || size % ALIGNMENT != 0) {
            throw new IllegalArgumentException("not a multiple of " + ALIGNMENT + ": " + size);
        }
        return ByteBuffer.allocateDirect(size + ALIGNMENT)
                .alignedSlice(ALIGNMENT)
                .limit(size);
    }
}
