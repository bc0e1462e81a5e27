// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * A drive as the kernel has it: what is on it and what it is called. Cards are probed first, then what is soldered on, then NVMe,
 * then USB by its sockets (common practice, no source); letters go by what is found.
 *
 * @param device without {@code /dev/} in front
 */
public record SeenDrive(Bench.Attached medium, String device) {
    private static final List<StartSource> PROBED =
            List.of(StartSource.CARD, StartSource.EMMC, StartSource.NVME, StartSource.USB);

    /** In the order the kernel finds them. */
    public static List<SeenDrive> of(Bench bench) {
        return of(bench, Rehearsal.seen(bench));
    }

    static List<SeenDrive> of(Bench bench, List<Bench.Attached> seen) {
        List<BoardProfile.Port> ports = new ArrayList<>(bench.profile().ports());
        ports.sort(Comparator.comparingInt(port -> {
            int place = PROBED.indexOf(port.source());
            return place < 0 ? PROBED.size() : place;
        }));
        List<SeenDrive> drives = new ArrayList<>();
        int letter = 0;
        for (BoardProfile.Port port : ports) {
            for (Bench.Attached medium : seen) {
                if (!medium.port().equals(port.id())) {
                    continue;
                }
                String device = port.device();
                if (device.endsWith("*")) {
                    device = device.replace("*", String.valueOf((char) ('a' + letter++)));
                }
                drives.add(new SeenDrive(medium, device));
            }
        }
        return drives;
    }

    /**
     * What a partition is called. The kernel puts a p between a name that ends in a digit and the partition's number; without a
     * table there is no number.
     */
    public String partition(int number) {
        String joint = Character.isDigit(device.charAt(device.length() - 1)) ? "p" : "";
        return "/dev/" + device + (number == 0 ? "" : joint + number);
    }
}
