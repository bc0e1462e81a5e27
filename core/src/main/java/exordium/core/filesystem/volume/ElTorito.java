// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.volume;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Optional;

/**
 * The start records of a disc image ("El Torito" Bootable CD-ROM Format Specification 1.0; UEFI specification, section 13.3.2.1): where
 * the image lies that UEFI firmware starts from.
 */
public final class ElTorito {
    private static final int SECTOR = 2048;
    private static final int RECORD = 17;
    private static final int CATALOGUE_AT = 0x47;
    private static final int ENTRY = 32;
    private static final int UEFI = 0xEF;
    private static final int VALIDATION = 1;
    private static final int BOOTABLE = 0x88;
    private static final int SECTION = 0x90;
    private static final int LAST_SECTION = 0x91;

    private ElTorito() {}

    /** The byte it begins at; empty on anything that is no such disc, or starts other firmware only. */
    public static Optional<Long> efiImage(BlockDevice device) throws IOException {
        byte[] record = sector(device, RECORD);
        if (record.length == 0
                || !LittleEndian.matches(record, 1, "CD001")
                || !LittleEndian.matches(record, 7, "EL TORITO SPECIFICATION")) {
            return Optional.empty();
        }
        byte[] catalogue = sector(device, LittleEndian.u32(record, CATALOGUE_AT));
        if (catalogue.length == 0 || catalogue[0] != VALIDATION) {
            return Optional.empty();
        }
        int platform = catalogue[1] & 0xFF;
        for (int at = ENTRY; at + ENTRY <= catalogue.length; at += ENTRY) {
            int mark = catalogue[at] & 0xFF;
            if (mark == SECTION || mark == LAST_SECTION) {
                platform = catalogue[at + 1] & 0xFF;
            } else if (mark == BOOTABLE && platform == UEFI) {
                long byteAt = LittleEndian.u32(catalogue, at + 8) * SECTOR;
                return byteAt > 0 && byteAt < device.size().bytes() ? Optional.of(byteAt) : Optional.empty();
            }
        }
        return Optional.empty();
    }

    private static byte[] sector(BlockDevice device, long number) throws IOException {
        long at = number * SECTOR;
        if (at < 0 || at + SECTOR > device.size().bytes()) {
            return new byte[0];
        }
        byte[] bytes = new byte[SECTOR];
        device.read(at, ByteBuffer.wrap(bytes));
        return bytes;
    }
}
