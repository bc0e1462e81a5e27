// SPDX-License-Identifier: Apache-2.0
package exordium.cli.media;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.Replacement;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.HealthJob;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code medium health} and {@code medium fault}: how media are, and by when they are to be replaced. */
public final class HealthCommands {
    private record HealthOut(
            String medium,
            String name,
            Optional<String> board,
            Optional<LocalDate> replaceBy,
            Optional<Long> daysLeft,
            Optional<String> reason,
            Optional<Instant> askedAt,
            Optional<Double> lifeUsed,
            Optional<Double> spareLeft,
            Optional<Long> mediaErrors,
            Optional<Long> writtenBytes,
            boolean uncleanlyLetGo,
            long fileSystemErrors,
            List<Common.FindingOut> findings) {}

    private HealthCommands() {}

    /** {@code medium health}. */
    @Command(name = "health", description = "Say how media are, and by when they are to be replaced and why.")
    static final class Health implements Callable<Integer> {
        @Mixin
        private Common common;

        @Parameters(paramLabel = "MEDIUM", arity = "0..1")
        private String medium;

        @Option(names = "--ask", description = "ask the medium itself first, where it is here")
        private boolean ask;

        @Option(
                names = "--report",
                paramLabel = "FILE",
                description = "take in what \"smartctl --json --all\" printed at the board")
        private Path report;

        @Override
        public Integer call() throws IOException {
            Workbench bench = common.workbench();
            HealthJob job = new HealthJob(bench);
            if (medium == null) {
                if (ask || report != null) {
                    throw new UnreadableInput("Name the medium that is to be asked.");
                }
                List<HealthJob.Known> all = job.all();
                common.print(
                        all.stream().map(HealthCommands::out).toList(),
                        all.stream().map(HealthCommands::line).toList());
                return ExitCode.DONE;
            }
            Media.Medium found = bench.records().medium(medium);
            HealthJob.Known known = report != null ? job.takeIn(found, report) : ask ? job.ask(found) : job.of(found);
            List<String> lines = new ArrayList<>();
            lines.add(line(known));
            known.health().findings().stream()
                    .map(Finding::text)
                    .filter(text -> !lines.contains(text))
                    .forEach(lines::add);
            common.print(out(known), lines);
            return ExitCode.DONE;
        }
    }

    /** {@code medium fault}. */
    @Command(name = "fault", description = "Put down that a medium failed, and how.")
    static final class Fault implements Callable<Integer> {
        @Mixin
        private Common common;

        @Parameters(index = "0", paramLabel = "MEDIUM")
        private String medium;

        @Parameters(
                index = "1",
                paramLabel = "TEXT",
                description = "what was seen, such as \"corrupted, the third time\"")
        private String text;

        @Override
        public Integer call() throws IOException {
            Workbench bench = common.workbench();
            HealthJob.Known known = new HealthJob(bench).fault(bench.records().medium(medium), text);
            common.print(out(known), List.of(line(known)));
            return ExitCode.DONE;
        }
    }

    private static String line(HealthJob.Known known) {
        String name = known.listed().medium().name();
        return known.health()
                .replacement()
                .map(day -> day.sentence(name))
                .orElse(name + ": nothing known says that it is to be replaced.");
    }

    private static HealthOut out(HealthJob.Known known) {
        Optional<Replacement> day = known.health().replacement();
        Optional<Instant> asked = Optional.of(known.last().at()).filter(at -> at.isAfter(Instant.EPOCH));
        return new HealthOut(
                known.listed().medium().id(),
                known.listed().medium().name(),
                known.board().map(Boards.Board::id),
                day.map(Replacement::date),
                day.map(Replacement::daysLeft),
                day.map(Replacement::reason),
                asked,
                known.last().lifeUsed(),
                known.last().spareLeft(),
                known.last().mediaErrors(),
                known.last().written().map(ByteSize::bytes),
                known.last().unclean(),
                known.last().fileSystemErrors(),
                Common.out(known.health().findings()));
    }
}
