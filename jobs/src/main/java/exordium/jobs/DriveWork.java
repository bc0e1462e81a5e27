// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.inspection.UsedMap;
import exordium.core.layout.Growth;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.CapacityProof;
import exordium.core.writing.Clearing;
import exordium.store.Media;
import java.io.IOException;
import java.util.Optional;
import java.util.function.LongSupplier;

/** What is done to a drive besides writing an image: cleared, its last partition grown, its capacity proven. */
public final class DriveWork {
    private final Workbench workbench;
    private final LongSupplier seeds;

    public DriveWork(Workbench workbench, LongSupplier seeds) {
        this.workbench = workbench;
        this.seeds = seeds;
    }

    /** How much of a drive is proven. */
    public enum Proof {
        /** A wrap is found in seconds, and everything stays as it was. */
        QUICK,
        /** What no file system holds is written over and read back. */
        FREE,
        /** All of it; everything on it is lost. */
        WHOLE
    }

    /** Takes tables and signatures off. */
    public String clear(Targets.Target target, String typed, TransferWatch watch) throws IOException {
        requireAllowed(target, typed);
        Clearing.Report report;
        try (BlockDevice device = target.opener().open(true)) {
            report = Clearing.run(device, watch);
        }
        MachineTools.rereadTable(target);
        String words = report.sentence(target.description().id());
        log(target, "drive-cleared", words);
        written(target, report.clearedBytes());
        return words;
    }

    /** Makes the last partition as large as the house rule's free tail allows. */
    public String grow(Targets.Target target, String typed) throws IOException {
        requireAllowed(target, typed);
        Growth growth;
        try (BlockDevice device = target.opener().open(true)) {
            growth = Growth.plan(device, workbench.workspace().settings().freeTail());
            growth.apply();
        }
        MachineTools.rereadTable(target);
        String words = growth.finding().text() + MachineTools.growFileSystem(target, growth);
        if (growth.changes()) {
            log(target, "drive-grown", target.description().id() + ": " + words);
        }
        return words;
    }

    /** Proves how much the drive really holds. */
    public CapacityProof.Report prove(Targets.Target target, String typed, Proof proof, TransferWatch watch)
            throws IOException {
        requireAllowed(target, typed);
        CapacityProof.Report report;
        try (BlockDevice device = target.opener().open(true)) {
            report = switch (proof) {
                case QUICK -> CapacityProof.quick(device, seeds.getAsLong(), watch);
                case FREE -> CapacityProof.whole(device, Optional.of(UsedMap.of(device)), seeds.getAsLong(), watch);
                case WHOLE -> CapacityProof.whole(device, Optional.empty(), seeds.getAsLong(), watch);
            };
        }
        String words = report.sentence(target.description().id());
        log(target, report.sound() ? "capacity-proven" : "capacity-false", words);
        Optional<Media.Medium> medium = WriteJob.registered(workbench.workspace(), target);
        if (medium.isPresent()) {
            Media media = workbench.workspace().media();
            var now = workbench.workspace().clock().instant();
            if (!report.sound()) {
                media.fault(medium.get().id(), now, words);
            }
            report.writeRate().ifPresent(rate -> media.measured(medium.get().id(), now, "write", rate));
            report.readRate().ifPresent(rate -> media.measured(medium.get().id(), now, "read", rate));
        }
        written(target, report.proven().bytes());
        return report;
    }

    private static void requireAllowed(Targets.Target target, String typed) {
        Refused.ifAnyStops(target.description().refusals());
        if (!typed.strip().equals(target.description().id())) {
            throw new Refused(Finding.stop(
                    "target-not-confirmed",
                    "\"" + typed + "\" is not its name; that is "
                            + target.description().id() + ".",
                    Basis.computed("the name typed")));
        }
    }

    private void written(Targets.Target target, long bytes) {
        WriteJob.registered(workbench.workspace(), target)
                .ifPresent(medium -> workbench.workspace().media().addWritten(medium.id(), ByteSize.of(bytes)));
    }

    private void log(Targets.Target target, String kind, String words) {
        Optional<String> name =
                WriteJob.registered(workbench.workspace(), target).map(Media.Medium::name);
        workbench
                .workspace()
                .log()
                .add(
                        Optional.empty(),
                        Step.STORAGE,
                        kind,
                        name.map(each -> each + ": ").orElse("") + words,
                        Optional.empty());
    }
}
