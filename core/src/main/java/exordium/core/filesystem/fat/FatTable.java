// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;

/** The first table of a FAT volume, of which the piece that was looked at last is kept: chains mostly run on in it. */
final class FatTable {
    /** Whole entries of any width. */
    private static final int PIECE = 12 * 1024;

    private final BlockDevice slice;
    private final FatGeometry geometry;
    private byte[] piece = {};
    private long from;

    FatTable(BlockDevice slice, FatGeometry geometry) {
        this.slice = slice;
        this.geometry = geometry;
    }

    /** What it says of a cluster there is: the one that follows it in its chain, or an end. */
    long next(long cluster) throws IOException {
        long entries = PIECE * 8L / geometry.bits();
        if (piece.length == 0 || cluster < from || cluster >= from + entries) {
            from = cluster / entries * entries;
            long position = geometry.tableStart() + from * geometry.bits() / 8;
            long end = geometry.tableStart() + geometry.sectorsPerFat() * geometry.bytesPerSector();
            piece = slice.bytes(position, (int) Math.min(PIECE, Math.max(0, end - position)));
        }
        if ((cluster - from + 1) * geometry.bits() > piece.length * 8L) {
            throw new FileSystemException(
                    "The allocation table is smaller than its clusters need", geometry.tableStart());
        }
        return geometry.entry(piece, cluster - from);
    }
}
