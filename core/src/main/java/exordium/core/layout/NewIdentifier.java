// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.UUID;

/** Gives an MBR another disk identifier: four bytes at 440, little-endian (UEFI specification 5.2.1, unique MBR signature). */
public final class NewIdentifier {
    private static final int PLACE = 440;
    private static final int UNIQUE = 16;
    private static final int GUID = 16;

    private NewIdentifier() {}

    /**
     * Writes it and reads it back.
     *
     * @throws UnreadableInput when the drive has no MBR, or does not keep what was written
     */
    public static void write(BlockDevice device, DiskIdentifier identifier) throws IOException {
        PartitionTable table = PartitionTables.read(device);
        if (table.kind() != PartitionTable.TableKind.MBR) {
            throw new UnreadableInput(device.name() + " has "
                    + (table.kind() == PartitionTable.TableKind.GPT ? "a GPT" : "no partition table")
                    + "; only an MBR's identifier is changed here.");
        }
        byte[] sector = device.bytes(0, AlignedBuffers.ALIGNMENT);
        LittleEndian.putU32(sector, PLACE, Long.parseLong(identifier.text(), 16));
        ByteBuffer buffer = AlignedBuffers.allocate(AlignedBuffers.ALIGNMENT);
        device.write(0, buffer.put(sector).flip());
        device.flush();
        DiskIdentifier back = PartitionTables.read(device).diskId().orElse(new DiskIdentifier(""));
        if (!back.equals(identifier)) {
            throw new UnreadableInput(device.name() + " reads back " + back + " where " + identifier + " was written.");
        }
    }

    /**
     * Gives a GPT another disk identifier and every partition another of its own (UEFI specification 5.3.2 and 5.3.3), both derived
     * from the seed and what they were, and reads them back.
     *
     * @throws UnreadableInput when neither copy of the table is whole, or the drive does not keep what was written
     */
    public static void writeGpt(BlockDevice device, DiskIdentifier seed) throws IOException {
        PartitionTable before = PartitionTables.read(device);
        GptWriter writer = new GptWriter(device, before.sectorSize());
        byte[] entries = writer.whole().entries().clone();
        for (Partition partition : before.partitions()) {
            int at = Math.multiplyExact(partition.number() - 1, writer.whole().entrySize());
            System.arraycopy(bytes(derived(seed, partition.partUuid())), 0, entries, at + UNIQUE, GUID);
        }
        String disk = derived(seed, before.diskId().map(DiskIdentifier::text).orElse(""));
        writer.write(entries, bytes(disk));
        writer.wipeOldSecond(
                before.partitions().stream().mapToLong(Partition::endByte).max().orElse(0));
        device.flush();
        PartitionTable now = PartitionTables.read(device);
        boolean kept =
                now.diskId().map(DiskIdentifier::text).filter(disk::equals).isPresent()
                        && before.partitions().stream().allMatch(each -> now.number(each.number())
                                .filter(other -> other.partUuid().equals(derived(seed, each.partUuid())))
                                .isPresent());
        if (!kept) {
            throw new UnreadableInput(device.name() + " does not read back the identifiers that were written.");
        }
    }

    /** What an identifier of a GPT becomes. */
    public static String derived(DiskIdentifier seed, String before) {
        return UUID.nameUUIDFromBytes((seed.text() + before).getBytes(StandardCharsets.US_ASCII))
                .toString();
    }

    /** As a GUID stands on a disk: its first three fields with the lowest byte first (UEFI specification, appendix A). */
    private static byte[] bytes(String guid) {
        byte[] plain = HexFormat.of().parseHex(guid.replace("-", ""));
        byte[] mixed = plain.clone();
        int[] places = {3, 2, 1, 0, 5, 4, 7, 6};
        for (int i = 0; i < places.length; i++) {
            mixed[i] = plain[places[i]];
        }
        return mixed;
    }
}
