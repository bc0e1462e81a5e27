// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.LittleEndian;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * One entry of a folder: 32 bytes (FAT specification, "FAT directory structure" and "Long file name implementation"). Names that have no long
 * form are written as two bits of their entry say (byte 12; as mtools and the systems themselves read it).
 */
final class FatEntry {
    static final int BYTES = 32;
    /** Letters of a name in one piece of it. */
    static final int PIECE = 13;

    static final int SHORT_NAME = 11;
    static final int DELETED = 0xE5;
    /** Stands for the letter that would say that an entry is deleted. */
    static final byte ESCAPED = 0x05;

    private static final int LONG_NAME = 0x0F;
    private static final int VOLUME = 0x08;
    private static final int FOLDER = 0x10;
    private static final int ARCHIVE = 0x20;
    private static final int LAST_PIECE = 0x40;
    private static final int SMALL_NAME = 0x08;
    private static final int SMALL_EXTENSION = 0x10;
    /** Where the letters of a piece stand. */
    private static final int[] LETTERS = {1, 3, 5, 7, 9, 14, 16, 18, 20, 22, 24, 28, 30};

    private final byte[] folder;
    private final int at;

    FatEntry(byte[] folder, int at) {
        this.folder = folder;
        this.at = at;
    }

    /**
     * What stands in a folder.
     *
     * @param alias the short name it has as well
     * @param cluster the first one of its content
     * @param from where the first of its entries begins
     * @param at where the last of them begins, which has all but the long name
     */
    record Found(String name, String alias, boolean folder, long cluster, long bytes, int from, int at) {
        boolean isCalled(String word) {
            return name.equalsIgnoreCase(word) || alias.equalsIgnoreCase(word);
        }
    }

    /** What is in a folder, but for itself, the one above and the label; wide: whether clusters have 32 bits. */
    static List<Found> all(byte[] folder, boolean wide) {
        List<Found> found = new ArrayList<>();
        StringBuilder longName = new StringBuilder();
        int sum = -1;
        int from = 0;
        for (int at = 0; at + BYTES <= folder.length; at += BYTES) {
            FatEntry entry = new FatEntry(folder, at);
            if (entry.isEnd()) {
                break;
            }
            if (entry.isLongPiece() && !entry.isDeleted()) {
                // The pieces of a long name stand before the entry, the last one first.
                from = longName.isEmpty() ? at : from;
                longName.insert(0, entry.letters());
                sum = LittleEndian.u8(folder, at + 13);
                continue;
            }
            if (entry.counts()) {
                boolean isLong = !longName.isEmpty() && sum == entry.sum();
                String alias = entry.alias();
                found.add(new Found(
                        isLong ? longName.toString() : alias,
                        alias,
                        entry.isFolder(),
                        entry.cluster(wide),
                        entry.bytes(),
                        isLong ? from : at,
                        at));
            }
            longName.setLength(0);
        }
        return found;
    }

    /** Nothing stands here and behind. */
    boolean isEnd() {
        return folder[at] == 0;
    }

    boolean isDeleted() {
        return LittleEndian.u8(folder, at) == DELETED;
    }

    boolean isLongPiece() {
        return kind() == LONG_NAME;
    }

    /** Whether it is a file or folder of the user's. */
    boolean counts() {
        return !isEnd() && !isDeleted() && !isLongPiece() && (kind() & VOLUME) == 0 && folder[at] != '.';
    }

    boolean isFolder() {
        return (kind() & FOLDER) != 0;
    }

    private int kind() {
        return LittleEndian.u8(folder, at + 11);
    }

    long cluster(boolean wide) {
        return LittleEndian.u16(folder, at + 26) | (wide ? (long) LittleEndian.u16(folder, at + 20) << 16 : 0);
    }

    long bytes() {
        return LittleEndian.u32(folder, at + 28);
    }

    /** Day and time it was changed at, the later the greater. */
    long changed() {
        return (long) LittleEndian.u16(folder, at + 24) << 16 | LittleEndian.u16(folder, at + 22);
    }

    /** The eleven bytes of its short name. */
    byte[] shortName() {
        return Arrays.copyOfRange(folder, at, at + SHORT_NAME);
    }

    /** What ties the pieces of a long name to their entry: where it differs, somebody renamed the one without the other. */
    private int sum() {
        return sum(shortName());
    }

    private static int sum(byte[] shortName) {
        int sum = 0;
        for (byte each : shortName) {
            sum = ((sum & 1) << 7) + (sum >> 1) + (each & 0xFF) & 0xFF;
        }
        return sum;
    }

    private String letters() {
        StringBuilder letters = new StringBuilder();
        for (int each : LETTERS) {
            char letter = (char) LittleEndian.u16(folder, at + each);
            if (letter == 0) {
                break;
            }
            letters.append(letter);
        }
        return letters.toString();
    }

    private String alias() {
        int flags = LittleEndian.u8(folder, at + 12);
        String name = cased(at, 8, (flags & SMALL_NAME) != 0);
        if (folder[at] == ESCAPED) {
            name = (char) DELETED + name.substring(1);
        }
        String extension = cased(at + 8, 3, (flags & SMALL_EXTENSION) != 0);
        return extension.isEmpty() ? name : name + "." + extension;
    }

    private String cased(int from, int length, boolean small) {
        String text = new String(folder, from, length, StandardCharsets.ISO_8859_1).stripTrailing();
        return small ? text.toLowerCase(Locale.ROOT) : text;
    }

    /** How many entries a name needs: one where its short form says it all, else its pieces as well. */
    static int needed(String name, byte[] shortName) {
        return new FatEntry(padded(shortName), 0).alias().equals(name) ? 1 : 1 + (name.length() + PIECE - 1) / PIECE;
    }

    private static byte[] padded(byte[] shortName) {
        return Arrays.copyOf(shortName, BYTES);
    }

    /** Puts a new file or folder of no content where there is room for its entries. */
    static void put(byte[] folder, int from, String name, byte[] shortName, boolean isFolder) {
        int pieces = needed(name, shortName) - 1;
        for (int i = pieces; i > 0; i--) {
            piece(folder, from + (pieces - i) * BYTES, name, i, i == pieces, sum(shortName));
        }
        fresh(folder, from + pieces * BYTES, shortName, isFolder ? FOLDER : ARCHIVE);
    }

    private static void piece(byte[] folder, int at, String name, int number, boolean last, int sum) {
        Arrays.fill(folder, at, at + BYTES, (byte) 0);
        folder[at] = (byte) (number | (last ? LAST_PIECE : 0));
        folder[at + 11] = LONG_NAME;
        folder[at + 13] = (byte) sum;
        int first = (number - 1) * PIECE;
        for (int i = 0; i < PIECE; i++) {
            int left = name.length() - first - i;
            // Behind the name stands a zero, and ones behind that.
            int letter = left > 0 ? name.charAt(first + i) : left == 0 ? 0 : 0xFFFF;
            LittleEndian.putU16(folder, at + LETTERS[i], letter);
        }
    }

    private static void fresh(byte[] folder, int at, byte[] shortName, int kind) {
        Arrays.fill(folder, at, at + BYTES, (byte) 0);
        System.arraycopy(shortName, 0, folder, at, SHORT_NAME);
        folder[at + 11] = (byte) kind;
    }

    /** A new folder's own entry, and the one of the folder above, whose number is 0 where that is the top. */
    static void putDots(byte[] folder, boolean wide, long own, long above, long changed) {
        for (int dots = 1; dots <= 2; dots++) {
            byte[] name = new byte[SHORT_NAME];
            Arrays.fill(name, (byte) ' ');
            Arrays.fill(name, 0, dots, (byte) '.');
            int at = (dots - 1) * BYTES;
            fresh(folder, at, name, FOLDER);
            set(folder, at, wide, dots == 1 ? own : above, 0);
            times(folder, at, changed);
        }
    }

    /** Where the content of what stands at a place lies now. */
    static void set(byte[] folder, int at, boolean wide, long cluster, long bytes) {
        LittleEndian.putU16(folder, at + 26, (int) (cluster & 0xFFFF));
        if (wide) {
            LittleEndian.putU16(folder, at + 20, (int) (cluster >>> 16));
        }
        LittleEndian.putU32(folder, at + 28, bytes);
    }

    /** When it was changed; where it has no other time yet, it was made and looked at then as well. */
    static void times(byte[] folder, int at, long changed) {
        int day = (int) (changed >>> 16);
        int time = (int) (changed & 0xFFFF);
        LittleEndian.putU16(folder, at + 22, time);
        LittleEndian.putU16(folder, at + 24, day);
        if (LittleEndian.u16(folder, at + 16) == 0) {
            LittleEndian.putU16(folder, at + 14, time);
            LittleEndian.putU16(folder, at + 16, day);
            LittleEndian.putU16(folder, at + 18, day);
        }
    }

    /** The label of a volume, which stands in its top folder. */
    static void putLabel(byte[] folder, byte[] label, long changed) {
        fresh(folder, 0, label, VOLUME);
        times(folder, 0, changed);
    }

    /** Takes out what was found. */
    static void strikeOut(byte[] folder, Found found) {
        for (int each = found.from(); each <= found.at(); each += BYTES) {
            folder[each] = (byte) DELETED;
        }
    }
}
