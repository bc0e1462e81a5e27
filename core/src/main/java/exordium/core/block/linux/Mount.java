// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * One line of mountinfo (proc(5)): a root that is mounted as {@code /dev/root} still tells its drive by the numbers.
 *
 * @param numbers major and minor, as sysfs writes them in {@code dev}
 */
record Mount(String numbers, String type, String node, String place) {
    private static final Pattern OCTAL = Pattern.compile("\\\\([0-7]{3})");

    /** Where proc: that of the machine, or a tree that stands in for it. */
    static List<Mount> all(Path proc) throws IOException {
        List<Mount> mounts = new ArrayList<>();
        for (String line : Files.readAllLines(proc.resolve("self/mountinfo"))) {
            String[] halves = line.split(" - ", 2);
            String[] fields = halves[0].split(" ");
            String[] source = halves.length == 2 ? halves[1].split(" ") : new String[0];
            if (fields.length > 4 && source.length > 1) {
                String node = source[1].startsWith("/") ? resolved(source[1]) : source[1];
                mounts.add(new Mount(fields[2], source[0], node, unescaped(fields[4])));
            }
        }
        return mounts;
    }

    /** Spaces and the like stand in mountinfo as a backslash and three octal digits. */
    private static String unescaped(String field) {
        return OCTAL.matcher(field)
                .replaceAll(
                        match -> Matcher.quoteReplacement(String.valueOf((char) Integer.parseInt(match.group(1), 8))));
    }

    private static String resolved(String node) {
        try {
            return Path.of(node).toRealPath().toString();
        } catch (IOException e) {
            return node;
        }
    }

    /** The mount with the longest mount point above the path; of several at one place the last covers the others. */
    static Optional<Mount> holding(Path path, List<Mount> mounts) {
        Path where = path.toAbsolutePath().normalize();
        return mounts.stream()
                .filter(mount -> where.startsWith(Path.of(mount.place())))
                .reduce((best, next) -> next.place().length() >= best.place().length() ? next : best);
    }
}
