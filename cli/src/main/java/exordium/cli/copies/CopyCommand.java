// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.cli.image.WriteCommand;
import exordium.core.copies.care.CopyCare;
import exordium.core.copies.care.Spares;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.copies.care.CareJob;
import exordium.jobs.copies.care.CloneJob;
import exordium.jobs.copies.care.RestoreJob;
import exordium.jobs.copies.care.SpareJob;
import exordium.jobs.copies.schedule.DueRun;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import exordium.jobs.paper.CopySheets;
import exordium.store.Copies;
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
@Command(
        name = "copy",
        description = "Make, list, check and restore copies.",
        mixinStandardHelpOptions = true,
        subcommands = {CopyFilesCommand.class, CopyChangesCommand.class, CopyPruneCommand.class, CopyDrillCommand.class
        })
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
            boolean here,
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
        Common.House house = common.house();
        if (due) {
            return runDue(common, house);
        }
        CopyJob.Done done;
        try (ConsoleProgress progress = common.progress(true)) {
            done = new CopyJob(house.bench(), house.sheets())
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

    private static int runDue(Common common, Common.House house) throws IOException {
        List<DueRun.Result> results;
        try (ConsoleProgress progress = common.progress(true)) {
            results = new DueRun(house.bench(), house.sheets()).run(progress.meter());
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
        List<VaultJob.Generation> copies = new VaultJob(common.house().bench())
                .strata(Optional.ofNullable(board))
                .generations();
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
                                each.here(),
                                each.copy().before()))
                        .toList(),
                copies.stream()
                        .map(each -> each.copy().id() + "  "
                                + Common.said(each.copy().proven()) + "  "
                                + each.copy().board() + "  " + each.copy().file() + "  "
                                + (each.here() ? each.own().said() + " of its own" : "not in the vault")
                                + each.copy()
                                        .before()
                                        .map(change -> ", before " + change)
                                        .orElse(""))
                        .toList());
        return ExitCode.DONE;
    }

    @Command(name = "check", description = "Read copies through and compare with their checksums.")
    int check(@Mixin Common common, @Parameters(paramLabel = "BOARD", arity = "0..1") String board) throws IOException {
        Common.House house = common.house();
        List<CopyJob.Checked> checked = new CopyJob(house.bench(), house.sheets()).check(Optional.ofNullable(board));
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
            @Option(names = "--grow", description = "the last partition takes what the target has more") boolean grow,
            @Option(names = "--new-identity", description = "what two boards may not share becomes its own")
                    boolean newIdentity,
            @Option(names = "--host-name", paramLabel = "NAME", description = "with --new-identity") String hostName)
            throws IOException {
        AfterWrite.Wanted after = after(newIdentity, hostName);
        Common.House house = common.house();
        CopyJob copies = new CopyJob(house.bench(), house.sheets());
        Copies.Copy copy = id == null ? copies.newestOf(board) : copies.find(board, id);
        try (ConsoleProgress progress = common.progress(true)) {
            Targets.Target found = common.targets(house.bench()).at(target, copies.sizeOf(copy, progress.meter()));
            RestoreJob.Done done = new RestoreJob(house.bench(), house.benches(), copies)
                    .run(new RestoreJob.Order(copy, found, confirm, mode, grow, after), progress.meter());
            List<String> lines = new ArrayList<>();
            lines.add(done.report().verdict().code() + ": " + done.report().sentence());
            if (!done.grown().isEmpty()) {
                lines.add(done.grown());
            }
            done.findings().forEach(finding -> lines.add(finding.text()));
            common.print(
                    new RestoreOut(
                            done.report(),
                            copy.file(),
                            done.grown(),
                            done.alone().map(trace -> trace.outcome().code()),
                            done.alone().map(trace -> trace.cause().code()),
                            Common.out(done.findings())),
                    lines);
            return WriteCommand.code(done.report().verdict());
        }
    }

    private record RestoreOut(
            @JsonUnwrapped WriteReport report,
            String copy,
            String grown,
            Optional<String> outcome,
            Optional<String> cause,
            List<Common.FindingOut> findings) {}

    private static AfterWrite.Wanted after(boolean newIdentity, String hostName) throws UnreadableInput {
        if (hostName != null && !newIdentity) {
            throw new UnreadableInput("--host-name goes with --new-identity.");
        }
        return new AfterWrite.Wanted(newIdentity, Optional.ofNullable(hostName));
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
            @Option(names = "--host-name", paramLabel = "NAME", description = "with --new-identity") String hostName)
            throws IOException {
        AfterWrite.Wanted after = after(newIdentity, hostName);
        Common.House house = common.house();
        CloneJob.Done done;
        try (ConsoleProgress progress = common.progress(true)) {
            done = new CloneJob(house.bench(), house.benches())
                    .run(
                            common.targets(house.bench()),
                            new CloneJob.Order(from, to, confirm, mode, after),
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

    private record SpareOut(String board, Optional<String> next, String reason, List<CandidateOut> media) {}

    private record CandidateOut(String medium, String name, boolean usable, String why) {}

    @Command(name = "spare", description = "Say which medium of the drawer a board's next spare is written to.")
    int spare(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.House house = common.house();
        List<Spares.Verdict> verdicts = new SpareJob(house.bench(), house.benches()).of(board);
        Optional<Spares.Verdict> next =
                verdicts.stream().filter(Spares.Verdict::usable).findFirst();
        String reason = next.map(Spares.Verdict::why).orElse("nothing in the drawer will do");
        List<String> lines = new ArrayList<>(verdicts.stream()
                .map(each -> (each.usable() ? "" : "not ") + each.medium().id() + ", "
                        + each.medium().name() + ": " + each.why())
                .toList());
        if (next.isEmpty()) {
            lines.add("Of " + board + ": " + reason + ".");
        }
        common.print(
                new SpareOut(
                        board,
                        next.map(each -> each.medium().id()),
                        reason,
                        verdicts.stream()
                                .map(each -> new CandidateOut(
                                        each.medium().id(), each.medium().name(), each.usable(), each.why()))
                                .toList()),
                lines);
        return ExitCode.DONE;
    }

    private record CareOut(String board, String stopFirst, String services, String quiet) {}

    @Command(
            name = "care",
            description =
                    "Say what a copy of a board asks for: what to stop first, what is not there, when it may be off.")
    int care(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--stop-first", paramLabel = "TEXT") Optional<String> stopFirst,
            @Option(names = "--services", paramLabel = "TEXT", description = "what is not there while it is off")
                    Optional<String> services,
            @Option(names = "--quiet", paramLabel = "TIMES", description = "such as \"mon-fri 18:00-22:00, sun\"")
                    Optional<String> quiet)
            throws IOException {
        CopyCare care = new CareJob(common.house().bench()).tell(board, stopFirst, services, quiet);
        common.print(
                new CareOut(
                        board, care.stopFirst(), care.services(), care.quiet().text()),
                List.of(
                        "Stop first: " + said(care.stopFirst()),
                        "Not there meanwhile: " + said(care.services()),
                        "May be off: "
                                + (care.quiet().text().isEmpty()
                                        ? "always"
                                        : care.quiet().text())));
        return ExitCode.DONE;
    }

    private static String said(String text) {
        return text.isEmpty() ? "nothing was said" : text;
    }

    private record SheetOut(String board, String file) {}

    @Command(name = "sheet", description = "Write the page for the envelope of a board's spare, as a PDF.")
    int sheet(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--to", required = true, paramLabel = "FILE") Path to)
            throws IOException {
        Common.House house = common.house();
        CopySheets.spare(house.bench(), house.sheets(), board, to);
        common.print(new SheetOut(board, to.toString()), List.of("The page is in " + to + "."));
        return ExitCode.DONE;
    }
}
