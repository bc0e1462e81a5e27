// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.cli.image.WriteCommand;
import exordium.core.finding.Refused;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.CopyJob;
import exordium.jobs.writing.WriteJob;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
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
            long fileBytes,
            String sha256,
            double seconds,
            LocalDate nextDue) {}

    private record ListOut(
            String board, Instant proven, String file, long sourceBytes, long fileBytes, String sha256) {}

    private record CheckOut(String board, String file, boolean whole, String text) {}

    @Command(name = "run", description = "Copy a board's medium into the vault and prove the copy.")
    int run(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.Desk desk = common.desk();
        CopyJob.Done done;
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            done = new CopyJob(desk.bench(), desk.sheets()).run(board, progress.meter());
        }
        common.print(
                new RunOut(
                        board,
                        done.report().file().toString(),
                        done.report().sourceBytes(),
                        done.report().fileBytes(),
                        done.report().fileSha256(),
                        done.report().seconds(),
                        done.next().date()),
                List.of("Copy of " + board + " proven: " + done.report().file() + "; next due "
                        + done.next().date() + "."));
        return ExitCode.DONE;
    }

    @Command(name = "list", description = "List proven copies.")
    int list(@Mixin Common common, @Parameters(paramLabel = "BOARD", arity = "0..1") String board) throws IOException {
        List<Copies.Copy> copies = common.records().copies().stream()
                .filter(copy -> board == null || copy.board().equals(board))
                .toList();
        common.print(
                copies.stream()
                        .map(copy -> new ListOut(
                                copy.board(), copy.proven(), copy.file(), copy.source(), copy.bytes(), copy.sha256()))
                        .toList(),
                copies.stream()
                        .map(copy -> copy.proven() + "  " + copy.board() + "  " + copy.file() + "  "
                                + ByteSize.of(copy.bytes()).said())
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
            @Option(names = "--allow-real-drives") boolean allowReal)
            throws IOException {
        Common.Desk desk = common.desk();
        ImageFile copy = new CopyJob(desk.bench(), desk.sheets()).newest(board);
        try (ConsoleProgress progress = new ConsoleProgress(!common.json(), true)) {
            ByteSize size = WriteJob.sizeOf(copy, progress.meter());
            Targets.Target found = new TargetHistory(desk.bench())
                    .known(common.targets(allowReal, desk.bench()).at(target, size));
            WritePlan plan = WritePlan.of(copy, size, found.description(), WritePlan.Options.USUAL, confirm);
            Refused.ifAnyStops(plan.findings());
            WriteReport report = WriteJob.run(desk.bench(), plan, found, Optional.empty(), progress.meter());
            common.print(report, List.of(report.verdict().code() + ": " + report.sentence()));
            return WriteCommand.code(report.verdict());
        }
    }
}
