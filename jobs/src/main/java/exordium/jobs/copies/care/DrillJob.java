// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.block.TransferWatch;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.VirtualDrives;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.vault.CopyJob;
import exordium.sim.VirtualDrive;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A restore drill: the newest copy of a board on a virtual drive made for it, read back, and the board rehearsed with it in the
 * place of its medium. So that "proven" means that it starts.
 */
public final class DrillJob {
    private static final long SPARE_ROOM = 256L << 20;

    private final Workbench workbench;
    private final BenchReader benches;
    private final CopyJob copies;

    public DrillJob(Workbench workbench, BenchReader benches, CopyJob copies) {
        this.workbench = workbench;
        this.benches = benches;
        this.copies = copies;
    }

    /** What came of it; trace: empty where the copy could not even be put back. */
    public record Done(Copies.Copy copy, WriteReport report, Optional<Trace> trace, String sentence) {
        public boolean passed() {
            return trace.filter(Trace::runs).isPresent();
        }
    }

    /** @throws UnreadableInput when there is no copy of the board */
    public Done run(String board, TransferWatch watch) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        if (workbench.mainMedium(at).isEmpty()) {
            throw new NotPossible(
                    at.register().name() + " has no medium plugged in: there is no place its copy could start from.");
        }
        Copies.Copy copy = copies.find(board);
        Path file = file(board);
        try {
            ByteSize size = ByteSize.of(copy.source());
            requireRoom(file, copies.used(copy, watch));
            new VirtualDrives(workbench.reader())
                    .make(file, new VirtualDrives.Wanted("sd", size, Optional.empty(), Optional.empty(), List.of()));
            Targets.Target target = workbench.targets().at(file, size);
            RestoreJob.Done restored = new RestoreJob(workbench, benches, copies)
                    .run(
                            new RestoreJob.Order(
                                    copy,
                                    target,
                                    target.description().id(),
                                    WriteMode.USED,
                                    false,
                                    new AfterWrite.Wanted(false, Optional.empty())),
                            watch);
            WriteReport report = restored.report();
            Optional<Trace> trace = restored.alone();
            Done done = new Done(copy, report, trace, sentence(at, copy, report, trace));
            workbench
                    .workspace()
                    .log()
                    .add(
                            Optional.of(board),
                            Step.COPIES,
                            done.passed() ? "drill-passed" : "drill-failed",
                            done.sentence(),
                            Optional.empty());
            return done;
        } finally {
            delete(file);
        }
    }

    /** A drill that fills the disk would do harm where nothing is the matter. */
    private static void requireRoom(Path file, ByteSize used) throws IOException {
        long free = Files.getFileStore(file.toAbsolutePath().getParent()).getUsableSpace();
        if (used.bytes() + SPARE_ROOM > free) {
            throw new NotPossible("A restore is tried on a virtual drive, for which " + used.said()
                    + " and a little more have to be free here; "
                    + ByteSize.of(free).said() + " are.");
        }
    }

    /** One of this process alone; what a killed one left of an earlier drill goes. */
    private Path file(String board) throws IOException {
        Path drives = workbench.workspace().drives();
        String begin = "drill-" + board + "-";
        try (DirectoryStream<Path> old = Files.newDirectoryStream(drives, begin + "*.img")) {
            for (Path each : old) {
                String process = String.valueOf(each.getFileName()).replaceAll("^.*-|\\.img$", "");
                if (process.matches("\\d{1,10}")
                        && ProcessHandle.of(Long.parseLong(process)).isEmpty()) {
                    delete(each);
                }
            }
        }
        return drives.resolve(begin + ProcessHandle.current().pid() + ".img");
    }

    private static void delete(Path file) throws IOException {
        Files.deleteIfExists(VirtualDrive.descriptionOf(file));
        Files.deleteIfExists(file);
    }

    private String sentence(Workbench.BoardAtHand at, Copies.Copy copy, WriteReport report, Optional<Trace> trace) {
        String name = at.register().name() + ": the copy of "
                + java.time.LocalDate.ofInstant(copy.proven(), workbench.zone());
        if (trace.isEmpty()) {
            return name + " could not be put back: " + report.sentence();
        }
        return trace.get().runs()
                ? name + " was put back onto a virtual drive, and the board starts from it in "
                        + trace.get().seconds() + " s."
                : name + " was put back, and the board does not start from it: "
                        + trace.get().cause().shortText() + ".";
    }
}
