// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.UnreadableInput;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;

/**
 * Programs of a system by which a board's firmware is updated or its start order set: told by their manual pages (man-pages(7), section
 * NAME) and, where one is a script, by what it does; never by where an invented one would lie.
 */
final class RootTools {
    private static final List<String> FOLDERS =
            List.of("/usr/sbin", "/usr/bin", "/sbin", "/bin", "/usr/local/sbin", "/usr/local/bin", "/opt/bin");
    private static final List<String> MANUALS = List.of(
            "/usr/share/man/man8", "/usr/share/man/man1", "/usr/local/share/man/man8", "/usr/local/share/man/man1");
    private static final Pattern MANUAL = Pattern.compile("(.+)\\.[18](\\.gz)?");
    private static final Pattern NAME_LINE =
            Pattern.compile("(?m)^\\.SH\\s+\"?NAME\"?\\s*\\n(?:\\.[A-Za-z]+[^\\n]*\\n)*([^\\n]+)");
    private static final Pattern FIRMWARE = Pattern.compile("bootloader|boot\\s*loader|firmware|eeprom|boot\\s+rom");
    private static final Pattern UPDATES = Pattern.compile("updat|upgrad|flash|install|writ");
    private static final Pattern ORDERS = Pattern.compile("boot order|start order|boot device|configur|settings");
    private static final Pattern DOES =
            Pattern.compile("flashrom|flashcp|flash_erase|/dev/mtd|fw_setenv|vcmailbox|spidev|efibootmgr");
    private static final int LARGEST = 256 << 10;

    /** What a program is for. */
    enum Purpose {
        UPDATES,
        ORDERS
    }

    /**
     * One of them.
     *
     * @param told the line of its manual page, or what it does
     */
    record Tool(String path, Purpose purpose, String told) {}

    private final FileSystemReader root;
    private final Map<String, String> programs = new LinkedHashMap<>();

    private RootTools(FileSystemReader root) throws IOException {
        this.root = root;
        for (String folder : FOLDERS) {
            for (FileEntry entry : root.entries(folder)) {
                boolean program = entry.kind() == FileEntry.EntryKind.FILE || entry.kind() == FileEntry.EntryKind.LINK;
                if (program) {
                    programs.putIfAbsent(entry.name(), folder + "/" + entry.name());
                }
            }
        }
    }

    /** Those of a root; none of one that is broken, which says nothing. */
    static List<Tool> in(FileSystemReader root) {
        try {
            RootTools tools = new RootTools(root);
            List<Tool> found = new ArrayList<>(tools.byManual());
            tools.byWhatTheyDo().stream()
                    .filter(each ->
                            found.stream().noneMatch(known -> known.path().equals(each.path())))
                    .forEach(found::add);
            return List.copyOf(found);
        } catch (IOException e) {
            return List.of();
        }
    }

    private List<Tool> byManual() throws IOException {
        List<Tool> found = new ArrayList<>();
        for (String folder : MANUALS) {
            for (String file : root.list(folder).stream().sorted().toList()) {
                Matcher name = MANUAL.matcher(file);
                if (!name.matches() || !programs.containsKey(name.group(1))) {
                    continue;
                }
                String path = programs.get(name.group(1));
                told(folder + "/" + file, name.group(2) != null)
                        .flatMap(line -> purpose(line).map(purpose -> new Tool(path, purpose, line)))
                        .ifPresent(found::add);
            }
        }
        return found;
    }

    /** The line of the page's section NAME, without what formats it. */
    private Optional<String> told(String page, boolean packed) throws IOException {
        byte[] bytes = read(page);
        if (packed) {
            try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(bytes))) {
                bytes = in.readNBytes(LARGEST);
            } catch (IOException e) {
                return Optional.empty();
            }
        }
        Matcher line = NAME_LINE.matcher(new String(bytes, StandardCharsets.UTF_8));
        return line.find()
                ? Optional.of(line.group(1)
                        .replace("\\-", "-")
                        .replaceAll("\\\\f[A-Z]|\\.[A-Z][a-z] ", "")
                        .strip())
                : Optional.empty();
    }

    private static Optional<Purpose> purpose(String line) {
        int dash = line.indexOf(" - ");
        String says = (dash < 0 ? line : line.substring(dash)).toLowerCase(Locale.ROOT);
        if (!FIRMWARE.matcher(says).find() && !says.contains("boot order")) {
            return Optional.empty();
        }
        if (UPDATES.matcher(says).find()) {
            return Optional.of(Purpose.UPDATES);
        }
        return ORDERS.matcher(says).find() ? Optional.of(Purpose.ORDERS) : Optional.empty();
    }

    /** Scripts whose name and text both are of firmware, and that write a chip. */
    private List<Tool> byWhatTheyDo() throws IOException {
        List<Tool> found = new ArrayList<>();
        for (Map.Entry<String, String> each : programs.entrySet()) {
            String name = each.getKey().toLowerCase(Locale.ROOT);
            if (!FIRMWARE.matcher(name).find() && !name.contains("boot")) {
                continue;
            }
            byte[] bytes = read(each.getValue());
            if (bytes.length < 2 || bytes[0] != '#' || bytes[1] != '!') {
                continue;
            }
            String text = new String(bytes, StandardCharsets.UTF_8).toLowerCase(Locale.ROOT);
            Matcher does = DOES.matcher(text);
            if (FIRMWARE.matcher(text).find() && UPDATES.matcher(text).find() && does.find()) {
                found.add(new Tool(each.getValue(), Purpose.UPDATES, "a script that uses " + does.group()));
            }
        }
        return found;
    }

    private byte[] read(String path) throws IOException {
        try {
            byte[] bytes = root.read(path).orElse(new byte[0]);
            return bytes.length > LARGEST ? new byte[0] : bytes;
        } catch (UnreadableInput e) {
            return new byte[0];
        }
    }
}
