// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdCompressCtx;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import java.io.Closeable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * Makes chunks of a batch of a drive's bytes: told by their digest, packed where the vault has them not. One thread at a time; what
 * it works in is made once.
 */
final class ChunkPacking implements Closeable {
    /** The quickest that packs well: a card is read slower than this packs, and more of it buys little (measured). */
    private static final int LEVEL = 1;

    private static final byte[] ZEROS = new byte[Chunk.BYTES];

    private final ChunkPacks known;
    private final ZstdCompressCtx packer = new ZstdCompressCtx().setLevel(LEVEL).setChecksum(true);
    private final byte[] frame = new byte[(int) Zstd.compressBound(Chunk.BYTES)];
    private final byte[] batch = new byte[BatchReader.BATCH];

    /** Where known: what the vault has. */
    ChunkPacking(ChunkPacks known) {
        this.known = known;
    }

    /** A chunk that is not all zeros; packed is empty where the vault has it. */
    record Piece(long at, int bytes, Chunk chunk, Optional<byte[]> packed, int crc) {}

    List<Piece> pieces(BatchReader reader, BatchReader.Batch read) {
        int bytes = reader.take(read, batch);
        List<Piece> pieces = new ArrayList<>();
        for (int from = 0; from < bytes; from += Chunk.BYTES) {
            int length = Math.min(Chunk.BYTES, bytes - from);
            if (!Arrays.equals(batch, from, from + length, ZEROS, 0, length)) {
                pieces.add(piece(read.at() + from, from, length));
            }
        }
        return pieces;
    }

    /** What is there is read back as well: a chunk that went bad since is put down once more, and the later one counts. */
    private Piece piece(long at, int from, int length) {
        Chunk chunk = Chunk.of(batch, from, length);
        if (known.holds(chunk, batch, from, from + length)) {
            return new Piece(at, length, chunk, Optional.empty(), 0);
        }
        int packed = packer.compressByteArray(frame, 0, frame.length, batch, from, length);
        return new Piece(
                at, length, chunk, Optional.of(Arrays.copyOf(frame, packed)), PackWriter.crc(batch, from, length));
    }

    @Override
    public void close() {
        packer.close();
    }
}
