// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.zip.CRC32;

/**
 * Puts both copies of a GPT down anew from the one that is whole, whatever stands where the other should be (UEFI specification
 * 5.3): the second at the very end first, then the first, so that one of them is whole at any moment.
 */
final class GptWriter {
    private static final int DISK_GUID = 56;

    private final BlockDevice device;
    private final int sector;
    private final GptReader.Copies copies;
    private final GptReader.Copy whole;

    /** @throws UnreadableInput when neither copy is whole */
    GptWriter(BlockDevice device, int sector) throws IOException {
        this.device = device;
        this.sector = sector;
        this.copies = GptReader.copies(device, sector);
        this.whole = copies.whole()
                .orElseThrow(() -> new UnreadableInput(
                        "Neither GPT header of " + device.name() + " is whole any more; it is left as it is."));
    }

    GptReader.Copies copies() {
        return copies;
    }

    GptReader.Copy whole() {
        return whole;
    }

    /** Where guid: of the disk, 16 bytes as they stand there; the old one where it is empty. */
    void write(byte[] entries, byte[] guid) throws IOException {
        long lastSector = device.size().bytes() / sector - 1;
        int entrySectors = (entries.length + sector - 1) / sector;
        long firstEntries = copies.first().isPresent() ? LittleEndian.i64(whole.header(), 72) : 2;
        if (firstEntries + entrySectors > LittleEndian.i64(whole.header(), 40)) {
            throw new UnreadableInput("The first GPT of " + device.name()
                    + " is broken and has no room before the first partition; it is left as it is.");
        }
        byte[] padded = Arrays.copyOf(entries, entrySectors * sector);
        byte[] primary = Arrays.copyOf(whole.header(), sector);
        putI64(primary, 24, 1);
        putI64(primary, 32, lastSector);
        putI64(primary, 48, lastSector - entrySectors - 1);
        putI64(primary, 72, firstEntries);
        LittleEndian.putU32(primary, 88, crc(entries, entries.length));
        System.arraycopy(guid, 0, primary, DISK_GUID, guid.length);
        byte[] backup = primary.clone();
        putI64(backup, 24, lastSector);
        putI64(backup, 32, 1);
        putI64(backup, 72, lastSector - entrySectors);
        put((lastSector - entrySectors) * sector, padded);
        put(lastSector * sector, sealed(backup));
        device.flush();
        put(firstEntries * sector, padded);
        put(sector, sealed(primary));
    }

    /** Wipes the old second header where it stands elsewhere now and behind this byte. */
    void wipeOldSecond(long behind) throws IOException {
        boolean moved = copies.second().isPresent()
                && copies.secondLba() != device.size().bytes() / sector - 1;
        if (moved && copies.secondLba() * sector >= behind) {
            put(copies.secondLba() * sector, new byte[sector]);
        }
    }

    private static byte[] sealed(byte[] header) {
        LittleEndian.putU32(header, 16, 0);
        LittleEndian.putU32(header, 16, crc(header, (int) LittleEndian.u32(header, 12)));
        return header;
    }

    private static long crc(byte[] bytes, int length) {
        CRC32 crc = new CRC32();
        crc.update(bytes, 0, length);
        return crc.getValue();
    }

    static void putI64(byte[] bytes, int at, long value) {
        LittleEndian.putU32(bytes, at, value & 0xFFFF_FFFFL);
        LittleEndian.putU32(bytes, at + 4, value >>> 32);
    }

    private void put(long position, byte[] bytes) throws IOException {
        device.write(position, ByteBuffer.wrap(bytes));
    }
}
