// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Unpacks .xz by a library of the system, between buffers outside the heap. */
public interface XzUnpacker extends Closeable {

    /** Makes one. */
    interface Maker {
        /** Where mostMemory: bytes it is held to; severalStreams: whether a file may hold several, one after the other. */
        XzUnpacker make(long mostMemory, boolean severalStreams) throws IOException;
    }

    /** Begins with another file; what memory is held is kept. */
    void begin() throws IOException;

    /**
     * Unpacks as much as there is and as there is room for; both buffers lie outside the heap, and move on.
     *
     * @param last whether nothing comes after what is packed
     * @return whether all of the file is unpacked
     */
    boolean unpack(ByteBuffer packed, ByteBuffer unpacked, boolean last) throws IOException;

    @Override
    void close();
}
