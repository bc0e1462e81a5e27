// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.BlockDevice;
import exordium.core.block.DriveKeeper;
import exordium.core.block.MachineDrive;
import exordium.core.finding.Refused;
import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/** Asks the disk service of the system first, and where there is none, the helper that came with the package. */
final class SystemKeeper implements DriveKeeper {
    /** The one of this installation; it remembers for a while who is there. */
    static final SystemKeeper HERE = new SystemKeeper();

    private static final long ASKED_AGAIN_AFTER = TimeUnit.SECONDS.toNanos(20);

    private long askedAt;
    private Optional<Boolean> known = Optional.empty();

    /** Whether one of both is there, remembered for some seconds: lists of drives ask often. */
    @Override
    public synchronized boolean there() {
        long now = System.nanoTime();
        if (known.isEmpty() || now - askedAt > ASKED_AGAIN_AFTER) {
            known = Optional.of(DiskService.there() || HelperDevice.there());
            askedAt = now;
        }
        return known.get();
    }

    @Override
    public BlockDevice open(MachineDrive drive, boolean forWriting) throws IOException {
        Optional<BlockDevice> handed = DiskService.open(drive, forWriting);
        if (handed.isPresent()) {
            return handed.get();
        }
        if (HelperDevice.there()) {
            return HelperDevice.open(drive, forWriting);
        }
        throw new Refused(DriveKeeper.nobody(String.valueOf(drive.node())));
    }
}
