// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.demo;

import com.github.luben.zstd.ZstdOutputStream;
import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.FileExtents;
import exordium.core.block.FileExtents.Extent;
import exordium.core.copies.vault.CopyRun;
import exordium.core.quantity.ByteSize;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;

/**
 * A virtual drive as a copy of it stands in the vault: the same bytes as {@link CopyRun} would keep, made without reading its
 * many gigabytes of nothing. Frames of the format stand one after the other (RFC 8878, section 3), so that one frame of zeros
 * serves for all of them.
 */
final class PackedDrive {
    private static final int PIECE = 1 << 20;
    private static final int ZEROS = 64 << 20;
    /** Frames of nothing: the first of one piece, each of twice as much as the one before, the last of {@link #ZEROS}. */
    private static final List<byte[]> ZERO_FRAMES = IntStream.iterate(PIECE, size -> size <= ZEROS, size -> size * 2)
            .mapToObj(PackedDrive::frame)
            .toList();

    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final long size;

    private PackedDrive(long size) {
        this.size = size;
    }

    /** Where size: of the whole drive, whose file may be shorter. */
    static PackedDrive of(Path file, ByteSize size) throws IOException {
        try (BlockDevice device = FileDevice.sparse(file, size)) {
            long extent = CopyRun.extent(device).bytes();
            PackedDrive packed = new PackedDrive(extent);
            long done = 0;
            for (Extent stretch : FileExtents.of(file)) {
                long begin = Math.min(stretch.at(), extent);
                if (begin - done >= ZEROS) {
                    packed.zeros(begin - done);
                    done = begin;
                }
                long end = Math.min(stretch.at() + stretch.bytes(), extent);
                packed.data(device, done, end);
                done = Math.max(done, end);
            }
            packed.zeros(extent - done);
            return packed;
        }
    }

    private void data(BlockDevice device, long from, long to) throws IOException {
        if (from >= to) {
            return;
        }
        try (OutputStream out = new ZstdOutputStream(bytes, 1).setChecksum(true)) {
            byte[] piece = new byte[PIECE];
            for (long at = from; at < to; at += PIECE) {
                int length = (int) Math.min(PIECE, to - at);
                device.read(at, ByteBuffer.wrap(piece, 0, length));
                out.write(piece, 0, length);
            }
        }
    }

    private void zeros(long length) throws IOException {
        long left = length;
        for (int size = ZEROS, which = ZERO_FRAMES.size() - 1; which >= 0; which--, size /= 2) {
            for (; left >= size; left -= size) {
                bytes.write(ZERO_FRAMES.get(which));
            }
        }
        if (left > 0) {
            bytes.write(frame((int) left));
        }
    }

    private static byte[] frame(int zeros) {
        ByteArrayOutputStream frame = new ByteArrayOutputStream();
        try (OutputStream out = new ZstdOutputStream(frame, 1).setChecksum(true)) {
            byte[] piece = new byte[PIECE];
            for (int left = zeros; left > 0; left -= PIECE) {
                out.write(piece, 0, Math.min(PIECE, left));
            }
        } catch (IOException e) {
            throw new IllegalStateException("nothing is written to but memory", e);
        }
        return frame.toByteArray();
    }

    byte[] bytes() {
        return bytes.toByteArray();
    }

    /** What it unpacks to, in bytes. */
    long size() {
        return size;
    }
}
