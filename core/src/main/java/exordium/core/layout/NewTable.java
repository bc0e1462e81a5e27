// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.zip.CRC32;

/** A partition table from nothing: an MBR, or a GPT with its copy at the end (UEFI specification 2.10, 5.2 and 5.3). */
public final class NewTable {
    public static final int MOST_IN_MBR = 4;

    private static final int SECTOR = 512;
    private static final int ENTRIES = 128;
    private static final int ENTRY = 128;
    private static final int NAME = 56;
    private static final int NAME_LETTERS = 35;
    private static final String LINUX = "0FC63DAF-8483-4772-8E79-3D69D8477DE4";

    private NewTable() {}

    /** What a partition is for. */
    public enum Use {
        /** FAT that firmware reads. */
        START,
        LINUX
    }

    /** One of it; bytes from the start of the drive, whole sectors. Guid: of the partition in a GPT. */
    public record Entry(long start, long bytes, Use use, String name, String guid) {}

    /** Where id: eight hex digits. */
    public static void mbr(BlockDevice device, DiskIdentifier id, List<Entry> entries) throws IOException {
        if (entries.size() > MOST_IN_MBR) {
            throw new IllegalArgumentException(entries.size() + " partitions in an MBR");
        }
        ByteBuffer table = ByteBuffer.allocate(SECTOR).order(ByteOrder.LITTLE_ENDIAN);
        table.putInt(440, (int) Long.parseLong(id.text(), 16));
        for (int i = 0; i < entries.size(); i++) {
            Entry each = entries.get(i);
            int at = 446 + 16 * i;
            boolean start = each.use() == Use.START;
            table.put(at, (byte) (start ? 0x80 : 0)).put(at + 4, (byte) (start ? 0x0c : 0x83));
            table.putInt(at + 8, (int) (each.start() / SECTOR)).putInt(at + 12, (int) (each.bytes() / SECTOR));
        }
        table.put(510, (byte) 0x55).put(511, (byte) 0xaa);
        device.write(0, table);
    }

    /** Where guid: of the disk. */
    public static void gpt(BlockDevice device, String guid, List<Entry> entries) throws IOException {
        long last = device.size().bytes() / SECTOR - 1;
        ByteBuffer protective = ByteBuffer.allocate(SECTOR).order(ByteOrder.LITTLE_ENDIAN);
        protective.put(450, (byte) 0xee).putInt(454, 1).putInt(458, (int) Math.min(last, 0xFFFF_FFFFL));
        protective.put(510, (byte) 0x55).put(511, (byte) 0xaa);
        byte[] table = new byte[ENTRIES * ENTRY];
        for (int i = 0; i < entries.size(); i++) {
            Entry each = entries.get(i);
            int at = i * ENTRY;
            put(table, at, each.use() == Use.START ? Partition.EFI_SYSTEM : LINUX);
            put(table, at + 16, each.guid());
            GptWriter.putI64(table, at + 32, each.start() / SECTOR);
            GptWriter.putI64(table, at + 40, (each.start() + each.bytes()) / SECTOR - 1);
            String name = each.name().substring(0, Math.min(each.name().length(), NAME_LETTERS));
            byte[] letters = name.getBytes(StandardCharsets.UTF_16LE);
            System.arraycopy(letters, 0, table, at + NAME, letters.length);
        }
        int sectors = table.length / SECTOR;
        byte[] first = header(1, last, 2, last - sectors - 1, guid, table);
        byte[] second = header(last, 1, last - sectors, last - sectors - 1, guid, table);
        device.write((last - sectors) * SECTOR, ByteBuffer.wrap(table));
        device.write(last * SECTOR, ByteBuffer.wrap(second));
        device.write(2L * SECTOR, ByteBuffer.wrap(table));
        device.write(SECTOR, ByteBuffer.wrap(first));
        device.write(0, protective);
    }

    private static byte[] header(long own, long other, long entries, long lastUsable, String guid, byte[] table) {
        byte[] header = new byte[SECTOR];
        System.arraycopy("EFI PART".getBytes(StandardCharsets.US_ASCII), 0, header, 0, 8);
        LittleEndian.putU32(header, 8, 0x10000);
        LittleEndian.putU32(header, 12, 92);
        GptWriter.putI64(header, 24, own);
        GptWriter.putI64(header, 32, other);
        GptWriter.putI64(header, 40, 2 + table.length / SECTOR);
        GptWriter.putI64(header, 48, lastUsable);
        put(header, 56, guid);
        GptWriter.putI64(header, 72, entries);
        LittleEndian.putU32(header, 80, ENTRIES);
        LittleEndian.putU32(header, 84, ENTRY);
        LittleEndian.putU32(header, 88, crc(table, table.length));
        LittleEndian.putU32(header, 16, crc(header, 92));
        return header;
    }

    private static long crc(byte[] bytes, int length) {
        CRC32 crc = new CRC32();
        crc.update(bytes, 0, length);
        return crc.getValue();
    }

    /** The first three parts turned round (UEFI specification 2.10, appendix A). */
    private static void put(byte[] bytes, int at, String guid) {
        String[] parts = guid.split("-");
        LittleEndian.putU32(bytes, at, Long.parseLong(parts[0], 16));
        LittleEndian.putU16(bytes, at + 4, Integer.parseInt(parts[1], 16));
        LittleEndian.putU16(bytes, at + 6, Integer.parseInt(parts[2], 16));
        for (int i = 0; i < 8; i++) {
            String rest = parts[3] + parts[4];
            bytes[at + 8 + i] = (byte) Integer.parseInt(rest.substring(2 * i, 2 * i + 2), 16);
        }
    }
}
