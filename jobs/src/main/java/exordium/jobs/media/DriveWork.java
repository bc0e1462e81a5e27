// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Step;
import exordium.core.inspection.UsedMap;
import exordium.core.layout.Growth;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.CapacityProof;
import exordium.core.writing.Clearing;
import exordium.jobs.bench.DriveTools;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import exordium.store.Signs;
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

    private static final JobRunner.DeedKind CLEAR = new JobRunner.DeedKind(
            "clear",
            Step.STORAGE,
            "clearing",
            "may have lost its table or part of it; what lay on it is not to be counted on. Clear it again.");
    private static final JobRunner.DeedKind GROW = new JobRunner.DeedKind(
            "grow",
            Step.STORAGE,
            "growing",
            "may have a table that is changed in part; its journal brings it in order at the next look.");
    private static final JobRunner.DeedKind QUICK = new JobRunner.DeedKind(
            "prove-quick",
            Step.STORAGE,
            "looking for a wrap on",
            "has blocks that could not be put back; they are kept in the workspace and put back at the next look.");
    private static final JobRunner.DeedKind FREE = new JobRunner.DeedKind(
            "prove-free",
            Step.STORAGE,
            "proving the free space of",
            "has its free space written over in part; what its file systems hold was left alone.");
    private static final JobRunner.DeedKind WHOLE = new JobRunner.DeedKind(
            "prove-whole",
            Step.STORAGE,
            "proving",
            "is written over in part: what was on it is lost. Write an image to it, or prove it whole, before it is used.");

    /** Takes tables and signatures off. */
    public String clear(Targets.Target target, String typed, TransferWatch watch) throws IOException {
        JobRunner.requireAllowed(target, typed);
        Clearing.Report report = new JobRunner(workbench)
                .run(CLEAR, target, Optional.empty(), watch, (device, keeping) -> {
                    Clearing.Report done = Clearing.run(device, watch);
                    return new JobRunner.Outcome<>(
                            done,
                            "drive-cleared",
                            done.sentence(target.description().id()));
                });
        new DriveTools(workbench.machine()).rereadTable(target);
        written(target, report.clearedBytes());
        return report.sentence(target.description().id());
    }

    /** Makes the last partition as large as the house rule's free tail allows. */
    public String grow(Targets.Target target, String typed) throws IOException {
        JobRunner.requireAllowed(target, typed);
        int tail = workbench.rules().freeTail();
        Growth growth = new JobRunner(workbench)
                .run(GROW, target, Optional.empty(), TransferWatch.NONE, (device, keeping) -> {
                    // Worked out whole in memory, then carried out at once: cut off anywhere, the journal ends it.
                    StagedDevice staged = new StagedDevice(device);
                    Growth planned = Growth.plan(staged, tail);
                    planned.apply();
                    keeping.carryOut(device, staged);
                    return new JobRunner.Outcome<>(
                            planned,
                            planned.changes() ? "drive-grown" : "",
                            target.description().id() + ": " + planned.finding().text());
                });
        new DriveTools(workbench.machine()).rereadTable(target);
        String fileSystem = new DriveTools(workbench.machine()).growFileSystem(target, growth);
        if (!fileSystem.isEmpty()) {
            log(target, "file-system-grown", target.description().id() + ":" + fileSystem);
        }
        boolean said = !fileSystem.isEmpty() || !growth.changes();
        return growth.finding().text() + (said ? fileSystem : Growth.FILE_SYSTEM_STAYS);
    }

    /** Proves how much the drive really holds. */
    public CapacityProof.Report prove(Targets.Target target, String typed, Proof proof, TransferWatch watch)
            throws IOException {
        JobRunner.requireAllowed(target, typed);
        JobRunner.DeedKind kind = proof == Proof.QUICK ? QUICK : proof == Proof.FREE ? FREE : WHOLE;
        long seed = seeds.getAsLong();
        CapacityProof.Report report = new JobRunner(workbench)
                .run(kind, target, Optional.empty(), watch, (device, keeping) -> {
                    CapacityProof.Report done =
                            switch (proof) {
                                case QUICK -> {
                                    CapacityProof.Report quick =
                                            CapacityProof.quick(device, seed, keeping.back(device), watch);
                                    keeping.forget();
                                    yield quick;
                                }
                                case FREE -> CapacityProof.whole(device, Optional.of(UsedMap.of(device)), seed, watch);
                                case WHOLE -> CapacityProof.whole(device, Optional.empty(), seed, watch);
                            };
                    return new JobRunner.Outcome<>(
                            done,
                            done.sound() ? "capacity-proven" : "capacity-false",
                            done.sentence(target.description().id()));
                });
        Optional<Media.Medium> medium = workbench.registered(target);
        if (medium.isPresent()) {
            Signs signs = workbench.workspace().signs();
            var now = workbench.workspace().clock().instant();
            if (!report.sound()) {
                signs.fault(
                        medium.get().id(),
                        now,
                        report.sentence(target.description().id()));
            }
            report.writeRate().ifPresent(rate -> signs.measured(medium.get().id(), now, "write", rate));
            report.readRate().ifPresent(rate -> signs.measured(medium.get().id(), now, "read", rate));
        }
        written(target, report.proven().bytes());
        return report;
    }

    private void written(Targets.Target target, long bytes) {
        workbench
                .registered(target)
                .ifPresent(medium -> workbench.workspace().media().addWritten(medium.id(), ByteSize.of(bytes)));
    }

    private void log(Targets.Target target, String kind, String words) {
        Optional<String> name = workbench.registered(target).map(Media.Medium::name);
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
