// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.firmware.FirmwareChip;
import exordium.core.storage.Supply;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/**
 * A board as it is at one moment. Immutable; each change gives the board as it would be then.
 *
 * @param profile its family; memory: as it is sold, such as "4 GB"
 * @param overlay whether the system's read-only overlay is on
 */
public record BoardState(
        String profile,
        String memory,
        String serial,
        String mac,
        Supply supply,
        FirmwareChip chip,
        boolean overlay,
        List<Plug> attached) {

    public BoardState {
        attached = List.copyOf(attached);
    }

    /** A drive on a port. Carrier is "announcing" or "silent"; drive is a medium's key: a file of the workspace's drives folder, or drive:SERIAL. */
    public record Plug(String port, String drive, String kind, String carrier, boolean seated) {
        public boolean silent() {
            return "silent".equals(carrier);
        }
    }

    /** The release it runs. */
    public LocalDate firmware() {
        return chip.running();
    }

    public BoardState with(FirmwareChip other) {
        return new BoardState(profile, memory, serial, mac, supply, other, overlay, attached);
    }

    /** With a drive on a port, in place of whatever was there, and nowhere else. */
    public BoardState attach(Plug plug) {
        List<Plug> plugs = new ArrayList<>(attached);
        plugs.removeIf(each -> each.port().equals(plug.port()) || each.drive().equals(plug.drive()));
        plugs.add(plug);
        return withAttached(plugs);
    }

    public BoardState detach(String drive) {
        return withAttached(
                attached.stream().filter(each -> !each.drive().equals(drive)).toList());
    }

    private BoardState withAttached(List<Plug> plugs) {
        return new BoardState(profile, memory, serial, mac, supply, chip, overlay, plugs);
    }
}
