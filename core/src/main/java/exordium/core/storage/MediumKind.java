// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import java.util.List;
import java.util.Optional;

/**
 * A kind of medium, as the shipped catalogue describes it.
 *
 * @param also other names it is called by in scenarios
 * @param bus what it speaks: sd, usb, sata, nvme, emmc
 * @param adapters the links it brings along, such as SATA inside a USB enclosure
 * @param cycles erase cycles of its flash, where no rating is known
 * @param watts the most it draws
 */
public record MediumKind(
        String id,
        List<String> also,
        String title,
        String bus,
        List<Link> adapters,
        ByteRate readRate,
        ByteRate writeRate,
        int cycles,
        Watts watts) {

    /** All writes its flash bears, by size and cycles, at the write amplification given. */
    public ByteSize lifetimeWrites(ByteSize capacity, double amplification) {
        return ByteSize.of(Math.round((double) capacity.bytes() * cycles / amplification));
    }

    /** A medium in hand: its kind, its real bytes, and what is known of its wear. */
    public record Medium(
            String id, String name, MediumKind kind, ByteSize size, Optional<ByteSize> ratedWrites, ByteSize written) {}
}
