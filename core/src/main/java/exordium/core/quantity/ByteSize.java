// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A count of bytes. Drives are sold in powers of ten and files counted in powers of two, so it can say both. */
public record ByteSize(@JsonValue long bytes) implements Comparable<ByteSize> {
    public static final ByteSize ZERO = new ByteSize(0);

    private static final String[] DECIMAL = {"B", "kB", "MB", "GB", "TB", "PB", "EB"};
    private static final String[] BINARY = {"B", "KiB", "MiB", "GiB", "TiB", "PiB", "EiB"};
    private static final Pattern WRITTEN =
            Pattern.compile("\\s*([0-9]+(?:[.,][0-9]+)?)\\s*([kKmMgGtTpPeE]?[iI]?)[bB]?\\s*");

    public ByteSize {
        if (bytes < 0) {
            throw new IllegalArgumentException("a size cannot be negative: " + bytes);
        }
    }

    @JsonCreator
    public static ByteSize of(long bytes) {
        return new ByteSize(bytes);
    }

    /** A size sold in powers of ten, as on a label: 32 means 32 000 000 000 bytes. */
    public static ByteSize ofGigabytes(double gigabytes) {
        return new ByteSize(Math.round(gigabytes * 1e9));
    }

    public static ByteSize ofMebibytes(long mebibytes) {
        return new ByteSize(Math.multiplyExact(mebibytes, 1L << 20));
    }

    /**
     * Reads "31914983424", "32GB", "29.8 GiB".
     *
     * @throws IllegalArgumentException naming the text when it is none of these
     */
    @JsonCreator
    public static ByteSize parse(String text) {
        Matcher match = WRITTEN.matcher(text);
        if (!match.matches()) {
            throw new IllegalArgumentException(
                    "not a size: \"" + text + "\"; write bytes, or a number with MB, GB or GiB");
        }
        String unit = match.group(2).toUpperCase(Locale.ROOT);
        int power = unit.isEmpty() ? 0 : "KMGTPE".indexOf(unit.charAt(0)) + 1;
        double bytes = Double.parseDouble(match.group(1).replace(',', '.'))
                * Math.pow(unit.endsWith("I") ? 1024 : 1000, power);
        if (bytes > 1e18) {
            throw new IllegalArgumentException("too large a size: \"" + text + "\"");
        }
        return new ByteSize(Math.round(bytes));
    }

    public ByteSize plus(ByteSize other) {
        return new ByteSize(Math.addExact(bytes, other.bytes));
    }

    /** What is left after taking the other away, never less than nothing. */
    public ByteSize minusOrZero(ByteSize other) {
        return new ByteSize(Math.max(0, bytes - other.bytes));
    }

    /** Powers of ten, three figures: "31.9 GB". */
    public String said() {
        return scaled(bytes, 1000, DECIMAL);
    }

    /** Powers of two, three figures: "29.8 GiB". */
    public String binary() {
        return scaled(bytes, 1024, BINARY);
    }

    /** Every byte: "31 914 983 424 B". */
    public String exact() {
        return Decimals.grouped(bytes) + " B";
    }

    @Override
    public int compareTo(ByteSize other) {
        return Long.compare(bytes, other.bytes);
    }

    @Override
    public String toString() {
        return said();
    }

    private static String scaled(long bytes, int step, String[] units) {
        double value = bytes;
        int unit = 0;
        while (Math.round(value * 10) >= step * 10L && unit < units.length - 1) {
            value /= step;
            unit++;
        }
        if (unit == 0) {
            return bytes + " B";
        }
        return Decimals.fixed(value, value < 10 ? 2 : value < 100 ? 1 : 0) + " " + units[unit];
    }
}
