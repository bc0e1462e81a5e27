// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * How names are written that have no long form. Two bits of a folder's entry say that name or extension stand in small letters
 * (byte 12; as mtools and the systems themselves read it); the library leaves them out and shows such names in capitals.
 */
final class FatNames {
    static final int ENTRY = 32;
    private static final int DELETED = 0xE5;
    private static final int LONG_NAME = 0x0F;
    /** As long as a folder may be at most (FAT specification: 65 536 entries). */
    private static final int LONGEST = 65_536 * ENTRY;

    private final BlockDevice slice;
    private final FatGeometry geometry;

    FatNames(BlockDevice slice, FatGeometry geometry) {
        this.slice = slice;
        this.geometry = geometry;
    }

    /** Where cluster: of the first one of a folder. */
    private record Name(String text, boolean isLong, boolean folder, long cluster) {}

    /** For names in capitals, how they are written; empty where the folder cannot be read this way. */
    Map<String, String> in(String folder) {
        try {
            Map<String, String> written = new HashMap<>();
            names(content(extents(folder))).stream()
                    .filter(each -> !each.isLong())
                    .forEach(each -> written.put(each.text().toUpperCase(Locale.ROOT), each.text()));
            return written;
        } catch (IOException e) {
            return Map.of();
        }
    }

    /** A stretch of a folder. */
    private record Extent(long position, int length) {}

    private List<Extent> root() throws IOException {
        if (geometry.kind() == FileSystemKind.FAT32) {
            return chain(LittleEndian.u32(slice.bytes(0, 512), 44));
        }
        int length = (int) Math.min(LONGEST, geometry.rootSectors() * geometry.bytesPerSector());
        return List.of(new Extent(geometry.dataStart() - length, length));
    }

    private List<Extent> chain(long first) throws IOException {
        List<Extent> all = new ArrayList<>();
        int length = (int) geometry.clusterBytes();
        long cluster = first;
        while (geometry.holds(cluster) && (long) all.size() * length < LONGEST) {
            all.add(new Extent(geometry.dataStart() + (cluster - 2) * geometry.clusterBytes(), length));
            cluster = geometry.next(slice, cluster);
        }
        return all;
    }

    private byte[] content(List<Extent> extents) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (Extent each : extents) {
            all.write(slice.bytes(each.position(), each.length()));
        }
        return all.toByteArray();
    }

    /**
     * Clears what the library leaves behind the end of a folder that became shorter: nobody should read it, and checkers do.
     */
    void clearBehindEnd(String folder) throws IOException {
        boolean behind = false;
        for (Extent each : extents(folder)) {
            byte[] bytes = slice.bytes(each.position(), each.length());
            int at = 0;
            while (!behind && at + ENTRY <= bytes.length) {
                behind = bytes[at] == 0;
                at += behind ? 0 : ENTRY;
            }
            if (behind) {
                slice.write(each.position() + at, ByteBuffer.allocate(bytes.length - at));
            }
        }
    }

    /** Marks a file in the top folder as deleted, the pieces of its long name as well; it must be an empty one. */
    void strikeOut(String name) throws IOException {
        List<Extent> extents = root();
        byte[] folder = content(extents);
        StringBuilder longName = new StringBuilder();
        int from = 0;
        for (int at = 0; at + ENTRY <= folder.length && folder[at] != 0; at += ENTRY) {
            if (LittleEndian.u8(folder, at + 11) == LONG_NAME && LittleEndian.u8(folder, at) != DELETED) {
                longName.insert(0, longPiece(folder, at));
                continue;
            }
            if (longName.toString().equals(name)) {
                for (int struck = from; struck <= at; struck += ENTRY) {
                    Extent extent = extents.get(struck / extents.get(0).length());
                    slice.write(
                            extent.position() + struck % extent.length(), ByteBuffer.wrap(new byte[] {(byte) DELETED}));
                }
            }
            longName.setLength(0);
            from = at + ENTRY;
        }
    }

    /** Where a folder lies; nowhere when there is none of that name. */
    private List<Extent> extents(String folder) throws IOException {
        List<Extent> extents = root();
        for (String part : folder.split("/")) {
            if (!part.isEmpty()) {
                Optional<Name> next = names(content(extents)).stream()
                        .filter(each -> each.folder() && each.text().equalsIgnoreCase(part))
                        .findFirst();
                extents = next.isPresent() ? chain(next.get().cluster()) : List.of();
            }
        }
        return extents;
    }

    private List<Name> names(byte[] folder) {
        List<Name> names = new ArrayList<>();
        StringBuilder longName = new StringBuilder();
        for (int at = 0; at + ENTRY <= folder.length && folder[at] != 0; at += ENTRY) {
            int attributes = LittleEndian.u8(folder, at + 11);
            if (LittleEndian.u8(folder, at) == DELETED) {
                longName.setLength(0);
            } else if (attributes == LONG_NAME) {
                // The pieces of a long name stand before the entry, the last one first.
                longName.insert(0, longPiece(folder, at));
            } else {
                if ((attributes & 0x08) == 0) {
                    boolean isLong = longName.length() > 0;
                    long high = geometry.kind() == FileSystemKind.FAT32 ? LittleEndian.u16(folder, at + 20) : 0;
                    names.add(new Name(
                            isLong ? longName.toString() : shortName(folder, at),
                            isLong,
                            (attributes & 0x10) != 0,
                            high << 16 | LittleEndian.u16(folder, at + 26)));
                }
                longName.setLength(0);
            }
        }
        return names;
    }

    private static String longPiece(byte[] folder, int at) {
        byte[] units = new byte[26];
        System.arraycopy(folder, at + 1, units, 0, 10);
        System.arraycopy(folder, at + 14, units, 10, 12);
        System.arraycopy(folder, at + 28, units, 22, 4);
        String text = new String(units, StandardCharsets.UTF_16LE);
        int end = text.indexOf('\0');
        return end < 0 ? text : text.substring(0, end);
    }

    private static String shortName(byte[] folder, int at) {
        int flags = LittleEndian.u8(folder, at + 12);
        String name = cased(folder, at, 8, (flags & 0x08) != 0);
        String extension = cased(folder, at + 8, 3, (flags & 0x10) != 0);
        return extension.isEmpty() ? name : name + "." + extension;
    }

    private static String cased(byte[] folder, int at, int length, boolean small) {
        String text = new String(folder, at, length, StandardCharsets.ISO_8859_1).stripTrailing();
        return small ? text.toLowerCase(Locale.ROOT) : text;
    }
}
