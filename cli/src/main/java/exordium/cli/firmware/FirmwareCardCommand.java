// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firmware;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.rehearsal.Trace;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.FirmwareCardJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firmware card}: a card that carries a board's firmware. */
@Command(
        name = "card",
        description =
                "Make a card that carries a board's firmware, from its archive; without a target, say what it would hold.")
public final class FirmwareCardCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "BOARD")
    private String board;

    @Parameters(index = "1", paramLabel = "ARCHIVE", description = "a .zip or .tar, as the firmware is published")
    private Path archive;

    @Parameters(index = "2", arity = "0..1", paramLabel = "TARGET")
    private Path target;

    @Option(
            names = "--and",
            paramLabel = "ARCHIVE",
            description = "another archive whose files go onto the card as well; what both hold is of the last")
    private List<Path> others = List.of();

    @Option(
            names = "--leave-out",
            split = ",",
            paramLabel = "NAME,...",
            description = "files that do not go onto it, such as kernel*.img")
    private List<String> leaveOut = List.of();

    @Option(names = "--confirm", paramLabel = "NAME", description = "the target's own name")
    private String confirm;

    private record FirmwareCardOut(
            String board,
            List<String> files,
            List<String> leftOut,
            Optional<String> settings,
            long bytes,
            String outcome,
            String startedFrom,
            String cause,
            double seconds,
            Optional<String> order,
            List<String> steps,
            Optional<String> target,
            Optional<String> verdict,
            List<Common.FindingOut> findings) {}

    @Override
    public Integer call() throws IOException {
        if (target != null && confirm == null) {
            throw new BadArgument(
                    "Everything on " + target + " would be lost: give its own name with --confirm.", target.toString());
        }
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        FirmwareCardJob job = new FirmwareCardJob(house.bench(), house.benches());
        FirmwareCardJob.Planned planned =
                job.plan(at, Stream.concat(Stream.of(archive), others.stream()).toList(), leaveOut);
        Optional<WriteReport> report = Optional.empty();
        if (target != null) {
            try (ConsoleProgress progress = common.progress(true)) {
                report = Optional.of(
                        job.make(planned, common.targets(house.bench()), target, confirm, progress.meter()));
            }
        }
        Trace start = planned.start();
        List<String> lines = new ArrayList<>();
        report.ifPresent(each -> lines.add(each.sentence()));
        lines.add(planned.card().files().size() + " files on it"
                + planned.card().settings().map(line -> ", with " + line).orElse("")
                + (planned.card().leftOut().isEmpty()
                        ? "."
                        : "; left out: " + String.join(", ", planned.card().leftOut()) + "."));
        lines.add(
                start.runs()
                        ? "With it in the slot the board starts from "
                                + start.startedFrom().orElse("") + " in " + start.seconds() + " s."
                        : "With it in the slot the board does not come up: "
                                + start.cause().shortText() + ".");
        lines.addAll(planned.steps());
        lines.addAll(Common.lines(planned.findings()));
        common.print(
                new FirmwareCardOut(
                        board,
                        List.copyOf(planned.card().files().keySet()),
                        planned.card().leftOut(),
                        planned.card().settings(),
                        planned.card().size().bytes(),
                        start.outcome().code(),
                        start.startedFrom().orElse(null),
                        start.cause().code(),
                        start.seconds(),
                        planned.order(),
                        planned.steps(),
                        Optional.ofNullable(target).map(Path::toString),
                        report.map(each -> each.verdict().code().toLowerCase(Locale.ROOT)),
                        Common.out(planned.findings())),
                lines);
        if (Finding.anyStops(planned.findings())) {
            return ExitCode.REFUSED;
        }
        return report.filter(each -> !each.verdict().good()).isPresent() ? ExitCode.FAILED : ExitCode.DONE;
    }
}
