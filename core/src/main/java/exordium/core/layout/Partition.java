// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.quantity.ByteSize;

/**
 * One partition.
 *
 * @param type MBR type in hex without leading zero ("c", "83"), or the GPT type GUID in upper case
 * @param partUuid what {@code root=PARTUUID=} names
 * @param name what {@code root=PARTLABEL=} names; a GPT keeps one
 */
public record Partition(
        int number, long startByte, ByteSize size, String type, boolean active, String partUuid, String name) {
    /** One whose table keeps no names. */
    public Partition(int number, long startByte, ByteSize size, String type, boolean active, String partUuid) {
        this(number, startByte, size, type, active, partUuid, "");
    }

    /** GPT type of an EFI system partition (UEFI specification, 5.3.3). */
    public static final String EFI_SYSTEM = "C12A7328-F81F-11D2-BA4B-00A0C93EC93B";

    public long endByte() {
        return startByte + size.bytes();
    }

    /** Whether a board's firmware would look for its start files here: a FAT or EFI type. */
    public boolean startType() {
        return switch (type) {
            case "1", "4", "6", "b", "c", "e", "ef", EFI_SYSTEM -> true;
            default -> false;
        };
    }

    /** An extended partition, which only holds the logical ones. */
    public boolean holdsOthers() {
        return switch (type) {
            case "5", "f", "85" -> true;
            default -> false;
        };
    }

    public BlockDevice on(BlockDevice device) {
        return device.slice(device.name() + " partition " + number, startByte, size);
    }
}
