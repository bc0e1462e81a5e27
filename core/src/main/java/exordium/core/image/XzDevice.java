// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.MediumException;
import exordium.core.block.ReadOnlyDevice;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.LinkedHashMap;
import java.util.Map;

/** An .xz of many blocks, read anywhere: only the blocks that are asked for are unpacked, and the last few are kept. */
final class XzDevice extends ReadOnlyDevice {
    private final XzBlocks blocks;
    private final Map<Integer, byte[]> kept;
    private final boolean bySystem;
    private ByteBuffer unpacked;

    XzDevice(String name, XzBlocks blocks) throws IOException {
        super(name, ByteSize.of(blocks.length()), 512);
        this.blocks = blocks;
        this.bySystem = !blocks.light();
        int most = (int) Math.max(2, Math.min(16, (PieceStream.BUDGET / 2) / Math.max(1, blocks.largest())));
        this.kept = new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<Integer, byte[]> eldest) {
                return size() > most;
            }
        };
    }

    @Override
    public synchronized void read(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        long at = position;
        while (target.hasRemaining()) {
            int index = blocks.holding(at);
            byte[] block = kept.get(index);
            if (block == null) {
                block = unpack(index, at);
                kept.put(index, block);
            }
            int from = (int) (at - blocks.start(index));
            int piece = Math.min(target.remaining(), block.length - from);
            target.put(block, from, piece);
            at += piece;
        }
    }

    private byte[] unpack(int index, long at) throws MediumException {
        try {
            byte[] block = new byte[(int) blocks.size(index)];
            if (!bySystem) {
                blocks.piece(index, ByteBuffer.wrap(block));
                return block;
            }
            if (unpacked == null) {
                unpacked = ByteBuffer.allocateDirect((int) blocks.largest());
            }
            blocks.piece(index, unpacked.clear());
            unpacked.flip().get(block);
            return block;
        } catch (IOException | RuntimeException e) {
            throw new MediumException(
                    name(), at, "its block at byte " + at + " of the image is broken", new IOException(e));
        }
    }

    @Override
    public void close() throws IOException {
        blocks.close();
    }
}
