// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.inspection.PartitionContent;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Finds the partitions a name of the kernel's means: PARTUUID=, UUID=, LABEL= or a place below /dev (Linux kernel
 * documentation, "root=").
 */
final class RootSearch {
    private final Bench bench;
    private final List<Bench.Attached> seen;

    RootSearch(Bench bench, List<Bench.Attached> seen) {
        this.bench = bench;
        this.seen = seen;
    }

    /** A partition on an attached medium. */
    record Hit(Bench.Attached medium, PartitionContent content) {}

    List<Hit> find(String name) {
        List<Hit> hits = new ArrayList<>();
        int letter = 0;
        for (BoardProfile.Port port : bench.profile().ports()) {
            for (Bench.Attached medium : seen) {
                if (!medium.port().equals(port.id())) {
                    continue;
                }
                String device = port.device();
                if (device.endsWith("*")) {
                    device = device.replace("*", String.valueOf((char) ('a' + letter++)));
                }
                for (PartitionContent content : medium.contents().inspection().partitions()) {
                    if (matches(name, content, device)) {
                        hits.add(new Hit(medium, content));
                    }
                }
            }
        }
        return hits;
    }

    private static boolean matches(String name, PartitionContent content, String device) {
        String lower = name.toLowerCase(Locale.ROOT);
        if (lower.startsWith("partuuid=")) {
            return content.partition().partUuid().equalsIgnoreCase(unquoted(name.substring(9)));
        }
        if (lower.startsWith("uuid=")) {
            return content.fileSystem().uuid().equalsIgnoreCase(unquoted(name.substring(5)));
        }
        if (lower.startsWith("label=")) {
            return content.fileSystem().label().equals(unquoted(name.substring(6)));
        }
        // The kernel puts a p between a name that ends in a digit and the partition's number.
        String joint = Character.isDigit(device.charAt(device.length() - 1)) ? "p" : "";
        return name.equals("/dev/" + device + joint + content.partition().number());
    }

    private static String unquoted(String text) {
        return text.replace("\"", "");
    }
}
