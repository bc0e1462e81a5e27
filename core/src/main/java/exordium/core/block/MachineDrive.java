// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/**
 * A block device of this machine as the system describes it, with every reason for which it must not be written.
 *
 * @param id kernel name, such as {@code loop3}; what is typed to confirm it
 * @param bus how it is connected: usb, sata, nvme, mmc, loop, other
 * @param refusals stops; empty only where writing would be allowed once real drives are turned on
 */
public record MachineDrive(
        String id,
        Path node,
        String bus,
        String model,
        String serial,
        ByteSize size,
        int sectorSize,
        boolean removable,
        boolean readOnly,
        List<Finding> refusals) {

    public BlockDevice open(boolean forWriting) throws IOException {
        return FileDevice.ofMachine(node, size, sectorSize, !forWriting);
    }
}
