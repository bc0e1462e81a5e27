// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import java.util.Locale;

/**
 * The identifier a partition table carries: four bytes of an MBR in hex, or a GPT's GUID. Two media that were cloned
 * have the same one.
 */
public record DiskIdentifier(String text) {

    public static DiskIdentifier ofMbr(long signature) {
        return new DiskIdentifier(String.format(Locale.ROOT, "%08x", signature));
    }

    /** The identifier of a partition as a kernel line names it: "7c41e0b2-02" for MBR. */
    public String partition(int number) {
        return String.format(Locale.ROOT, "%s-%02x", text, number);
    }

    /** Text in which identifiers of partitions begin with another disk's; nothing else is touched. */
    public static String renamed(String text, String before, String after) {
        return text.replaceAll("(?i)(PARTUUID=\"?)" + before + "(-[0-9a-f]{2})", "$1" + after + "$2");
    }

    @Override
    public String toString() {
        return text;
    }
}
