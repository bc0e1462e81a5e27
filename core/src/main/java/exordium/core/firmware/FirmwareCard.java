// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.settings.SettingsDocument;
import exordium.core.layout.DiskIdentifier;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A card that carries a board's firmware: an archive laid out straight at the top of one FAT32 partition, whatever the card's size,
 * without what is only for readers, and with the settings the board's memory asks for (docs/formats/firmware.md).
 *
 * @param files by their path on the card
 * @param leftOut what of the archive is not on it
 * @param settings line that was put into the settings file
 */
public record FirmwareCard(
        Map<String, byte[]> files, List<String> leftOut, Optional<String> settings, List<Finding> findings) {
    /** FAT32 has at least 65,525 clusters (FAT specification): of a sector each, they take 34 MB. */
    private static final ByteSize LEAST = ByteSize.of(64L << 20);

    private static final long STEP = 16L << 20;
    private static final String NOT_IN_FAT = ".*[\\\\:*?\"<>|].*";
    private static final int LONGEST_NAME = 255;

    /**
     * What an archive comes to.
     *
     * @param archive its files by their path in it
     * @param memory of the board
     * @throws UnreadableInput when this family keeps its firmware elsewhere, or a file could not lie on a FAT volume
     */
    public static FirmwareCard of(String name, Map<String, byte[]> archive, BoardProfile profile, ByteSize memory)
            throws UnreadableInput {
        return of(List.of(new Published(name, archive)), List.of(), profile, memory);
    }

    /** An archive by its name, with its files by their path in it. */
    public record Published(String name, Map<String, byte[]> files) {}

    /**
     * The same of several, laid over each other in this order.
     *
     * @param unwanted names that do not go onto the card either
     */
    public static FirmwareCard of(
            List<Published> archives, List<String> unwanted, BoardProfile profile, ByteSize memory)
            throws UnreadableInput {
        BoardProfile.Firmware firmware = profile.firmware();
        if (!firmware.where().equals("card")) {
            throw new UnreadableInput("A " + profile.id() + " does not keep its firmware on a card; it is in its "
                    + firmware.where() + ".");
        }
        BoardProfile.OnCard onCard = firmware.onCard().orElse(BoardProfile.OnCard.NONE);
        Map<String, byte[]> files = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
        List<String> leftOut = new ArrayList<>();
        String name =
                String.join(" and ", archives.stream().map(Published::name).toList());
        for (Published archive : archives) {
            String top = top(archive.files(), firmware.files().orElse(List.of()));
            for (Map.Entry<String, byte[]> each : archive.files().entrySet()) {
                String path = each.getKey().substring(top.length());
                boolean out = onCard.leaves(path)
                        || NamePattern.isLikeAny(path.substring(path.lastIndexOf('/') + 1), unwanted)
                        || NamePattern.isLikeAny(path, unwanted);
                if (out) {
                    leftOut.add(path);
                    continue;
                }
                for (String part : path.split("/")) {
                    if (!fits(part)) {
                        throw new UnreadableInput(
                                archive.name() + " holds \"" + path + "\", a name that a FAT volume cannot hold.");
                    }
                }
                files.put(path, each.getValue());
            }
        }
        requireApart(name, files);
        Optional<String> line = settings(onCard, memory, files);
        return new FirmwareCard(
                files, leftOut, line, Finding.worstFirst(findings(name, profile, onCard, memory, files)));
    }

    /** Marks that are put onto a letter, and letters beyond the first 65,536, are other names to whoever reads the card. */
    private static boolean fits(String part) {
        return !part.isBlank()
                && !part.matches(NOT_IN_FAT)
                && part.length() <= LONGEST_NAME
                && !part.endsWith(".")
                && !part.endsWith(" ")
                && part.codePoints()
                        .noneMatch(letter -> letter > Character.MAX_VALUE
                                || Character.isISOControl(letter)
                                || Character.getType(letter) == Character.NON_SPACING_MARK
                                || Character.getType(letter) == Character.ENCLOSING_MARK);
    }

    /** A name is a file's or a folder's; names that are in a map of this order differ in more than capitals. */
    private static void requireApart(String name, Map<String, byte[]> files) throws UnreadableInput {
        for (String path : files.keySet()) {
            for (int slash = path.indexOf('/'); slash > 0; slash = path.indexOf('/', slash + 1)) {
                if (files.containsKey(path.substring(0, slash))) {
                    throw new UnreadableInput(name + " holds \"" + path.substring(0, slash)
                            + "\" as a file and as a folder; a card takes only one of them.");
                }
            }
        }
    }

    /** The folder all of it lies in, where the archive wraps it in one; with its slash. */
    private static String top(Map<String, byte[]> archive, List<String> wanted) {
        String first = archive.keySet().iterator().next();
        int slash = first.indexOf('/');
        String top = slash < 0 ? "" : first.substring(0, slash + 1);
        boolean wraps = !top.isEmpty()
                && archive.keySet().stream().allMatch(path -> path.startsWith(top))
                && !holds(archive, wanted);
        return wraps ? top : "";
    }

    private static boolean holds(Map<String, byte[]> files, List<String> wanted) {
        return files.keySet().stream()
                .map(path -> path.contains("/") ? path.substring(0, path.indexOf('/')) : path)
                .anyMatch(top -> NamePattern.isLikeAny(top, wanted));
    }

    /** Puts the line for the graphics' share in; the settings an archive brings stay as they are otherwise. */
    private static Optional<String> settings(BoardProfile.OnCard onCard, ByteSize memory, Map<String, byte[]> files) {
        if (onCard.settings().isEmpty() || onCard.graphics().isEmpty()) {
            return Optional.empty();
        }
        BoardProfile.Graphics graphics = onCard.graphics().get();
        if (memory.compareTo(graphics.upTo()) > 0) {
            return Optional.empty();
        }
        String value = String.valueOf(graphics.least());
        byte[] before = files.getOrDefault(onCard.settings().get(), new byte[0]);
        files.put(
                onCard.settings().get(),
                SettingsDocument.parse(before).with(graphics.key(), value).bytes());
        return Optional.of(graphics.key() + "=" + value);
    }

    private static List<Finding> findings(
            String name, BoardProfile profile, BoardProfile.OnCard onCard, ByteSize memory, Map<String, byte[]> files) {
        List<Finding> findings = new ArrayList<>();
        List<String> wanted = profile.firmware().files().orElse(List.of());
        if (!holds(files, wanted)) {
            findings.add(Finding.stop(
                    "firmware-card-empty",
                    name + " holds none of the files a " + profile.id() + " looks for at the top of its card: "
                            + String.join(", ", wanted) + ".",
                    Basis.computed("the archive")));
        }
        onCard.graphics()
                .filter(each -> memory.compareTo(each.upTo()) <= 0)
                .ifPresent(each -> findings.add(Finding.note(
                        "firmware-card-graphics",
                        "With " + memory.said() + " of memory the graphics get the smallest share, " + each.key() + "="
                                + each.least() + ": what they have, the system has not.",
                        Basis.practice())));
        onCard.memoryCap()
                .filter(cap -> memory.compareTo(cap) > 0)
                .ifPresent(cap -> findings.add(Finding.caution(
                                "firmware-card-memory-cap",
                                "This firmware gives a system only " + cap.said() + " of the " + memory.said()
                                        + " until its own menu is told otherwise: open it at the start screen, lift the limit, save, restart.",
                                Basis.practice())
                        .about(Subject.MEMORY_CAP)));
        return findings;
    }

    /** Of the card's image; a card that is larger keeps the rest unused. */
    public ByteSize size() {
        long bytes = files.values().stream().mapToLong(each -> each.length).sum();
        long needs = 2 * bytes + LEAST.bytes();
        return ByteSize.of((needs + STEP - 1) / STEP * STEP);
    }

    public void image(Path file, DiskIdentifier id) throws IOException {
        CardImage.make(file, size(), id, "FIRMWARE", files);
    }
}
