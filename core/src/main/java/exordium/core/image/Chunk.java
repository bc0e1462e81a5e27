// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.nio.ByteBuffer;
import java.util.HexFormat;
import java.util.Locale;

/**
 * A piece of a drive by what is in it.
 *
 * @param a to d: its SHA-256, as four numbers
 */
public record Chunk(long a, long b, long c, long d) {
    /** Chunks begin at multiples of this; the last of a drive may be shorter. */
    public static final int BYTES = 128 << 10;

    private static final int HEX = 64;

    public static Chunk of(byte[] sha256) {
        ByteBuffer words = ByteBuffer.wrap(sha256);
        return new Chunk(words.getLong(), words.getLong(), words.getLong(), words.getLong());
    }

    /** From 64 hexadecimal digits. @throws IllegalArgumentException when they are none */
    public static Chunk parse(String hex) {
        if (hex.length() != HEX) {
            throw new IllegalArgumentException("no digest: " + hex.length() + " digits");
        }
        return of(HexFormat.of().parseHex(hex));
    }

    public String hex() {
        return String.format(Locale.ROOT, "%016x%016x%016x%016x", a, b, c, d);
    }
}
