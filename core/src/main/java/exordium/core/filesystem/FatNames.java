// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
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
    private static final int ENTRY = 32;
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
            List<Name> names = names(root());
            for (String part : folder.split("/")) {
                if (!part.isEmpty()) {
                    Optional<Name> next = names.stream()
                            .filter(each -> each.folder() && each.text().equalsIgnoreCase(part))
                            .findFirst();
                    if (next.isEmpty()) {
                        return Map.of();
                    }
                    names = names(chain(next.get().cluster()));
                }
            }
            Map<String, String> written = new HashMap<>();
            names.stream()
                    .filter(each -> !each.isLong())
                    .forEach(each -> written.put(each.text().toUpperCase(Locale.ROOT), each.text()));
            return written;
        } catch (IOException e) {
            return Map.of();
        }
    }

    private byte[] root() throws IOException {
        if (geometry.kind() == FileSystemKind.FAT32) {
            return chain(LittleEndian.u32(slice.bytes(0, 512), 44));
        }
        int length = (int) Math.min(LONGEST, geometry.rootSectors() * geometry.bytesPerSector());
        return slice.bytes(geometry.dataStart() - length, length);
    }

    private byte[] chain(long first) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        long cluster = first;
        while (geometry.holds(cluster) && all.size() < LONGEST) {
            all.write(slice.bytes(
                    geometry.dataStart() + (cluster - 2) * geometry.clusterBytes(), (int) geometry.clusterBytes()));
            cluster = geometry.next(slice, cluster);
        }
        return all.toByteArray();
    }

    private List<Name> names(byte[] folder) {
        List<Name> names = new ArrayList<>();
        StringBuilder longName = new StringBuilder();
        for (int at = 0; at + ENTRY <= folder.length && folder[at] != 0; at += ENTRY) {
            int attributes = LittleEndian.u8(folder, at + 11);
            if (LittleEndian.u8(folder, at) == 0xE5) {
                longName.setLength(0);
            } else if (attributes == 0x0F) {
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
