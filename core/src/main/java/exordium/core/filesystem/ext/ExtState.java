// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import java.io.IOException;

/**
 * What an ext file system notes of itself in its superblock (Linux kernel documentation, ext4 super block: s_mnt_count, s_state,
 * s_feature_incompat, s_error_count). Neither counter is ever turned back but by a check.
 *
 * @param letGo whether its state says that it was unmounted
 * @param faulty whether its state says that it found errors
 * @param journalOpen whether its journal has not been carried out
 * @param errors and mounts counted since the last check
 */
public record ExtState(boolean letGo, boolean faulty, boolean journalOpen, long errors, long mounts) {
    private static final int SUPERBLOCK = 1024;
    private static final int LENGTH = 0x200;
    private static final int MOUNTS = 0x34;
    private static final int STATE = 0x3A;
    private static final int INCOMPAT = 0x60;
    private static final int RECOVER = 4;
    private static final int ERRORS = 0x194;
    private static final int CLEAN = 1;
    private static final int FAULTY = 2;

    /** Of the file system that begins where {@code partition} does. */
    public static ExtState of(BlockDevice partition) throws IOException {
        byte[] block = partition.bytes(SUPERBLOCK, LENGTH);
        int state = LittleEndian.u16(block, STATE);
        return new ExtState(
                (state & CLEAN) != 0,
                (state & FAULTY) != 0,
                (LittleEndian.u32(block, INCOMPAT) & RECOVER) != 0,
                LittleEndian.u32(block, ERRORS),
                LittleEndian.u16(block, MOUNTS));
    }
}
