// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.CardBatch;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firststart batch}: several cards from one image, each its own board. */
@Command(name = "batch", description = "Write several cards from one image and give each its own board.")
public final class BatchCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(paramLabel = "BATCH.yaml")
    private Path file;

    @Option(names = "--plan", description = "check the list and show it; nothing is touched")
    private boolean plan;

    private record CardOut(
            String target,
            String hostName,
            Optional<String> board,
            Optional<String> address,
            Optional<String> label,
            Optional<String> diskId,
            String verdict,
            List<Common.FindingOut> findings) {}

    private record BatchOut(List<CardOut> cards) {}

    @Override
    public Integer call() throws IOException {
        Workbench bench = common.workbench();
        CardBatch batches = new CardBatch(bench, common.targets(bench));
        CardBatch.Batch batch = batches.read(file);
        if (plan) {
            show(batches.plan(batch));
            return ExitCode.DONE;
        }
        try (ConsoleProgress progress = common.progress(true)) {
            List<CardBatch.Made> made = batches.run(batch, progress.meter());
            show(made);
            return made.stream().allMatch(CardBatch.Made::good) ? ExitCode.DONE : ExitCode.FAILED;
        }
    }

    private void show(List<CardBatch.Made> made) {
        List<String> lines = new ArrayList<>();
        List<CardOut> outs = new ArrayList<>();
        for (CardBatch.Made each : made) {
            CardBatch.Card card = each.card();
            lines.add(String.format(
                    "%-20s %-20s %-16s %-9s %s",
                    card.target().getFileName(),
                    card.hostName(),
                    each.address().orElse("from the router"),
                    each.diskId().orElse("-"),
                    each.verdict()));
            each.findings().stream()
                    .filter(finding -> finding.stops())
                    .forEach(finding -> lines.add("    " + finding.text()));
            outs.add(new CardOut(
                    card.target().toString(),
                    card.hostName(),
                    card.board(),
                    each.address(),
                    card.label(),
                    each.diskId(),
                    each.verdict(),
                    Common.out(each.findings())));
        }
        common.print(new BatchOut(outs), lines);
    }
}
