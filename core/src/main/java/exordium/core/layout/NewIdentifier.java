// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Gives an MBR another disk identifier: four bytes at 440, little-endian (UEFI specification 5.2.1, unique MBR signature). */
public final class NewIdentifier {
    private static final int PLACE = 440;

    private NewIdentifier() {}

    /**
     * Writes it and reads it back.
     *
     * @throws UnreadableInput when the drive has no MBR, or does not keep what was written
     */
    public static void write(BlockDevice device, DiskIdentifier identifier) throws IOException {
        PartitionTable table = PartitionTables.read(device);
        if (table.kind() != PartitionTable.Kind.MBR) {
            throw new UnreadableInput(
                    device.name() + " has " + (table.kind() == PartitionTable.Kind.GPT ? "a GPT" : "no partition table")
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
}
