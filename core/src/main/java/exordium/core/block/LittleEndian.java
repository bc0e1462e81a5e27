// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.nio.charset.StandardCharsets;

/** Fields of on-disk structures: little-endian numbers and padded text at an offset of an array. */
public final class LittleEndian {
    private LittleEndian() {}

    public static int u8(byte[] bytes, int at) {
        return bytes[at] & 0xFF;
    }

    public static int u16(byte[] bytes, int at) {
        return u8(bytes, at) | (u8(bytes, at + 1) << 8);
    }

    public static long u32(byte[] bytes, int at) {
        return u16(bytes, at) | ((long) u16(bytes, at + 2) << 16);
    }

    /** A 64-bit field; values above Long.MAX_VALUE come out negative and are for the caller to refuse. */
    public static long i64(byte[] bytes, int at) {
        return u32(bytes, at) | (u32(bytes, at + 4) << 32);
    }

    public static void putU16(byte[] bytes, int at, int value) {
        bytes[at] = (byte) value;
        bytes[at + 1] = (byte) (value >>> 8);
    }

    public static void putU32(byte[] bytes, int at, long value) {
        for (int i = 0; i < 4; i++) {
            bytes[at + i] = (byte) (value >>> (8 * i));
        }
    }

    /** Text up to its first zero byte, without trailing spaces; bytes outside ASCII become question marks. */
    public static String text(byte[] bytes, int at, int length) {
        int end = at;
        while (end < at + length && bytes[end] != 0) {
            end++;
        }
        return new String(bytes, at, end - at, StandardCharsets.US_ASCII).stripTrailing();
    }

    public static boolean matches(byte[] bytes, int at, String expected) {
        byte[] wanted = expected.getBytes(StandardCharsets.ISO_8859_1);
        return at + wanted.length <= bytes.length
                && java.util.Arrays.equals(bytes, at, at + wanted.length, wanted, 0, wanted.length);
    }
}
