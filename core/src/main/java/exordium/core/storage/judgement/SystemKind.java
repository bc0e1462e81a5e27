// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;

/**
 * What runs on the board, with the room it takes and the memory it wants. Sizes, and 4 GB for a 64-bit desktop, 4 GB at the
 * least and 8 GB to be useful for a hypervisor: common practice, no source.
 */
public enum SystemKind implements Coded {
    LITE("lite", 2.8, 0.5, 0.5, 0, false),
    DESKTOP("desktop", 8, 2, 4, 8, true),
    SERVER("server", 4, 1, 1, 0, false),
    HYPERVISOR("hypervisor", 12, 4, 8, 150, true),
    PC_DESKTOP("general-purpose desktop for PCs", 12, 4, 4, 40, true);

    private final String title;
    private final double room;
    private final double leastMemory;
    private final double usefulMemory;
    private final double longerStart;
    private final boolean feelsSpeed;

    SystemKind(
            String title,
            double room,
            double leastMemory,
            double usefulMemory,
            double longerStart,
            boolean feelsSpeed) {
        this.title = title;
        this.room = room;
        this.leastMemory = leastMemory;
        this.usefulMemory = usefulMemory;
        this.longerStart = longerStart;
        this.feelsSpeed = feelsSpeed;
    }

    @JsonCreator
    public static SystemKind of(String code) {
        return Coded.of(SystemKind.class, code);
    }

    public String title() {
        return title;
    }

    public ByteSize room() {
        return ByteSize.ofGigabytes(room);
    }

    /** In GB, as memory is sold; a desktop of 32 bits starts with 1 GB and is useful from 2. */
    public double leastMemory(boolean narrow) {
        return narrow && this == DESKTOP ? 1 : leastMemory;
    }

    public double usefulMemory(boolean narrow) {
        return narrow && this == DESKTOP ? 2 : usefulMemory;
    }

    /** Seconds by which its start is longer than a lite system's; a hypervisor is up after minutes. Common practice, no source. */
    public double longerStart() {
        return longerStart;
    }

    /** Whether somebody sits in front of it and feels how quick its storage is. */
    public boolean feelsSpeed() {
        return feelsSpeed;
    }
}
