// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.util.HexFormat;

/**
 * A piece of a drive by what is in it.
 *
 * @param a to d: its SHA-256, as four numbers
 */
public record Chunk(long a, long b, long c, long d) {
    /** Chunks begin at multiples of this; the last of a drive may be shorter. */
    public static final int BYTES = 128 << 10;

    private static final int HEX = 64;
    private static final int STEP = 1024;

    public static Chunk of(byte[] sha256) {
        ByteBuffer words = ByteBuffer.wrap(sha256);
        return new Chunk(words.getLong(), words.getLong(), words.getLong(), words.getLong());
    }

    /**
     * What is in a stretch of bytes. Taken in small steps: the digest's inner loop is compiled well only once it was called often,
     * and a process that makes one copy is over before a few thousand calls.
     */
    public static Chunk of(byte[] bytes, int from, int length) {
        MessageDigest sha = PublishedChecksum.newSha256();
        for (int at = from; at < from + length; at += STEP) {
            sha.update(bytes, at, Math.min(STEP, from + length - at));
        }
        return of(sha.digest());
    }

    /** From 64 hexadecimal digits. @throws IllegalArgumentException when they are none */
    public static Chunk parse(String hex) {
        if (hex.length() != HEX) {
            throw new IllegalArgumentException("no digest: " + hex.length() + " digits");
        }
        return of(HexFormat.of().parseHex(hex));
    }

    public String hex() {
        HexFormat hex = HexFormat.of();
        return hex.toHexDigits(a) + hex.toHexDigits(b) + hex.toHexDigits(c) + hex.toHexDigits(d);
    }
}
