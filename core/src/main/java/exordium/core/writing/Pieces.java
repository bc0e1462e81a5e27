// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.CRC32C;

/** Which parts of one chunk count: extents that begin and end at whole pieces of 64 KiB, or at the chunk's end. */
record Pieces(List<Extent> extents) {
    static final int PIECE = 1 << 16;
    static final Pieces NONE = new Pieces(List.of());

    /** From a byte of the chunk to another. */
    record Extent(int from, int to) {
        int length() {
            return to - from;
        }
    }

    /** Asked of a piece by its first byte in the chunk. */
    interface Wanted {
        boolean at(int from, int length);
    }

    static Pieces all(int length) {
        return length == 0 ? NONE : new Pieces(List.of(new Extent(0, length)));
    }

    static Pieces of(int length, Wanted wanted) {
        List<Extent> found = new ArrayList<>();
        int begin = -1;
        for (int from = 0; from < length; from += PIECE) {
            boolean counts = wanted.at(from, Math.min(PIECE, length - from));
            if (counts && begin < 0) {
                begin = from;
            } else if (!counts && begin >= 0) {
                found.add(new Extent(begin, from));
                begin = -1;
            }
        }
        if (begin >= 0) {
            found.add(new Extent(begin, length));
        }
        return found.isEmpty() ? NONE : new Pieces(List.copyOf(found));
    }

    boolean holds(int place) {
        return extents.stream().anyMatch(each -> place >= each.from() && place < each.to());
    }

    int bytes() {
        return extents.stream().mapToInt(Extent::length).sum();
    }

    /** One checksum over all extents in their order. */
    int crc(ByteBuffer chunk) {
        CRC32C crc = new CRC32C();
        for (Extent each : extents) {
            crc.update(chunk.slice(each.from(), each.length()));
        }
        return (int) crc.getValue();
    }
}
