// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Folders and chains of a FAT volume (FAT specification, "FAT directory structure" and "Name structure"), read as they are asked for:
 * a table of some megabytes is never needed whole. Names that have no long form are written as two bits of their entry say (byte 12; as
 * mtools and the systems themselves read it). Everything in a volume may be wrong: chains are followed no further than they can be true.
 */
final class FatFolders {
    static final int ENTRY = 32;
    private static final int DELETED = 0xE5;
    private static final int LONG_NAME = 0x0F;
    private static final int VOLUME = 0x08;
    private static final int FOLDER = 0x10;
    private static final int SHORT_NAME = 11;
    /** Stands for the letter that would say that an entry is deleted. */
    private static final byte ESCAPED = 0x05;
    /** As long as a folder may be at most (FAT specification: 65 536 entries). */
    private static final int LONGEST = 65_536 * ENTRY;

    private final BlockDevice slice;
    private final FatGeometry geometry;

    FatFolders(BlockDevice slice, FatGeometry geometry) {
        this.slice = slice;
        this.geometry = geometry;
    }

    /**
     * What stands in a folder.
     *
     * @param alias the short name it has as well
     * @param cluster the first one of its content
     */
    record Entry(String name, String alias, boolean folder, long cluster, long bytes) {
        boolean isCalled(String word) {
            return name.equalsIgnoreCase(word) || alias.equalsIgnoreCase(word);
        }
    }

    /** A stretch of the volume. */
    record Extent(long position, long length) {
        long end() {
            return position + length;
        }
    }

    /** What is in a folder, but for itself and the one above; nothing where there is no such folder. */
    List<Entry> in(String folder) throws IOException {
        return entries(content(extents(folder)));
    }

    /** What stands at a path that is not the top folder. */
    Optional<Entry> find(String path) throws IOException {
        List<Extent> folder = root();
        Optional<Entry> found = Optional.empty();
        for (String part : path.split("/")) {
            if (!part.isEmpty()) {
                found = entries(content(folder)).stream()
                        .filter(each -> each.isCalled(part))
                        .findFirst();
                folder = found.isPresent() && found.get().folder()
                        ? folder(found.get().cluster())
                        : List.of();
            }
        }
        return found;
    }

    /** Told where the next stretch of a file's content lies. */
    interface Sink {
        void extent(Extent extent) throws IOException;
    }

    /** Tells where a file's content lies, in its order. @throws FileSystemException where its chain does not hold so much */
    void content(Entry file, Sink sink) throws IOException {
        if (file.bytes() == 0) {
            return;
        }
        long cluster = geometry.clusterBytes();
        long clusters = (file.bytes() + cluster - 1) / cluster;
        Chain chain = new Chain(file.cluster());
        long told = 0;
        while (chain.clusters < clusters) {
            if (!chain.goesOn()) {
                throw broken("a file is longer than its chain");
            }
            told += chain.tellFinished(sink);
        }
        sink.extent(new Extent(chain.from, file.bytes() - told));
    }

    private List<Extent> root() throws IOException {
        if (geometry.kind() == FileSystemKind.FAT32) {
            return folder(LittleEndian.u32(slice.bytes(0, 512), 44) & 0x0FFF_FFFFL);
        }
        long length = Math.min(LONGEST, geometry.rootSectors() * geometry.bytesPerSector());
        return List.of(new Extent(geometry.dataStart() - length, length));
    }

    private List<Extent> folder(long first) throws IOException {
        List<Extent> all = new ArrayList<>();
        Chain chain = new Chain(first);
        while (chain.goesOn()) {
            if (chain.clusters > LONGEST / geometry.clusterBytes()) {
                throw broken("a folder is longer than any may be");
            }
            chain.tellFinished(all::add);
        }
        all.add(new Extent(chain.from, chain.until - chain.from));
        return all;
    }

    /** Clusters that follow each other; those that are neighbours as well make one stretch. */
    private final class Chain {
        private final FatTable table = new FatTable(slice, geometry);
        private final BitSet seen = new BitSet();
        private long cluster;
        private long clusters;
        /** The stretch it is in: from its first byte until where the last cluster ends. */
        private long from;

        private long until;
        private Optional<Extent> finished = Optional.empty();

        Chain(long first) throws FileSystemException {
            take(first);
            from = geometry.place(first);
        }

        private void take(long next) throws FileSystemException {
            if (!geometry.holds(next)) {
                throw broken("a chain runs into no cluster there is");
            }
            if (seen.get((int) next)) {
                throw broken("a chain runs round in itself");
            }
            seen.set((int) next);
            cluster = next;
            clusters++;
            until = geometry.place(next) + geometry.clusterBytes();
        }

        /** Goes to the next one; false at the end. */
        boolean goesOn() throws IOException {
            long next = table.next(cluster);
            if (geometry.isEnd(next)) {
                return false;
            }
            Extent behind = new Extent(from, until - from);
            take(next);
            if (geometry.place(next) != behind.end()) {
                finished = Optional.of(behind);
                from = geometry.place(next);
            }
            return true;
        }

        /** Gives the bytes of the stretch that ended with the last step, 0 where none did. */
        long tellFinished(Sink sink) throws IOException {
            Optional<Extent> ended = finished;
            finished = Optional.empty();
            if (ended.isPresent()) {
                sink.extent(ended.get());
            }
            return ended.map(Extent::length).orElse(0L);
        }
    }

    private FileSystemException broken(String what) {
        return new FileSystemException(slice.name() + " is a broken FAT volume: " + what, -1);
    }

    private byte[] content(List<Extent> extents) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (Extent each : extents) {
            all.write(slice.bytes(each.position(), (int) each.length()));
        }
        return all.toByteArray();
    }

    /**
     * Clears what the library leaves behind the end of a folder that became shorter: nobody should read it, and checkers do.
     */
    void clearBehindEnd(String folder) throws IOException {
        boolean behind = false;
        for (Extent each : extents(folder)) {
            byte[] bytes = slice.bytes(each.position(), (int) each.length());
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
                    slice.write(position(extents, struck), ByteBuffer.wrap(new byte[] {(byte) DELETED}));
                }
            }
            longName.setLength(0);
            from = at + ENTRY;
        }
    }

    private static long position(List<Extent> extents, long at) {
        long left = at;
        for (Extent each : extents) {
            if (left < each.length()) {
                return each.position() + left;
            }
            left -= each.length();
        }
        throw new IllegalArgumentException("byte " + at + " is behind the end");
    }

    /** Where a folder lies; nowhere when there is none of that name. */
    private List<Extent> extents(String folder) throws IOException {
        if (folder.replace("/", "").isEmpty()) {
            return root();
        }
        Optional<Entry> found = find(folder).filter(Entry::folder);
        return found.isPresent() ? folder(found.get().cluster()) : List.of();
    }

    private List<Entry> entries(byte[] folder) {
        List<Entry> entries = new ArrayList<>();
        StringBuilder longName = new StringBuilder();
        int sum = -1;
        for (int at = 0; at + ENTRY <= folder.length && folder[at] != 0; at += ENTRY) {
            int attributes = LittleEndian.u8(folder, at + 11);
            if (LittleEndian.u8(folder, at) == DELETED) {
                longName.setLength(0);
            } else if (attributes == LONG_NAME) {
                // The pieces of a long name stand before the entry, the last one first.
                longName.insert(0, longPiece(folder, at));
                sum = LittleEndian.u8(folder, at + 13);
            } else {
                if ((attributes & VOLUME) == 0 && folder[at] != '.') {
                    boolean isLong = longName.length() > 0 && sum == sum(folder, at);
                    String alias = shortName(folder, at);
                    long high = geometry.kind() == FileSystemKind.FAT32 ? LittleEndian.u16(folder, at + 20) : 0;
                    entries.add(new Entry(
                            isLong ? longName.toString() : alias,
                            alias,
                            (attributes & FOLDER) != 0,
                            high << 16 | LittleEndian.u16(folder, at + 26),
                            LittleEndian.u32(folder, at + 28)));
                }
                longName.setLength(0);
            }
        }
        return entries;
    }

    /** What ties the pieces of a long name to their entry: where it differs, somebody renamed the one without the other. */
    private static int sum(byte[] folder, int at) {
        int sum = 0;
        for (int i = 0; i < SHORT_NAME; i++) {
            sum = ((sum & 1) << 7) + (sum >> 1) + LittleEndian.u8(folder, at + i) & 0xFF;
        }
        return sum;
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
        if (folder[at] == ESCAPED) {
            name = (char) DELETED + name.substring(1);
        }
        String extension = cased(folder, at + 8, 3, (flags & 0x10) != 0);
        return extension.isEmpty() ? name : name + "." + extension;
    }

    private static String cased(byte[] folder, int at, int length, boolean small) {
        String text = new String(folder, at, length, StandardCharsets.ISO_8859_1).stripTrailing();
        return small ? text.toLowerCase(Locale.ROOT) : text;
    }
}
