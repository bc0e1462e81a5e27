// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.block.TransferWatch;
import exordium.jobs.copies.vault.VaultJob;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code copy prune}: takes out what no house rule keeps. */
@Command(name = "prune", description = "Take out the copies that no house rule keeps.")
public final class CopyPruneCommand implements Callable<Integer> {
    private record PruneOut(boolean dryRun, long freedBytes, List<VerdictOut> copies) {}

    private record VerdictOut(long id, String board, Instant proven, String file, boolean stays, String why) {}

    @Mixin
    private Common common;

    @Parameters(paramLabel = "BOARD", arity = "0..1")
    private String board;

    @Option(names = "--dry-run", description = "only say what would go")
    private boolean dryRun;

    @Override
    public Integer call() throws IOException {
        VaultJob vault = new VaultJob(common.house().bench());
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
}
