// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.inspection.PartitionContent;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Finds the partitions a name means: to the kernel PARTUUID=, PARTLABEL= or a place below /dev, with an initramfs UUID= and
 * LABEL= as well (Linux kernel documentation, "root="); to a running system these and the links below /dev/disk (fstab(5)).
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

    /** What the kernel finds, in the order it probes. */
    List<Hit> forKernel(String name, boolean initramfs) {
        String lower = name.toLowerCase(Locale.ROOT);
        boolean needsInitramfs = lower.startsWith("uuid=") || lower.startsWith("label=");
        boolean link = name.startsWith("/dev/disk/");
        return link || (needsInitramfs && !initramfs) ? List.of() : find(name);
    }

    /** What a running system finds. */
    List<Hit> forSystem(String name) {
        for (String kind : List.of("partuuid", "partlabel", "uuid", "label")) {
            String folder = "/dev/disk/by-" + kind + "/";
            if (name.startsWith(folder)) {
                return find(kind + "=" + unescaped(name.substring(folder.length())));
            }
        }
        return find(unescaped(name));
    }

    /** Links write a blank as \x20 (udev(7)), fstab as \040. */
    private static String unescaped(String text) {
        return text.replace("\\x20", " ").replace("\\040", " ");
    }

    private List<Hit> find(String name) {
        List<Hit> hits = new ArrayList<>();
        for (SeenDrive drive : SeenDrive.of(bench, seen)) {
            for (PartitionContent content :
                    drive.medium().contents().inspection().partitions()) {
                if (matches(name, content, drive)) {
                    hits.add(new Hit(drive.medium(), content));
                }
            }
        }
        return hits;
    }

    private static boolean matches(String name, PartitionContent content, SeenDrive drive) {
        int equals = name.indexOf('=');
        if (equals > 0) {
            String value = name.substring(equals + 1).replace("\"", "");
            return !value.isEmpty()
                    && switch (name.substring(0, equals).toLowerCase(Locale.ROOT)) {
                        case "partuuid" -> content.partition().partUuid().equalsIgnoreCase(value);
                        case "partlabel" -> content.partition().name().equals(value);
                        case "uuid" -> content.fileSystem().uuid().equalsIgnoreCase(value);
                        case "label" -> content.fileSystem().label().equals(value);
                        default -> false;
                    };
        }
        return name.equals(drive.partition(content.partition().number()));
    }
}
