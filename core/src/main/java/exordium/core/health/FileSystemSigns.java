// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.block.MediumException;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;

/**
 * What the ext file systems of a drive noted of themselves (Linux kernel documentation, ext4 super block: s_mnt_count, s_state,
 * s_error_count). Neither counter is ever turned back but by a check.
 *
 * @param unclean whether one was not let go when it was last used
 * @param errors noted since the last check; mounts: since then as well
 */
public record FileSystemSigns(boolean unclean, long errors, long mounts) {
    public static final FileSystemSigns NONE = new FileSystemSigns(false, 0, 0);

    private static final int SUPERBLOCK = 1024;
    private static final int LENGTH = 0x200;
    private static final int MOUNTS = 0x34;
    private static final int STATE = 0x3A;
    private static final int INCOMPAT = 0x60;
    private static final int RECOVER = 4;
    private static final int ERRORS = 0x194;
    private static final int CLEAN = 1;
    private static final int FAULTY = 2;

    public static FileSystemSigns of(BlockDevice drive, DriveInspection inspection) throws IOException {
        boolean unclean = false;
        long errors = 0;
        long mounts = 0;
        for (PartitionContent each : inspection.partitions()) {
            if (!each.fileSystem().kind().isExt()
                    || each.partition().endByte() > drive.size().bytes()) {
                continue;
            }
            byte[] block;
            try {
                block = each.partition().on(drive).bytes(SUPERBLOCK, LENGTH);
            } catch (MediumException e) {
                errors++;
                continue;
            }
            int state = LittleEndian.u16(block, STATE);
            boolean recover = (LittleEndian.u32(block, INCOMPAT) & RECOVER) != 0;
            unclean |= recover || (state & CLEAN) == 0;
            long noted = LittleEndian.u32(block, ERRORS);
            errors += noted == 0 && (state & FAULTY) != 0 ? 1 : noted;
            mounts += LittleEndian.u16(block, MOUNTS);
        }
        return new FileSystemSigns(unclean, errors, mounts);
    }
}
