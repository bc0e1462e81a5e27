// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.OverBound;
import exordium.core.quantity.ByteSize;
import java.util.Optional;

/**
 * How much a container may unpack to. A few kB can stand for terabytes of zeros: beyond {@link #FREE} bytes it may hold at most
 * {@link #RATIO} times its own size, and never more than the room that was named for it.
 *
 * @param byRatio most bytes by the container's own size
 * @param room most bytes of the place it is unpacked for, with what that place is
 */
record UnpackedBound(long byRatio, Optional<Room> room) {
    /** Whatever its ratio: an image of nothing but zeros is a fair thing to practise with. */
    static final long FREE = 4L << 30;

    /** A system's image packs to a fifth; one on an empty large card to a thousandth (common practice, no source). */
    static final long RATIO = 5000;

    /** Bytes, and whose they are. */
    record Room(long bytes, String what) {}

    static UnpackedBound byRatio(ByteSize packed) {
        long most = packed.bytes() > Long.MAX_VALUE / RATIO ? Long.MAX_VALUE : packed.bytes() * RATIO;
        return new UnpackedBound(Math.max(FREE, most), Optional.empty());
    }

    static UnpackedBound known(ByteSize size) {
        return new UnpackedBound(size.bytes(), Optional.empty());
    }

    UnpackedBound within(ByteSize most, String what) {
        return new UnpackedBound(byRatio, Optional.of(new Room(most.bytes(), what)));
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
        if (unpacked > byRatio) {
            throw new OverBound(
                    name + " unpacks to more than " + ByteSize.of(byRatio).said() + ", over "
                            + RATIO
                            + " times its own size: no image is packed like that. If it is meant, unpack it first and give"
                            + " the image itself.",
                    byRatio);
        }
    }
}
