// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.Closing;
import exordium.core.block.XzUnpacker;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.List;

/** An .xz unpacked from its beginning to its end by the system's library. */
final class LzmaStream extends BulkStream {
    private static final int PIECE = 1 << 18;

    private final InputStream file;
    private final XzUnpacker decoder;
    private final byte[] heap = new byte[PIECE];
    private final ByteBuffer packed = ByteBuffer.allocateDirect(PIECE).limit(0);
    private boolean last;
    private boolean ended;

    LzmaStream(InputStream file, XzUnpacker.Maker library) throws IOException {
        this.file = file;
        this.decoder = library.make(ImageFile.XZ_MEMORY, true);
    }

    @Override
    int unpack(ByteBuffer target) throws IOException {
        int start = target.position();
        while (!ended && target.position() == start) {
            if (!packed.hasRemaining() && !last) {
                int got = file.readNBytes(heap, 0, PIECE);
                last = got < PIECE;
                packed.clear().put(heap, 0, got).flip();
            }
            ended = decoder.unpack(packed, target, last);
        }
        return target.position() == start ? -1 : target.position() - start;
    }

    @Override
    public void close() throws IOException {
        Closing.all(List.of(decoder, file));
    }
}
