// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.Machine;
import exordium.core.block.MachineDrive;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.layout.Growth;
import exordium.core.layout.Partition;
import java.io.IOException;
import java.nio.file.Path;

/** The system's own tools around drives of the machine: unmount, read the table again, eject, grow a file system. */
public final class DriveTools {
    private final Machine machine;

    public DriveTools(Machine machine) {
        this.machine = machine;
    }

    /** Has the system look at a new table. Only drives of the machine have one it keeps in mind. */
    public void rereadTable(Targets.Target target) {
        if (target.onMachine()) {
            machine.tools().rereadTable(target.description().path());
        }
    }

    /**
     * Grows the file system of the grown partition, where it stands on a drive of the machine and there is a tool for it.
     *
     * @return what was done with the file system, as the rest of a sentence; empty where it is left to the first start
     */
    public String growFileSystem(Targets.Target target, Growth growth) {
        if (!target.onMachine() || !growth.changes()) {
            return "";
        }
        int number = growth.partition().map(Partition::number).orElse(0);
        return machine.tools()
                .grow(machine.tools().partition(target.description().path(), number));
    }

    /**
     * Unmounts every partition of a drive that may be unmounted.
     *
     * @throws Refused when the drive holds the system, the workspace or swap space
     */
    public void unmount(MachineDrive drive) throws IOException {
        Refused.ifAnyStops(drive.fixed());
        for (String node : drive.mounted()) {
            if (!machine.tools().unmount(node)) {
                throw new NotPossible(node + " could not be unmounted: close what uses it, or do it as its owner.");
            }
        }
    }

    /** Lets a drive go, so that it can be unplugged. */
    public String eject(MachineDrive drive, Path workspace) throws IOException {
        unmount(drive);
        boolean gone = machine.tools().letGo(drive.node());
        boolean free = machine.drives()
                .find(drive.node(), workspace)
                .map(now -> now.refusals().isEmpty())
                .orElse(true);
        if (!gone && !free) {
            throw new NotPossible(drive.id() + " is still in use and was not let go.");
        }
        return drive.id() + (gone ? " can be unplugged." : " is not mounted any more; it can be unplugged.");
    }
}
