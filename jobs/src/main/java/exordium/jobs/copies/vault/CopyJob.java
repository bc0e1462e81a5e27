// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.vault;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.care.UnmountState;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.vault.CopyReport;
import exordium.core.copies.vault.CopyRun;
import exordium.core.copies.vault.VaultCheck;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.copies.vault.VaultRun;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.media.HealthJob;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Recovery;
import exordium.jobs.writing.WriteJob;
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
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** Copies a board's medium into the vault, and checks copies that are there. */
public final class CopyJob {
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    private static final JobRunner.DeedKind KIND = JobRunner.DeedKind.reading(Recovery.COPY, Step.COPIES, "copying");

    private final Workbench workbench;
    private final DaySheets sheets;
    /** Held to their digest, and not read again for that as long as they stay the same file. */
    private final Map<String, ImageFile> proven = new ConcurrentHashMap<>();

    public CopyJob(Workbench workbench, DaySheets sheets) {
        this.workbench = workbench;
        this.sheets = sheets;
    }

    /**
     * How a copy is to be made.
     *
     * @param plain one compressed image of all of it, instead of chunks of what is in use
     * @param before the change it is made before, such as "firmware"; such copies are kept longer
     */
    public record Wanted(boolean plain, Optional<String> before) {
        public static final Wanted USUAL = new Wanted(false, Optional.empty());
    }

    /** A finished copy, how sure it is, and when the next is due. */
    public record Done(CopyReport report, UnmountState letGo, CopyRule.Due next) {}

    public Done run(String board, TransferWatch watch) throws IOException {
        return run(board, Wanted.USUAL, watch);
    }

    /** @throws NotPossible when the board has no medium, or the copy cannot be proven */
    public Done run(String board, Wanted wanted, TransferWatch watch) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        return run(
                board,
                workbench
                        .mainMedium(at)
                        .orElseThrow(
                                () -> new NotPossible(at.register().name() + " has no medium plugged in to copy.")),
                wanted,
                watch);
    }

    /** The same of a medium that was taken out of it for that. */
    public Done run(String board, Media.Medium medium, Wanted wanted, TransferWatch watch) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        Workspace workspace = workbench.workspace();
        Instant now = workspace.clock().instant();
        Path vault = workbench.standing().here();
        Path file = vault.resolve(board)
                .resolve(board + "-" + STAMP.format(now) + (wanted.plain() ? VaultFiles.IMAGE : VaultRun.SUFFIX));
        String kept = vault.relativize(file).toString();
        Targets.Target source = workbench.targets().of(medium);
        // Claimed though it is only read: what is written to meanwhile gives a copy of nothing that ever was.
        return new JobRunner(workbench).run(KIND, source, kept, Optional.of(board), watch, (drive, keeping) -> {
            DriveInspection inspection = Inspector.inspect(drive);
            UnmountState letGo = UnmountState.of(drive, inspection);
            new HealthJob(workbench).ask(medium, source, drive);
            CopyReport report =
                    put(drive, vault, file, facts(at, medium, inspection, letGo, now, wanted), wanted, watch);
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
                            report.fileSha256(),
                            wanted.before()));
            CopyRule.Due next = sheets.due(at.register());
            return new JobRunner.Outcome<>(
                    new Done(report, letGo, next), "copy-proven", words(at, medium, report, letGo, next));
        });
    }

    private CopyReport put(
            BlockDevice drive, Path vault, Path file, Map<String, String> facts, Wanted wanted, TransferWatch watch)
            throws IOException {
        try {
            return wanted.plain()
                    ? CopyRun.execute(drive, file, watch)
                    : VaultRun.execute(drive, vault, file, facts, watch);
        } catch (IOException e) {
            throw VaultFiles.said(vault, e);
        }
    }

    private static String words(
            Workbench.BoardAtHand at, Media.Medium medium, CopyReport report, UnmountState letGo, CopyRule.Due next) {
        return at.register().name() + ": copy of " + medium.name() + " proven, "
                + ByteSize.of(report.usedBytes()).said() + " in use, "
                + ByteSize.of(report.fileBytes()).said() + " added, in "
                + Span.said(Duration.ofMillis(Math.round(report.seconds() * 1000))) + "; next due "
                + next.date() + "."
                + (letGo.clean() ? "" : " " + String.join(" ", letGo.why()));
    }

    /** What the list of a copy says beside its chunks. */
    private static Map<String, String> facts(
            Workbench.BoardAtHand at,
            Media.Medium medium,
            DriveInspection inspection,
            UnmountState letGo,
            Instant now,
            Wanted wanted) {
        Map<String, String> facts = new LinkedHashMap<>();
        facts.put("board", at.register().id());
        facts.put("name", at.register().name());
        facts.put("family", at.register().profile());
        facts.put("medium", medium.id());
        facts.put("taken", now.toString());
        inspection.system().ifPresent(system -> facts.put("system", system.name() + " " + system.version()));
        wanted.before().ifPresent(change -> facts.put("before", change));
        facts.put("let-go", letGo.clean() ? "clean" : String.join(" ", letGo.why()));
        return facts;
    }

    /** What became of one copy in the vault. */
    public record Checked(Copies.Copy copy, boolean whole, String text) {}

    /** Reads copies through and holds them to what was proven: a plain one to its digest, one of chunks to each chunk's. */
    public List<Checked> check(Optional<String> board) throws IOException {
        return check(board, TransferWatch.NONE);
    }

    public List<Checked> check(Optional<String> board, TransferWatch watch) throws IOException {
        Path vault = workbench.standing().here();
        List<Copies.Copy> copies = workbench.workspace().copies().all().stream()
                .filter(copy -> board.isEmpty() || board.get().equals(copy.board()))
                .toList();
        List<Path> lists = copies.stream()
                .map(copy -> vault.resolve(copy.file()))
                .filter(file -> isList(file) && Files.isRegularFile(file))
                .toList();
        Map<Path, String> damaged = new HashMap<>();
        if (!lists.isEmpty()) {
            VaultCheck.of(vault, lists, watch).damages().forEach(each -> damaged.put(each.copy(), each.text()));
        }
        List<Checked> checked = new ArrayList<>();
        for (Copies.Copy copy : copies) {
            Optional<String> fault = new RecordedFile(workbench, copy).fault(true, watch);
            String damage = fault.orElse(damaged.get(vault.resolve(copy.file())));
            checked.add(new Checked(copy, damage == null, damage == null ? copy.file() + " is whole." : damage));
        }
        return checked;
    }

    /** A time as it stands in names of copies and packs. */
    static String stamp(Instant at) {
        return STAMP.format(at);
    }

    static boolean isList(Path file) {
        return file.toString().endsWith(VaultRun.SUFFIX);
    }

    /** Checks every copy of a board and puts the result in the logbook; gives what is wrong with those that are not whole. */
    public List<String> checkAndTell(String board) throws IOException {
        List<String> broken = new ArrayList<>();
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

    /**
     * A copy by its number, by its file's name, or the newest of a board.
     *
     * @throws UnknownName when there is none
     */
    public Copies.Copy find(String id) throws IOException {
        List<Copies.Copy> all = workbench.workspace().copies().all();
        for (int i = all.size() - 1; i >= 0; i--) {
            Copies.Copy copy = all.get(i);
            String name = copy.file().substring(copy.file().lastIndexOf('/') + 1);
            if (id.equals(String.valueOf(copy.id()))
                    || id.equals(copy.file())
                    || name.equals(id)
                    || name.replaceFirst("\\.(copy|img\\.zst)$", "").equals(id)) {
                return copy;
            }
        }
        if (!workbench.workspace().copies().of(id).isEmpty()) {
            return newestOf(id);
        }
        throw new UnknownName("There is no copy \"" + id + "\"; copy list names them.", id);
    }

    /**
     * A copy as an image that can be looked into and written: the file that was proven and no other.
     *
     * @throws NotPossible when it is not what is on record
     */
    public ImageFile open(Copies.Copy copy) throws IOException {
        return open(copy, TransferWatch.NONE);
    }

    private ImageFile open(Copies.Copy copy, TransferWatch watch) throws IOException {
        ImageFile before = proven.get(copy.file());
        if (before != null && before.isStill()) {
            return before;
        }
        ImageFile image = new RecordedFile(workbench, copy).open(watch);
        proven.put(copy.file(), image);
        return image;
    }

    /** What of it is in use. */
    public ByteSize used(Copies.Copy copy, TransferWatch watch) throws IOException {
        return WriteJob.usedIn(open(copy, watch), watch).bytes();
    }

    /** How large a drive it is of, to the end of its last partition. */
    public ByteSize sizeOf(Copies.Copy copy, TransferWatch watch) throws IOException {
        return WriteJob.sizeOf(open(copy, watch), watch);
    }

    /** The same of one board alone: another's is never taken for it. */
    public Copies.Copy find(String board, String id) throws IOException {
        Copies.Copy copy = find(id);
        if (!board.equals(copy.board())) {
            throw new UnreadableInput(copy.file() + " is a copy of " + copy.board() + ", not of " + board + ".");
        }
        return copy;
    }

    /** The newest whose file is there. */
    public Copies.Copy newestOf(String board) throws IOException {
        List<Copies.Copy> copies = workbench.workspace().copies().of(board);
        for (int i = copies.size() - 1; i >= 0; i--) {
            if (Files.isRegularFile(
                    workbench.workspace().vault().resolve(copies.get(i).file()))) {
                return copies.get(i);
            }
        }
        workbench.standing().here();
        throw new UnknownName("There is no copy of " + board + " in the vault.", board);
    }
}
