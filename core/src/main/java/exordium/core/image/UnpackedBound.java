// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.OverBound;
import exordium.core.quantity.ByteSize;
import java.util.Optional;

/**
 * How much a container may unpack to. A few kB can stand for terabytes of zeros: the more it unpacks to for its own size, the
 * sooner it has to end. Never more than the room that was named for it.
 *
 * @param packed the container's own size
 * @param known where its size is known from when it was made here
 * @param room most bytes of the place it is unpacked for, with what that place is
 */
record UnpackedBound(long packed, Optional<ByteSize> known, Optional<Room> room) {
    /** A system's image packs to a fifth; one on an empty large card to a thousandth (common practice, no source). */
    static final long RATIO = 5000;

    /** So much is free whatever the ratio: an image of little but zeros is a fair thing to practise with. */
    static final long FREE = 4L << 30;

    /** Only what was made to be a trap packs like this. */
    static final long TRAP_RATIO = 100_000;

    static final long FREE_IN_A_TRAP = 512L << 20;

    /** Bytes, and whose they are. */
    record Room(long bytes, String what) {}

    static UnpackedBound byRatio(ByteSize packed) {
        return new UnpackedBound(packed.bytes(), Optional.empty(), Optional.empty());
    }

    UnpackedBound known(ByteSize size) {
        return new UnpackedBound(packed, Optional.of(size), room);
    }

    UnpackedBound within(ByteSize most, String what) {
        return new UnpackedBound(packed, known, Optional.of(new Room(most.bytes(), what)));
    }

    /** @throws OverBound when so many bytes are more than it may hold */
    void require(String name, long unpacked) throws OverBound {
        if (room.isPresent() && unpacked > room.get().bytes()) {
            throw new OverBound(
                    name + " unpacks to more than the "
                            + ByteSize.of(room.get().bytes()).exact() + " of "
                            + room.get().what() + "; nothing of it was kept.",
                    room.get().bytes());
        }
        if (known.isPresent()) {
            if (unpacked > known.get().bytes()) {
                throw new OverBound(
                        name + " unpacks to more than the " + known.get().exact() + " it was made from.",
                        known.get().bytes());
            }
            return;
        }
        long ratio = unpacked / Math.max(1, packed);
        boolean trap = ratio >= TRAP_RATIO && unpacked > FREE_IN_A_TRAP;
        if (trap || (ratio >= RATIO && unpacked > FREE)) {
            throw new OverBound(
                    name + " unpacks to more than "
                            + ByteSize.of(trap ? FREE_IN_A_TRAP : FREE).said() + " and over "
                            + (trap ? TRAP_RATIO : RATIO)
                            + " times its own size: no image is packed like that. If it is meant, unpack it first and give"
                            + " the image itself.",
                    trap ? FREE_IN_A_TRAP : FREE);
        }
    }
}
