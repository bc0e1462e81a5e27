// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.quantity.ByteSize;
import java.io.IOException;

/** The frame of a drive of the machine that somebody else opened; how its bytes move is left to be written. */
public abstract class DriveDevice implements BlockDevice {
    private final MachineDrive drive;
    private final boolean readOnly;

    protected DriveDevice(MachineDrive drive, boolean readOnly) {
        this.drive = drive;
        this.readOnly = readOnly;
    }

    @Override
    public final String name() {
        return drive.id();
    }

    @Override
    public final ByteSize size() {
        return drive.size();
    }

    @Override
    public final int sectorSize() {
        return drive.sectorSize();
    }

    @Override
    public final boolean readOnly() {
        return readOnly;
    }

    @Override
    public final String changeMark() throws IOException {
        return drive.changeMark();
    }
}
