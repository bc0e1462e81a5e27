// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import java.nio.ByteBuffer;
import java.util.UUID;

/** Identifiers stored as sixteen bytes in their written order. */
public final class Uuids {
    private Uuids() {}

    /** Empty where all bytes are zero. */
    public static String plain(byte[] bytes, int at) {
        ByteBuffer buffer = ByteBuffer.wrap(bytes, at, 16);
        UUID uuid = new UUID(buffer.getLong(), buffer.getLong());
        return uuid.getMostSignificantBits() == 0 && uuid.getLeastSignificantBits() == 0 ? "" : uuid.toString();
    }
}
