// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Trace;
import exordium.jobs.copies.care.DrillJob;
import exordium.jobs.copies.schedule.CopyYear;
import exordium.jobs.copies.vault.CopyJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code copy drill}: tries a restore. */
@Command(
        name = "drill",
        description =
                "Put a board's newest copy back onto a virtual drive and rehearse its start; or all that are due.")
public final class CopyDrillCommand implements Callable<Integer> {
    private record DrillOut(
            String board,
            String copy,
            boolean passed,
            String verdict,
            Optional<String> outcome,
            Optional<String> startedFrom,
            Optional<Double> seconds,
            String text) {}

    @Mixin
    private Common common;

    @Parameters(paramLabel = "BOARD", arity = "0..1")
    private String board;

    @Option(names = "--due", description = "every board of which none was tried for a year")
    private boolean due;

    @Override
    public Integer call() throws IOException {
        if (due == (board != null)) {
            throw new UnreadableInput("Give a board, or --due for all that are due.");
        }
        Common.House house = common.house();
        List<DrillOut> done = new ArrayList<>();
        for (String each : due ? CopyYear.drillsDue(house.bench(), house.sheets()) : List.of(board)) {
            try (ConsoleProgress progress = common.progress(true)) {
                done.add(drillOut(
                        each,
                        new DrillJob(house.bench(), house.benches(), new CopyJob(house.bench(), house.sheets()))
                                .run(each, progress.meter())));
            }
        }
        List<String> lines = done.isEmpty()
                ? List.of("No restore is to be tried.")
                : done.stream().map(DrillOut::text).toList();
        common.print(due ? done : done.get(0), lines);
        return done.stream().allMatch(DrillOut::passed) ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private static DrillOut drillOut(String board, DrillJob.Done done) {
        return new DrillOut(
                board,
                done.copy().file(),
                done.passed(),
                done.report().verdict().code(),
                done.trace().map(trace -> trace.outcome().code()),
                done.trace().flatMap(Trace::startedFrom),
                done.trace().map(Trace::seconds),
                done.sentence());
    }
}
