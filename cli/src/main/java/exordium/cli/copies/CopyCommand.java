// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.cli.image.WriteCommand;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.CloneJob;
import exordium.jobs.copies.CopyFiles;
import exordium.jobs.copies.CopyJob;
import exordium.jobs.copies.DrillJob;
import exordium.jobs.copies.DueRun;
import exordium.jobs.copies.VaultJob;
import exordium.jobs.paper.CopySheets;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code copy}: makes, lists, checks and restores copies. */
@Command(name = "copy", description = "Make, list, check and restore copies.", mixinStandardHelpOptions = true)
public final class CopyCommand {
    private record RunOut(
            String board,
            String file,
            long sourceBytes,
            long usedBytes,
            long fileBytes,
            String sha256,
            double seconds,
            boolean letGoCleanly,
            List<String> notLetGo,
            LocalDate nextDue) {}

    private record ListOut(
            long id,
            String board,
            Instant proven,
            String file,
            long sourceBytes,
            long fileBytes,
            String sha256,
            long ownBytes,
            long sharedBytes,
            Optional<String> before) {}

    private record CheckOut(String board, String file, boolean whole, String text) {}

    private record DueOut(String board, String state, String text, Optional<RunOut> copy) {}

    @Command(
            name = "run",
            description = "Copy a board's medium into the vault and prove the copy; or all that are due.")
    int run(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD", arity = "0..1") String board,
            @Option(names = "--due", description = "make every copy that is due, of media that are here") boolean due,
            @Option(names = "--plain", description = "one compressed image of all of it, with its checksum beside it")
                    boolean plain,
            @Option(names = "--before", paramLabel = "CHANGE", description = "what it is made before, such as firmware")
                    String before)
            throws IOException {
        if (due == (board != null)) {
            throw new UnreadableInput("Give a board, or --due for all that are due.");
        }
        Common.Desk desk = common.desk();
        if (due) {
            return runDue(common, desk);
        }
        CopyJob.Done done;
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            done = new CopyJob(desk.bench(), desk.sheets())
                    .run(board, new CopyJob.Wanted(plain, Optional.ofNullable(before)), progress.meter());
        }
        List<String> lines = new ArrayList<>();
        lines.add("Copy of " + board + " proven: " + done.report().file() + "; "
                + ByteSize.of(done.report().usedBytes()).said() + " in use, "
                + ByteSize.of(done.report().fileBytes()).said() + " added; next due "
                + done.next().date() + ".");
        lines.addAll(done.letGo().why());
        common.print(out(board, done), lines);
        return ExitCode.DONE;
    }

    private static int runDue(Common common, Common.Desk desk) throws IOException {
        List<DueRun.Result> results;
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            results = new DueRun(desk.bench(), desk.sheets()).run(progress.meter());
        }
        List<String> lines =
                new ArrayList<>(results.stream().map(DueRun.Result::text).toList());
        if (lines.isEmpty()) {
            lines.add("No copy is due.");
        }
        common.print(
                results.stream()
                        .map(each -> new DueOut(
                                each.board(),
                                each.state().name().toLowerCase(Locale.ROOT),
                                each.text(),
                                each.done().map(done -> out(each.board(), done))))
                        .toList(),
                lines);
        return results.stream().allMatch(DueRun.Result::good) ? ExitCode.DONE : ExitCode.FAILED;
    }

    private static RunOut out(String board, CopyJob.Done done) {
        return new RunOut(
                board,
                done.report().file().toString(),
                done.report().sourceBytes(),
                done.report().usedBytes(),
                done.report().fileBytes(),
                done.report().fileSha256(),
                done.report().seconds(),
                done.letGo().clean(),
                done.letGo().why(),
                done.next().date());
    }

    @Command(name = "list", description = "List proven copies.")
    int list(@Mixin Common common, @Parameters(paramLabel = "BOARD", arity = "0..1") String board) throws IOException {
        List<VaultJob.Generation> copies = new VaultJob(common.desk().bench()).generations(Optional.ofNullable(board));
        common.print(
                copies.stream()
                        .map(each -> new ListOut(
                                each.copy().id(),
                                each.copy().board(),
                                each.copy().proven(),
                                each.copy().file(),
                                each.copy().source(),
                                each.copy().bytes(),
                                each.copy().sha256(),
                                each.own().bytes(),
                                each.shared().bytes(),
                                each.copy().before()))
                        .toList(),
                copies.stream()
                        .map(each -> each.copy().id() + "  " + each.copy().proven() + "  "
                                + each.copy().board() + "  " + each.copy().file() + "  "
                                + each.own().said() + " of its own"
                                + each.copy()
                                        .before()
                                        .map(change -> ", before " + change)
                                        .orElse(""))
                        .toList());
        return ExitCode.DONE;
    }

    @Command(name = "check", description = "Read copies through and compare with their checksums.")
    int check(@Mixin Common common, @Parameters(paramLabel = "BOARD", arity = "0..1") String board) throws IOException {
        Common.Desk desk = common.desk();
        List<CopyJob.Checked> checked = new CopyJob(desk.bench(), desk.sheets()).check(Optional.ofNullable(board));
        common.print(
                checked.stream()
                        .map(each ->
                                new CheckOut(each.copy().board(), each.copy().file(), each.whole(), each.text()))
                        .toList(),
                checked.stream().map(CopyJob.Checked::text).toList());
        return checked.stream().allMatch(CopyJob.Checked::whole) ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    @Command(name = "restore", description = "Write the newest copy of a board to a target and read it back.")
    int restore(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--confirm", required = true, paramLabel = "NAME") String confirm,
            @Option(names = "--mode", paramLabel = "whole|used|changed", defaultValue = "whole") WriteMode mode,
            @Option(names = "--copy", paramLabel = "ID", description = "another one than the newest") String id,
            @Option(names = "--allow-real-drives") boolean allowReal)
            throws IOException {
        Common.Desk desk = common.desk();
        CopyJob copies = new CopyJob(desk.bench(), desk.sheets());
        ImageFile copy = id == null ? copies.newest(board) : copies.open(copies.find(board, id));
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            ByteSize size = WriteJob.sizeOf(copy, progress.meter());
            Targets.Target found = new TargetHistory(desk.bench())
                    .known(common.targets(allowReal, desk.bench()).at(target, size));
            Optional<UsedMap> used =
                    mode == WriteMode.USED ? Optional.of(WriteJob.usedIn(copy, progress.meter())) : Optional.empty();
            WritePlan plan = WritePlan.of(
                    copy, size, found.description(), new WritePlan.Options(mode, true, false, used), confirm);
            Refused.ifAnyStops(plan.findings());
            WriteReport report = WriteJob.run(desk.bench(), plan, found, Optional.empty(), progress.meter());
            common.print(report, List.of(report.verdict().code() + ": " + report.sentence()));
            return WriteCommand.code(report.verdict());
        }
    }

    private record PruneOut(boolean dryRun, long freedBytes, List<VerdictOut> copies) {}

    private record VerdictOut(long id, String board, Instant proven, String file, boolean stays, String why) {}

    @Command(name = "prune", description = "Take out the copies that no house rule keeps.")
    int prune(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD", arity = "0..1") String board,
            @Option(names = "--dry-run", description = "only say what would go") boolean dryRun)
            throws IOException {
        VaultJob vault = new VaultJob(common.desk().bench());
        VaultJob.Pruned pruned = dryRun
                ? vault.preview(Optional.ofNullable(board))
                : vault.prune(Optional.ofNullable(board), TransferWatch.NONE);
        List<String> lines = new ArrayList<>(pruned.verdicts().stream()
                .map(each -> (each.stays() ? "stays  " : dryRun ? "would go  " : "gone  ")
                        + each.copy().file() + "  " + each.why())
                .toList());
        pruned.problem().ifPresent(common::message);
        lines.add(pruned.freed().said() + (dryRun ? " would come free." : " came free."));
        common.print(
                new PruneOut(
                        dryRun,
                        pruned.freed().bytes(),
                        pruned.verdicts().stream()
                                .map(each -> new VerdictOut(
                                        each.copy().id(),
                                        each.copy().board(),
                                        each.copy().proven(),
                                        each.copy().file(),
                                        each.stays(),
                                        each.why()))
                                .toList()),
                lines);
        return ExitCode.DONE;
    }

    private record FilesOut(
            String copy,
            int partition,
            String path,
            List<EntryOut> entries,
            Optional<Long> bytes,
            Optional<String> to) {}

    private record EntryOut(String name, String kind, long size) {}

    private record VersionOut(long id, Instant proven, String file, boolean there, Optional<Long> bytes) {}

    @Command(name = "files", description = "Look into a copy, or take a file out of it.")
    int files(
            @Mixin Common common,
            @Parameters(paramLabel = "ID", description = "a copy's number or name, or a board for its newest")
                    String id,
            @Parameters(paramLabel = "PATH", arity = "0..1", defaultValue = "/") String path,
            @Option(names = "--to", paramLabel = "FILE", description = "where the file goes; must not exist") Path to,
            @Option(names = "--history", description = "in which copies of the board this file changed")
                    boolean history)
            throws IOException {
        Common.Desk desk = common.desk();
        CopyJob copies = new CopyJob(desk.bench(), desk.sheets());
        CopyFiles files = new CopyFiles(desk.bench(), copies);
        if (history) {
            List<CopyFiles.Version> versions = files.history(copies.find(id).board(), path);
            common.print(
                    versions.stream()
                            .map(each -> new VersionOut(
                                    each.copy().id(),
                                    each.copy().proven(),
                                    each.copy().file(),
                                    each.body().isPresent(),
                                    each.body().map(body -> (long) body.bytes().length)))
                            .toList(),
                    versions.stream()
                            .map(each ->
                                    each.copy().proven() + "  " + each.copy().file() + "  "
                                            + each.body()
                                                    .map(body -> body.bytes().length + " bytes")
                                                    .orElse("not there"))
                            .toList());
            return ExitCode.DONE;
        }
        CopyFiles.Found found = files.look(id, path);
        Optional<Long> bytes = found.file().map(body -> (long) body.bytes().length);
        if (to != null) {
            bytes = Optional.of(files.takeOut(id, path, to));
        }
        List<String> lines = to != null
                ? List.of(found.path() + " was taken out to " + to + ", " + bytes.get() + " bytes.")
                : found.entries().stream()
                        .map(each ->
                                each.kind().name().toLowerCase(Locale.ROOT) + "  " + each.size() + "  " + each.name())
                        .toList();
        common.print(
                new FilesOut(
                        found.copy().file(),
                        found.partition(),
                        found.path(),
                        found.entries().stream()
                                .map(each -> new EntryOut(
                                        each.name(), each.kind().name().toLowerCase(Locale.ROOT), each.size()))
                                .toList(),
                        bytes,
                        Optional.ofNullable(to).map(Path::toString)),
                lines);
        return ExitCode.DONE;
    }

    private record CloneOut(
            WriteReport report, Optional<String> outcome, Optional<String> cause, List<Common.FindingOut> findings) {}

    @Command(name = "clone", description = "Write one drive onto another, read it back, and rehearse it.")
    int clone(
            @Mixin Common common,
            @Parameters(paramLabel = "FROM") Path from,
            @Parameters(paramLabel = "TO") Path to,
            @Option(names = "--confirm", required = true, paramLabel = "NAME") String confirm,
            @Option(names = "--mode", paramLabel = "whole|used|changed", defaultValue = "whole") WriteMode mode,
            @Option(names = "--new-identity", description = "what two boards may not share becomes its own")
                    boolean newIdentity,
            @Option(names = "--host-name", paramLabel = "NAME", description = "with --new-identity") String hostName,
            @Option(names = "--allow-real-drives") boolean allowReal)
            throws IOException {
        if (hostName != null && !newIdentity) {
            throw new UnreadableInput("--host-name goes with --new-identity.");
        }
        Common.Desk desk = common.desk();
        CloneJob.Done done;
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            done = new CloneJob(desk.bench(), desk.benches())
                    .run(
                            common.targets(allowReal, desk.bench()),
                            new CloneJob.Order(from, to, confirm, mode, newIdentity, Optional.ofNullable(hostName)),
                            progress.meter());
        }
        List<String> lines = new ArrayList<>();
        lines.add(done.report().verdict().code() + ": " + done.report().sentence());
        done.findings().forEach(finding -> lines.add(finding.text()));
        common.print(
                new CloneOut(
                        done.report(),
                        done.alone().map(trace -> trace.outcome().code()),
                        done.alone().map(trace -> trace.cause().code()),
                        Common.out(done.findings())),
                lines);
        return WriteCommand.code(done.report().verdict());
    }

    private record DrillOut(
            String board,
            String copy,
            boolean passed,
            String verdict,
            Optional<String> outcome,
            Optional<String> startedFrom,
            Optional<Double> seconds,
            String text) {}

    @Command(
            name = "drill",
            description = "Put a board's newest copy back onto a virtual drive and rehearse its start.")
    int drill(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.Desk desk = common.desk();
        DrillJob.Done done;
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            done = new DrillJob(desk.bench(), desk.benches(), new CopyJob(desk.bench(), desk.sheets()))
                    .run(board, progress.meter());
        }
        common.print(
                new DrillOut(
                        board,
                        done.copy().file(),
                        done.passed(),
                        done.report().verdict().code(),
                        done.trace().map(trace -> trace.outcome().code()),
                        done.trace().flatMap(Trace::startedFrom),
                        done.trace().map(Trace::seconds),
                        done.sentence()),
                List.of(done.sentence()));
        return done.passed() ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private record SheetOut(String board, String file) {}

    @Command(name = "sheet", description = "Write the page for the envelope of a board's spare, as a PDF.")
    int sheet(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--to", required = true, paramLabel = "FILE") Path to)
            throws IOException {
        Common.Desk desk = common.desk();
        CopySheets.spare(desk.bench(), desk.sheets(), board, to);
        common.print(new SheetOut(board, to.toString()), List.of("The page is in " + to + "."));
        return ExitCode.DONE;
    }
}
