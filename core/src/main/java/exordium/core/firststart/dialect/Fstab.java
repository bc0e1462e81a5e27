// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import java.util.ArrayList;
import java.util.List;

/** Lines of the root's fstab (fstab(5)), changed with their spacing kept. */
final class Fstab {
    static final String PATH = "/etc/fstab";

    private static final String FOURTH = "^(\\s*\\S+\\s+\\S+\\s+\\S+\\s+)\\S+";

    private Fstab() {}

    /** The start partition's line gets the option ro, or loses it. */
    static void startPartition(Draft draft, boolean readOnly) {
        List<String> lines = new ArrayList<>(List.of(draft.text(PATH).split("\n", -1)));
        boolean found = false;
        for (int i = 0; i < lines.size(); i++) {
            String[] fields = lines.get(i).strip().split("\\s+");
            boolean boot = fields.length >= 4
                    && !fields[0].startsWith("#")
                    && (fields[1].equals("/boot") || fields[1].startsWith("/boot/"))
                    && fields[2].matches("vfat|msdos|auto");
            if (boot) {
                found = true;
                lines.set(i, lines.get(i).replaceFirst(FOURTH, "$1" + options(fields[3], readOnly)));
            }
        }
        if (!found) {
            draft.caution(
                    "no-start-line",
                    "No line of the fstab mounts the start partition; it cannot be made read-only there.");
        } else {
            draft.put(PATH, String.join("\n", lines));
        }
    }

    /** The line that mounts this place gets one option more. */
    static void withOption(Draft draft, String place, String option) {
        List<String> lines = new ArrayList<>(List.of(draft.text(PATH).split("\n", -1)));
        for (int i = 0; i < lines.size(); i++) {
            String[] fields = lines.get(i).strip().split("\\s+");
            boolean here = fields.length >= 4 && !fields[0].startsWith("#") && fields[1].equals(place);
            if (here && !List.of(fields[3].split(",")).contains(option)) {
                lines.set(i, lines.get(i).replaceFirst(FOURTH, "$1" + fields[3] + "," + option));
                draft.put(PATH, String.join("\n", lines));
                return;
            }
        }
    }

    private static String options(String options, boolean readOnly) {
        List<String> all = new ArrayList<>(List.of(options.split(",")));
        all.remove("ro");
        all.remove("rw");
        if (readOnly) {
            all.add("ro");
        }
        return all.isEmpty() ? "defaults" : String.join(",", all);
    }
}
