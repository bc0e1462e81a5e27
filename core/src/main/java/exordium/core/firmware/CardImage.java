// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.filesystem.fat.FatFormat;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.NewTable;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** The image of a card with one FAT32 partition and some files on it. */
public final class CardImage {
    private static final long FIRST = 1 << 20;

    private CardImage() {}

    /** Where size: of the whole card. */
    public static void make(Path file, ByteSize size, DiskIdentifier id, String label, Map<String, byte[]> files)
            throws IOException {
        Files.createFile(file);
        try (FileDevice device = FileDevice.forWriting(file, size)) {
            long length = size.bytes() - FIRST;
            NewTable.mbr(device, id, List.of(new NewTable.Entry(FIRST, length, NewTable.Use.START, label, "")));
            BlockDevice slice = new Partition(1, FIRST, ByteSize.of(length), "0x0c", true, "").on(device);
            FatFormat.fat32(slice, label, id.partition(1));
            for (Map.Entry<String, byte[]> each : files.entrySet()) {
                FatWriter.write(slice, each.getKey(), each.getValue());
            }
            device.flush();
        }
    }
}
