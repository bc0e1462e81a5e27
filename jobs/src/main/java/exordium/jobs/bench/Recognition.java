// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.BlockDevice;
import exordium.core.block.Machine;
import exordium.core.block.MachineDrive;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.PartitionTables;
import exordium.store.Media;
import exordium.store.Workspace;
import java.io.IOException;
import java.util.Optional;

/**
 * Which medium of the register a drive of this machine is: by its own serial; else, as long as it stays plugged in, by the kernel's
 * count of media that came, under which it was noted; else by its size and the identifier of its table. A mere look: nobody is asked
 * for leave to read it.
 */
public final class Recognition {
    private static final String NOTED = "plugged.";

    private final Workspace workspace;
    private final Machine machine;

    Recognition(Workspace workspace, Machine machine) {
        this.workspace = workspace;
        this.machine = machine;
    }

    public Optional<Media.Medium> of(MachineDrive drive) {
        if (!drive.serial().isEmpty()) {
            return workspace.media().bySerial(drive.serial());
        }
        Optional<Media.Medium> noted = noted(drive);
        return noted.isPresent() ? noted : workspace.media().byDiskId(identifier(drive), "", Optional.of(drive.size()));
    }

    public boolean is(Media.Medium medium, MachineDrive drive) {
        return of(drive).filter(medium::equals).isPresent();
    }

    /** By looking at its table; where this user may not, as the system keeps it. */
    public static Optional<String> identifier(MachineDrive drive) {
        try (BlockDevice device = drive.open(false)) {
            return PartitionTables.read(device).diskId().map(DiskIdentifier::text);
        } catch (IOException e) {
            return drive.tableId();
        }
    }

    /** Notes that a drive is this medium until it is pulled out, whatever is written to it meanwhile. */
    public void note(Media.Medium medium, MachineDrive drive) {
        Optional<String> mark = mark(drive);
        boolean news = drive.serial().isEmpty()
                && mark.isPresent()
                && !mark.equals(workspace.settings().get(NOTED + medium.id()));
        if (news) {
            workspace.settings().put(NOTED + medium.id(), mark.get());
        }
    }

    private Optional<Media.Medium> noted(MachineDrive drive) {
        Optional<String> mark = mark(drive);
        if (mark.isEmpty()) {
            return Optional.empty();
        }
        return workspace.settings().all().entrySet().stream()
                .filter(each ->
                        each.getKey().startsWith(NOTED) && each.getValue().equals(mark.get()))
                .map(each -> each.getKey().substring(NOTED.length()))
                .findFirst()
                .flatMap(id -> workspace.media().all().stream()
                        .filter(medium -> medium.id().equals(id))
                        .findFirst());
    }

    /** The same for one medium in one place since one start of this machine, and never again; empty where the kernel does not count. */
    private Optional<String> mark(MachineDrive drive) {
        String start = machine.sinceStart();
        return drive.sequence().isEmpty() || start.isEmpty()
                ? Optional.empty()
                : Optional.of(start + " " + drive.id() + " " + drive.sequence());
    }
}
