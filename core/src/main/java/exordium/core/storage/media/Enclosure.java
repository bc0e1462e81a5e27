// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.quantity.Watts;
import java.util.Collection;
import java.util.List;

/**
 * A box that makes an M.2 drive pluggable somewhere else.
 *
 * @param takes the protocol inside: nvme or sata; the connector is the same, the protocol is not
 * @param lengths M.2 codes it has room for
 * @param plugs the bus it is plugged into
 * @param randomShare of the drive's random figures that is left behind it
 */
public record Enclosure(
        String id,
        String title,
        String takes,
        String form,
        List<Integer> lengths,
        String plugs,
        List<Link> links,
        double randomShare,
        Watts watts,
        double price) {
    public boolean fits(MediumKind kind) {
        return kind.form().equals(form)
                && kind.bus().equals(takes)
                && kind.m2().filter(m2 -> lengths.contains(m2.length())).isPresent();
    }

    /** Whether such a medium goes into a port of these buses with it. */
    public boolean leads(MediumKind kind, Collection<String> buses) {
        return fits(kind) && buses.contains(plugs);
    }
}
