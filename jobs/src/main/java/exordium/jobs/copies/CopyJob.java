// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies;

import exordium.core.block.TransferWatch;
import exordium.core.copies.CopyReport;
import exordium.core.copies.CopyRule;
import exordium.core.copies.CopyRun;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Recovery;
import exordium.store.Copies;
import exordium.store.Media;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;

/** Copies a board's medium into the vault, and checks copies that are there. */
public final class CopyJob {
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    private static final JobRunner.Kind KIND = JobRunner.Kind.reading(Recovery.COPY, Step.COPIES, "copying");

    private final Workbench workbench;
    private final DaySheets sheets;

    public CopyJob(Workbench workbench, DaySheets sheets) {
        this.workbench = workbench;
        this.sheets = sheets;
    }

    /** A finished copy and when the next is due. */
    public record Done(CopyReport report, CopyRule.Due next) {}

    /** @throws UnreadableInput when the board has no medium, or the copy cannot be proven */
    public Done run(String board, TransferWatch watch) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        Media.Medium medium = workbench
                .mainMedium(at)
                .orElseThrow(() -> new UnreadableInput(at.register().name() + " has no medium plugged in to copy."));
        Instant now = workbench.workspace().clock().instant();
        Path file = workbench.workspace().vault().resolve(board).resolve(board + "-" + STAMP.format(now) + ".img.zst");
        Workspace workspace = workbench.workspace();
        String kept = workspace.vault().relativize(file).toString();
        Targets.Target source = workbench.targets().of(medium);
        String name = at.register().name();
        // Claimed though it is only read: what is written to meanwhile gives a copy of nothing that ever was.
        return new JobRunner(workbench).run(KIND, source, kept, Optional.of(board), watch, (drive, keeping) -> {
            CopyReport report = CopyRun.execute(drive, file, watch);
            workspace
                    .copies()
                    .add(new Copies.Copy(
                            0,
                            board,
                            Optional.of(medium.id()),
                            now,
                            kept,
                            report.sourceBytes(),
                            report.fileBytes(),
                            report.fileSha256()));
            CopyRule.Due next = sheets.due(at.register(), sheets.lastCopy(board));
            return new JobRunner.Outcome<>(
                    new Done(report, next),
                    "copy-proven",
                    name + ": copy of " + medium.name() + " proven, "
                            + ByteSize.of(report.sourceBytes()).said() + " in "
                            + Span.said(Duration.ofMillis(Math.round(report.seconds() * 1000))) + "; next due "
                            + next.date() + ".");
        });
    }

    /** What became of one copy in the vault. */
    public record Checked(Copies.Copy copy, boolean whole, String text) {}

    public List<Checked> check(Optional<String> board) throws IOException {
        List<Copies.Copy> copies = workbench.workspace().copies().all().stream()
                .filter(copy -> board.isEmpty() || board.get().equals(copy.board()))
                .toList();
        List<Checked> checked = new java.util.ArrayList<>();
        for (Copies.Copy copy : copies) {
            Path file = workbench.workspace().vault().resolve(copy.file());
            if (!Files.isRegularFile(file)) {
                checked.add(new Checked(copy, false, copy.file() + " is not in the vault any more."));
            } else if (PublishedChecksum.sha256(file).equals(copy.sha256())) {
                checked.add(new Checked(copy, true, copy.file() + " is whole."));
            } else {
                checked.add(new Checked(copy, false, copy.file() + " is not what was proven; do not restore from it."));
            }
        }
        return checked;
    }

    /** Checks every copy of a board and puts the result in the logbook; gives what is wrong with those that are not whole. */
    public List<String> checkAndTell(String board) throws IOException {
        List<String> broken = new java.util.ArrayList<>();
        for (Checked each : check(Optional.of(board))) {
            workbench
                    .workspace()
                    .log()
                    .add(
                            Optional.of(board),
                            Step.COPIES,
                            each.whole() ? "copy-checked" : "copy-broken",
                            each.text(),
                            Optional.empty());
            if (!each.whole()) {
                broken.add(each.text());
            }
        }
        return broken;
    }

    /** The newest proven copy of a board as an image that can be written. */
    public ImageFile newest(String board) throws IOException {
        List<Copies.Copy> copies = workbench.workspace().copies().of(board);
        for (int i = copies.size() - 1; i >= 0; i--) {
            Path file = workbench.workspace().vault().resolve(copies.get(i).file());
            if (Files.isRegularFile(file)) {
                return ImageFile.open(file)
                        .ofKnownSize(ByteSize.of(copies.get(i).source()));
            }
        }
        throw new UnreadableInput("There is no copy of " + board + " in the vault.");
    }
}
