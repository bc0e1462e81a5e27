// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.filesystem.FileSystemException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import java.util.Set;

/**
 * Short names for long ones (FAT specification, "The basis-name generation algorithm" and "The numeric-tail generation algorithm"):
 * capitals, eight letters and three; where that loses anything, or is taken, a number behind it.
 */
final class FatNames {
    private static final String ALLOWED = "$%'-_@~`!(){}^#&";
    private static final String REFUSED = "\"*/:<>?\\|";
    private static final int NAME = 8;
    private static final int EXTENSION = 3;
    private static final int LONGEST = 255;
    private static final int MOST_TAILS = 999_999;

    private FatNames() {}

    /** @throws FileSystemException when no FAT volume can hold something of this name */
    static void requireAllowed(String name) throws FileSystemException {
        boolean wrong = name.isEmpty()
                || name.length() > LONGEST
                || name.endsWith(".")
                || name.endsWith(" ")
                || name.chars().anyMatch(letter -> letter < ' ' || REFUSED.indexOf(letter) >= 0);
        if (wrong) {
            throw new FileSystemException("\"" + name + "\" is no name that a FAT volume can hold", -1);
        }
    }

    /** The eleven bytes for a name, other than those that are taken. */
    static byte[] shortName(String name, Set<String> taken) throws FileSystemException {
        String bare = name.replace(" ", "").replaceFirst("^\\.+", "");
        int dot = bare.lastIndexOf('.');
        String stem = dot < 0 ? bare : bare.substring(0, dot);
        String extension = dot < 0 ? "" : bare.substring(dot + 1);
        String shortStem = plain(stem);
        String shortExtension = plain(extension);
        boolean whole = bare.equals(name)
                && shortStem.equals(stem.toUpperCase(Locale.ROOT))
                && shortExtension.equals(extension.toUpperCase(Locale.ROOT))
                && !stem.isEmpty()
                && stem.length() <= NAME
                && extension.length() <= EXTENSION;
        if (whole) {
            byte[] made = bytes(shortStem, shortExtension);
            if (!taken.contains(key(made))) {
                return made;
            }
        }
        for (int number = 1; number <= MOST_TAILS; number++) {
            String tail = "~" + number;
            String cut = shortStem.substring(0, Math.min(shortStem.length(), NAME - tail.length()));
            byte[] made = bytes(cut + tail, shortExtension);
            if (!taken.contains(key(made))) {
                return made;
            }
        }
        throw new FileSystemException("No short name is left for \"" + name + "\"", -1);
    }

    /** By which a short name is the same as another. */
    static String key(byte[] shortName) {
        return new String(shortName, StandardCharsets.ISO_8859_1);
    }

    private static String plain(String text) {
        StringBuilder plain = new StringBuilder();
        for (char letter : text.toUpperCase(Locale.ROOT).toCharArray()) {
            boolean good = (letter >= 'A' && letter <= 'Z')
                    || (letter >= '0' && letter <= '9')
                    || ALLOWED.indexOf(letter) >= 0;
            plain.append(good ? letter : '_');
        }
        return plain.toString();
    }

    private static byte[] bytes(String stem, String extension) {
        byte[] made = new byte[FatEntry.SHORT_NAME];
        Arrays.fill(made, (byte) ' ');
        put(made, 0, NAME, stem);
        put(made, NAME, EXTENSION, extension);
        return made;
    }

    private static void put(byte[] made, int at, int most, String text) {
        for (int i = 0; i < Math.min(most, text.length()); i++) {
            made[at + i] = (byte) text.charAt(i);
        }
    }
}
