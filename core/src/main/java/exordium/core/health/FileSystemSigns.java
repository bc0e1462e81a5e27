// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.filesystem.ext.ExtState;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;

/**
 * What the ext file systems of a drive noted of themselves, taken together.
 *
 * @param unclean whether one was not let go when it was last used
 * @param errors noted since the last check; mounts: since then as well
 */
public record FileSystemSigns(boolean unclean, long errors, long mounts) {
    public static final FileSystemSigns NONE = new FileSystemSigns(false, 0, 0);

    public static FileSystemSigns of(BlockDevice drive, DriveInspection inspection) throws IOException {
        boolean unclean = false;
        long errors = 0;
        long mounts = 0;
        for (PartitionContent each : inspection.partitions()) {
            if (!each.fileSystem().kind().isExt()
                    || each.partition().endByte() > drive.size().bytes()) {
                continue;
            }
            try {
                ExtState state = ExtState.of(each.partition().on(drive));
                unclean |= state.journalOpen() || !state.letGo();
                errors += state.errors() == 0 && state.faulty() ? 1 : state.errors();
                mounts += state.mounts();
            } catch (MediumException e) {
                errors++;
            }
        }
        return new FileSystemSigns(unclean, errors, mounts);
    }
}
