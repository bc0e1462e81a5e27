// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.writing;

import exordium.core.block.BlockDevice;
import exordium.core.block.SameBytes;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Ending;
import exordium.core.writing.JournalFile;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteReport;
import exordium.core.writing.WriteRun;
import exordium.jobs.bench.DriveTools;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Signs;
import exordium.store.Workspace;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;

/** Writes of one image to one target or several: rows are put down, targets opened, all written, everything put down again. */
final class RunningWrites {
    /** Under this a rate says more of the start than of the medium. */
    private static final long LEAST_TO_MEASURE = 32 << 20;

    private final Workbench workbench;
    private final Workspace workspace;
    private final List<WriteJob.Order> orders;
    private final Optional<WriteJob.Unfinished> before;
    private final Deque<Closeable> open = new ArrayDeque<>();

    RunningWrites(Workbench workbench, List<WriteJob.Order> orders, Optional<WriteJob.Unfinished> before) {
        this.workbench = workbench;
        this.workspace = workbench.workspace();
        this.orders = orders;
        this.before = before;
    }

    List<WriteReport> run() throws IOException {
        if (orders.size() > WriteJob.MOST_TARGETS) {
            throw new UnreadableInput("At most " + WriteJob.MOST_TARGETS + " targets are written at once, not "
                    + orders.size() + "; nothing was touched.");
        }
        for (WriteJob.Order order : orders) {
            Refused.ifAnyStops(order.plan().findings());
        }
        requireApart();
        List<WriteReport> reports;
        try {
            reports = written();
        } finally {
            closeAll();
        }
        for (int i = 0; i < orders.size(); i++) {
            Verdict verdict = reports.get(i).verdict();
            if (verdict.good() || verdict == Verdict.DIFFERENT) {
                // One that failed or was stopped may hang; asking it for its table would hang as well.
                new DriveTools(workbench.machine()).rereadTable(orders.get(i).target());
            }
        }
        return reports;
    }

    /** By whatever names: one and the same thing is no two targets, and the image is none. */
    private void requireApart() throws IOException {
        List<SameBytes> all = new ArrayList<>();
        all.add(SameBytes.at(orders.get(0).plan().image().path()));
        for (WriteJob.Order order : orders) {
            SameBytes target = SameBytes.at(order.plan().target().path());
            for (int i = 0; i < all.size(); i++) {
                if (target.overlaps(all.get(i))) {
                    String name = String.valueOf(target.path().getFileName());
                    throw new Refused(Finding.stop(
                            i == 0 ? "target-is-image" : "target-twice",
                            name + " has the same bytes as "
                                    + (i == 0 ? "the image " : "another of the targets, ")
                                    + all.get(i).path().getFileName() + "; nothing was touched.",
                            Basis.computed("what the paths lead to")));
                }
            }
            all.add(target);
        }
    }

    /** A target that went away may not close well any more; what became of the write was told by its report. */
    private void closeAll() {
        while (!open.isEmpty()) {
            try {
                open.pop().close();
            } catch (IOException e) {
                workspace
                        .log()
                        .add(
                                Optional.empty(),
                                Step.IMAGE,
                                "target-not-closed",
                                "A target did not close well: " + Sentence.of(e),
                                Optional.empty());
            }
        }
    }

    private List<WriteReport> written() throws IOException {
        List<BlockDevice> devices = new ArrayList<>();
        // Opening touches nothing; a target that cannot be opened leaves no trace in the register.
        for (WriteJob.Order order : orders) {
            BlockDevice device = new JobRunner(workbench).claim(order.target(), order.watch());
            open.push(device);
            devices.add(device);
        }
        List<Long> rows = new ArrayList<>();
        try {
            return written(devices, rows);
        } catch (IOException | RuntimeException e) {
            // Nothing was written yet, or an error of the machine ended all: no row stays open; what was told
            // stays.
            for (long row : rows) {
                workspace.operations().end(row, Ending.FAILED, true, "");
                Files.deleteIfExists(workspace.writeJournal(row).resolveSibling(row + ".journal.new"));
            }
            throw e;
        }
    }

    private List<WriteReport> written(List<BlockDevice> devices, List<Long> rows) throws IOException {
        List<WriteRun.Lane> lanes = new ArrayList<>();
        for (int i = 0; i < orders.size(); i++) {
            WriteJob.Order order = orders.get(i);
            JournalFile.Head head =
                    JournalFile.Head.of(order.plan(), order.target().serial());
            if (before.isPresent()) {
                // Refused before the row is put down, so that the old one stays the newest.
                String changed = head.changedSince(before.get().stand().head());
                if (!changed.isEmpty()) {
                    throw new NotPossible("This write cannot go on: " + changed + ". Begin it anew.");
                }
            }
            long row = workspace
                    .operations()
                    .beginWrite(
                            order.board(),
                            workbench.registered(order.target()).map(Media.Medium::id),
                            order.plan().target().id(),
                            order.target().key(),
                            order.plan().image().name());
            rows.add(row);
            forgetOlder(order.target().key(), row);
            lanes.add(new WriteRun.Lane(order.plan(), devices.get(i), order.watch(), journal(row, head)));
        }
        List<WriteReport> reports = new WriteRun(lanes).executeAll();
        for (int i = 0; i < orders.size(); i++) {
            long row = rows.get(0);
            end(row, orders.get(i), reports.get(i));
            rows.remove(0);
            Optional<Media.Medium> medium = workbench.registered(orders.get(i).target());
            if (medium.isPresent() && !orders.get(i).target().simulated()) {
                workbench
                        .readings()
                        .afterDeed(
                                medium.get(),
                                devices.get(i),
                                reports.get(i).verdict().good());
            }
            if (reports.get(i).verdict().good() || reports.get(i).verdict() == Verdict.DIFFERENT) {
                Files.deleteIfExists(workspace.writeJournal(row));
            }
        }
        return reports;
    }

    /** A target that is written anew is no unfinished one any more; that which is gone on with is kept. */
    private void forgetOlder(String key, long row) throws IOException {
        for (Operations.Operation write : workspace.operations().writes()) {
            Path older = workspace.writeJournal(write.id());
            boolean kept = before.filter(cut -> cut.journal().equals(older)).isPresent();
            if (write.id() != row && write.deed().key().equals(key) && !kept) {
                Files.deleteIfExists(older);
            }
        }
    }

    private JournalFile journal(long row, JournalFile.Head head) throws IOException {
        Path file = workspace.writeJournal(row);
        Files.createDirectories(file.getParent());
        if (before.isPresent()) {
            Files.move(before.get().journal(), file, StandardCopyOption.REPLACE_EXISTING);
        }
        JournalFile journal = JournalFile.open(file, head, JournalFile.USUAL);
        open.push(journal);
        return journal;
    }

    /** The row closed, the medium's register and the logbook told: all or nothing. */
    private void end(long row, WriteJob.Order order, WriteReport report) {
        workspace.inTransaction(() -> {
            workspace.operations().end(row, report);
            remember(order, report);
            return null;
        });
    }

    private void remember(WriteJob.Order order, WriteReport report) {
        Optional<Media.Medium> medium = workbench.registered(order.target());
        medium.ifPresent(each -> remember(workspace, each.id(), report));
        String name =
                medium.map(Media.Medium::name).orElse(order.plan().target().id());
        workspace
                .log()
                .add(
                        order.board(),
                        Step.IMAGE,
                        "write-" + report.verdict().code(),
                        order.plan().image().name() + " to " + name + ": " + report.sentence(),
                        Optional.empty());
    }

    /** What the write told of the medium itself: its wear, its pace, its faults. */
    private static void remember(Workspace workspace, String medium, WriteReport report) {
        Signs signs = workspace.signs();
        Instant now = workspace.clock().instant();
        workspace.media().addWritten(medium, ByteSize.of(report.writtenBytes()));
        if (report.writtenBytes() >= LEAST_TO_MEASURE && report.writeRate().bytesPerSecond() > 0) {
            signs.measured(medium, now, "write", report.writeRate());
        }
        if (report.readRate().bytesPerSecond() > 0 && report.plannedBytes() >= LEAST_TO_MEASURE) {
            signs.measured(medium, now, "read", report.readRate());
        }
        if (report.verdict() == Verdict.DIFFERENT || report.verdict() == Verdict.FAILED) {
            signs.fault(medium, now, report.sentence());
        }
    }
}
