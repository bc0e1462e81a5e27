// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firmware;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.RecoverySet;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.FirmwareJob;
import exordium.jobs.firmware.RecoveryJob;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firmware recovery-card}: a card that has the chip written anew. */
@Command(
        name = "recovery-card",
        description =
                "Make a card that has a board's firmware chip written anew; without a target, say what it would do.")
public final class RecoveryCardCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "BOARD")
    private String board;

    @Parameters(index = "1", arity = "0..1", paramLabel = "TARGET")
    private Path target;

    @Option(names = "--confirm", paramLabel = "NAME", description = "the target's own name")
    private String confirm;

    @Option(
            names = "--version",
            paramLabel = "DATE",
            description = "the release; usually the newest of the board's channel")
    private LocalDate version;

    @Option(
            names = "--order",
            paramLabel = "VALUE",
            description = "the start order it has afterwards; usually the factory's")
    private String order;

    @Option(names = "--keep-order", description = "with the order it has now")
    private boolean keepOrder;

    private record FileOut(String file, RecoverySet.Part part) {}

    private record RecoveryCardOut(
            String board,
            LocalDate version,
            Optional<String> order,
            List<String> files,
            List<FileOut> parts,
            List<String> steps,
            Optional<String> target,
            Optional<String> verdict) {}

    @Override
    public Integer call() throws IOException {
        if (order != null && keepOrder) {
            throw new UnreadableInput("Give either --order or --keep-order.");
        }
        if (target != null && confirm == null) {
            throw new UnreadableInput("Everything on " + target + " would be lost: give its own name with --confirm.");
        }
        Workbench bench = common.workbench();
        Workbench.BoardAtHand at = bench.board(board);
        RecoveryJob job = new RecoveryJob(bench);
        Optional<String> after = keepOrder ? Optional.of(at.order()) : Optional.ofNullable(order);
        RecoveryJob.Card card = version == null
                ? job.plan(at, after)
                : job.plan(at, new FirmwareJob(bench).release(at, version), after);
        Optional<WriteReport> report = Optional.empty();
        if (target != null) {
            try (ConsoleProgress progress = common.progress(true)) {
                report = Optional.of(job.make(at, card, common.targets(bench), target, confirm, progress.meter()));
            }
        }
        List<String> lines = new ArrayList<>();
        report.ifPresent(each -> lines.add(each.sentence()));
        lines.addAll(card.steps());
        common.print(
                new RecoveryCardOut(
                        board,
                        card.release().version(),
                        card.order(),
                        List.copyOf(card.files().keySet()),
                        card.files().keySet().stream()
                                .map(name -> new FileOut(name, card.part(name)))
                                .toList(),
                        card.steps(),
                        Optional.ofNullable(target).map(Path::toString),
                        report.map(each -> each.verdict().code().toLowerCase(Locale.ROOT))),
                lines);
        return report.filter(each -> !each.verdict().good()).isPresent() ? ExitCode.FAILED : ExitCode.DONE;
    }
}
