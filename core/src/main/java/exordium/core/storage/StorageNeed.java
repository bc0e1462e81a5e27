// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import java.util.List;
import java.util.Optional;

/**
 * What a board asks of its storage.
 *
 * @param image what will be written, to the end of its last partition
 * @param data kept besides the image
 * @param dailyWrites what the host writes in a day
 * @param boardDraw the board's own power with nothing plugged in
 * @param smallest house rule: nothing under this size
 */
public record StorageNeed(
        Optional<ByteSize> image,
        ByteSize data,
        ByteSize dailyWrites,
        Supply supply,
        Watts boardDraw,
        ByteSize smallest,
        List<Socket> sockets) {
    /** What a label promises and a card holds differ by some percent: 15.5 GB still counts as a "16 GB" card. */
    private static final double LABEL_TOLERANCE = 0.97;

    /** The least real size that carries this label, in decimal gigabytes. */
    public static ByteSize leastOf(int label) {
        return ByteSize.ofGigabytes(label * LABEL_TOLERANCE);
    }

    /** A place on the board a medium can go to. */
    public record Socket(String port, String title, List<String> buses, Link link) {
        public boolean takes(String bus) {
            return buses.contains(bus);
        }
    }
}
