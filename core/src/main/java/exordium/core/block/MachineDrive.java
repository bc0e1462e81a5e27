// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Subject;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A block device of this machine as the system describes it, with every reason for which it must not be written.
 *
 * @param id kernel name, such as {@code loop3}; what is typed to confirm it
 * @param serial of the medium itself; empty where it tells none, or only its reader does
 * @param bus how it is connected: usb, sata, nvme, mmc, loop, other
 * @param mounted nodes of it that are mounted somewhere
 * @param refusals stops; empty only where writing would be allowed once real drives are turned on
 * @param identity the number of its device
 * @param tableId the identifier of its partition table as the system's device database keeps it, known without opening the
 *     drive; empty where it keeps none
 * @param sequence the kernel's count of media that came, another for each that is put in; empty where it keeps none
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
        List<Finding> refusals,
        Optional<FileIdentity> identity,
        String sequence,
        Optional<String> tableId) {
    /** Refusals that no unmounting lifts: it belongs to the machine, not to the drawer. */
    public List<Finding> fixed() {
        return refusals.stream()
                .filter(refusal -> refusal.isAbout(Subject.BELONGS_ELSEWHERE) || refusal.isAbout(Subject.OPEN_NOW))
                .toList();
    }

    /** Whether the other is this very medium, still in its place. */
    public boolean isStill(MachineDrive other) {
        return id.equals(other.id)
                && size.equals(other.size)
                && serial.equals(other.serial)
                && identity.equals(other.identity)
                && sequence.equals(other.sequence);
    }

    /** Opens it as this user may; nobody is asked. */
    public BlockDevice open(boolean forWriting) throws IOException {
        return FileDevice.ofMachine(this, !forWriting);
    }

    /**
     * The same; where this user may not, whoever may allow it is asked, which can take as long as somebody types a password.
     *
     * @throws Refused when leave is not given, or nobody is there to be asked
     */
    public BlockDevice openAsking(boolean forWriting) throws IOException {
        if (mayOpen(forWriting)) {
            return open(forWriting);
        }
        DriveKeeper keeper =
                Machine.here().keeper().orElseThrow(() -> new Refused(DriveKeeper.nobody(String.valueOf(node))));
        return keeper.open(this, forWriting);
    }

    /** Another text whenever somebody has written to it (kernel documentation, block/stat); empty where that is not told. */
    public String changeMark() throws IOException {
        return Machine.here().drives().changeMark(id);
    }

    private boolean mayOpen(boolean forWriting) {
        return Files.isReadable(node) && (!forWriting || Files.isWritable(node));
    }
}
