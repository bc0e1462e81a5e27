// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.inspection.PartitionContent;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * Finds the partitions a name means: to the kernel PARTUUID=, PARTLABEL= or a place below /dev, with an initramfs UUID= and
 * LABEL= as well (Linux kernel documentation, "root="); to a running system these and the links below /dev/disk (fstab(5)).
 */
final class RootSearch {
    private static final List<StartSource> PROBED =
            List.of(StartSource.CARD, StartSource.EMMC, StartSource.NVME, StartSource.USB);

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
        int letter = 0;
        List<BoardProfile.Port> ports = new ArrayList<>(bench.profile().ports());
        ports.sort(Comparator.comparingInt(port -> {
            int place = PROBED.indexOf(port.source());
            return place < 0 ? PROBED.size() : place;
        }));
        for (BoardProfile.Port port : ports) {
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
        int number = content.partition().number();
        // The kernel puts a p between a name that ends in a digit and the partition's number; without a table there is
        // none.
        String joint = Character.isDigit(device.charAt(device.length() - 1)) ? "p" : "";
        return name.equals("/dev/" + device + (number == 0 ? "" : joint + number));
    }
}
