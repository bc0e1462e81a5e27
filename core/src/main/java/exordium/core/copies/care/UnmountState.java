// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.block.MediumException;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.ext.ExtState;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Whether the file systems of a drive were let go cleanly when it was taken out: how sure a copy of it is.
 *
 * @param clean whether each of those that tell says so
 * @param why one sentence for each that does not
 */
public record UnmountState(boolean clean, List<String> why) {
    /** FAT specification: the second entry of the FAT holds ClnShutBit, set when it was let go. */
    private static final int FAT16_CLEAN = 0x8000;

    private static final int FAT32_CLEAN = 0x08000000;

    public static UnmountState of(BlockDevice drive, DriveInspection inspection) throws IOException {
        List<String> why = new ArrayList<>();
        for (PartitionContent each : inspection.partitions()) {
            if (each.partition().endByte() > drive.size().bytes()) {
                continue;
            }
            BlockDevice slice = each.partition().on(drive);
            String name = "partition " + each.partition().number();
            try {
                if (each.fileSystem().kind().isExt()) {
                    ext(slice, name, why);
                } else if (each.fileSystem().kind() == FileSystemKind.FAT32
                        || each.fileSystem().kind() == FileSystemKind.FAT16) {
                    fat(slice, each.fileSystem().kind(), name, why);
                }
            } catch (MediumException e) {
                why.add("What " + name + " says of itself cannot be read.");
            }
        }
        return new UnmountState(why.isEmpty(), List.copyOf(why));
    }

    private static void ext(BlockDevice slice, String name, List<String> why) throws IOException {
        ExtState state = ExtState.of(slice);
        if (state.journalOpen()) {
            why.add("The journal of " + name + " has not been carried out: it was not let go before it was taken out.");
        } else if (!state.letGo()) {
            why.add("The file system of " + name + " was not let go before it was taken out.");
        }
        if (state.faulty()) {
            why.add("The file system of " + name
                    + " has noted errors of its own: check it (fsck) before it is relied on.");
        }
    }

    private static void fat(BlockDevice slice, FileSystemKind kind, String name, List<String> why) throws IOException {
        byte[] boot = slice.bytes(0, 512);
        int sector = LittleEndian.u16(boot, 11);
        long fat = (long) LittleEndian.u16(boot, 14) * sector;
        if (fat == 0 || fat + 8 > slice.size().bytes()) {
            return;
        }
        byte[] entries = slice.bytes(fat, 8);
        boolean clean = kind == FileSystemKind.FAT16
                ? (LittleEndian.u16(entries, 2) & FAT16_CLEAN) != 0
                : (LittleEndian.u32(entries, 4) & FAT32_CLEAN) != 0;
        if (!clean) {
            why.add("The file system of " + name + " was not let go before it was taken out.");
        }
    }
}
