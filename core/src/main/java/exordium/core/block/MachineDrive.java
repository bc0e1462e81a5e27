// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/**
 * A block device of this machine as the system describes it, with every reason for which it must not be written.
 *
 * @param id kernel name, such as {@code loop3}; what is typed to confirm it
 * @param bus how it is connected: usb, sata, nvme, mmc, loop, other
 * @param mounted nodes of it that are mounted somewhere
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
        List<String> mounted,
        List<Finding> refusals) {
    private static final Set<String> FIXED =
            Set.of("target-holds-system", "target-holds-workspace", "target-is-swap", "target-held", "target-absent");

    /** Refusals that no unmounting lifts: it belongs to the machine, not to the drawer. */
    public List<Finding> fixed() {
        return refusals.stream()
                .filter(refusal -> FIXED.contains(refusal.code()))
                .toList();
    }

    public BlockDevice open(boolean forWriting) throws IOException {
        return FileDevice.ofMachine(node, size, sectorSize, !forWriting);
    }
}
