// SPDX-License-Identifier: Apache-2.0
package exordium.cli.storage;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.RoleFindings;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.Works;
import exordium.core.storage.plan.HousePlan;
import exordium.core.storage.plan.WhatIf;
import exordium.jobs.bench.Inspections;
import exordium.jobs.bench.Workbench;
import exordium.jobs.bench.WorksShelf;
import exordium.jobs.storage.NeedsFile;
import exordium.jobs.storage.StorageQuestion;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code choose}: judges the catalogue's media for what a board needs. */
@Command(name = "choose", description = "Judge media for what a board needs.")
public final class ChooseCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(paramLabel = "NEEDS.yaml", arity = "0..1")
    private Path file;

    @Option(names = "--board", paramLabel = "ID", description = "a board of the register, from what is at hand for it")
    private String board;

    @Option(names = "--all", description = "every board of the register together, from the drawer and the shops")
    private boolean all;

    @Option(names = "--image", paramLabel = "FILE", description = "with --board: the image it is for")
    private Path image;

    private record CandidateOut(
            String id,
            boolean fits,
            double effectiveReadRate,
            double effectiveWriteRate,
            double randomReadRate,
            String bottleneck,
            String port,
            Optional<String> enclosure,
            double enduranceYears,
            double cautiousYears,
            long capacityHeadroomBytes,
            double powerMarginWatts,
            double price,
            double pricePerYear,
            double merit,
            int rank,
            Optional<String> wouldWinIf,
            List<Common.FindingOut> findings) {}

    private record ChooseOut(List<CandidateOut> candidates, List<Common.FindingOut> findings, String advice) {}

    private static String rates(StorageAssessment each) {
        return "reads " + each.effectiveRead().said() + ", writes "
                + each.effectiveWrite().said() + ", through "
                + each.readChain().narrowest().title();
    }

    /** What to take, why and for how much; or that nothing does, and what is wrong with the board itself. */
    private static String advice(List<StorageAssessment> ranked, List<Finding> general) {
        String stops = general.stream()
                .filter(Finding::stops)
                .map(each -> " But first: " + each.text())
                .collect(Collectors.joining());
        if (ranked.isEmpty()) {
            return "There is nothing to choose from." + stops;
        }
        StorageAssessment best = ranked.get(0);
        if (!best.fits()) {
            return "None of these will do; nearest is " + best.medium().name() + ": " + best.verdict() + stops;
        }
        String cost = best.price() == 0
                ? "it is there already"
                : String.format(Locale.ROOT, "it costs %.0f euros", best.price());
        String why = best.parts().stream()
                .filter(part -> !part.name().equals("price"))
                .max(Comparator.comparing(StorageAssessment.MeritPart::counts))
                .map(part -> part.name() + ", " + part.words())
                .orElse("it fits");
        return "Take " + best.medium().name() + ": " + why + "; " + cost + "." + stops;
    }

    @Override
    public Integer call() throws IOException {
        if (all) {
            return house();
        }
        if ((file == null) == (board == null)) {
            throw new UnreadableInput("Give either a file of needs or --board or --all.");
        }
        NeedsFile.Question question = board == null ? ofFile() : ofRegister();
        print(question);
        return ExitCode.DONE;
    }

    private record RowOut(String board, String deed, Optional<String> medium, double price, String reason) {}

    private record HouseOut(List<RowOut> boards, double cost) {}

    private int house() throws IOException {
        HousePlan plan = new StorageQuestion(common.workbench()).house();
        List<RowOut> rows = plan.rows().stream()
                .map(row -> new RowOut(
                        row.board(),
                        row.deed().code(),
                        row.medium().map(each -> each.medium().id()),
                        row.deed() == HousePlan.Advice.BUY
                                ? row.medium().orElseThrow().price()
                                : 0,
                        row.reason()))
                .toList();
        List<String> lines = new ArrayList<>(rows.stream()
                .map(row ->
                        row.board() + "  " + row.deed() + "  " + row.medium().orElse("-") + "  " + row.reason())
                .toList());
        lines.add(String.format(Locale.ROOT, "%.0f euros in all", plan.cost()));
        common.print(new HouseOut(rows, plan.cost()), lines);
        return ExitCode.DONE;
    }

    /** House rules of the workspace count where there is one. */
    private NeedsFile.Question ofFile() throws IOException {
        StorageRules rules = common.hasWorkspace() ? common.workbench().rules().storageRules() : StorageRules.USUAL;
        Works works = new WorksShelf(common.folder(), common.reader()).all();
        return NeedsFile.read(common.reader(), file, common.folder().resolve("profiles"), rules, works);
    }

    private NeedsFile.Question ofRegister() throws IOException {
        Workbench bench = common.workbench();
        Optional<ByteSize> least = Optional.empty();
        if (image != null) {
            least = Optional.of(Inspections.ofImage(image).leastMedium());
        }
        StorageQuestion question = new StorageQuestion(bench);
        Workbench.BoardAtHand at = bench.board(board);
        return new NeedsFile.Question(
                question.choice(at, question.role(at), least), question.candidates(at), at.profile());
    }

    private void print(NeedsFile.Question question) {
        List<StorageAssessment> ranked = question.choice().rank(question.media());
        WhatIf whatIf = StorageQuestion.whatIf(question.choice(), question.media(), question.profile());
        List<Finding> general = RoleFindings.of(question.choice().need());
        List<CandidateOut> out = new ArrayList<>();
        List<String> lines = new ArrayList<>();
        for (StorageAssessment each : ranked) {
            int rank = out.size() + 1;
            Optional<String> ifs = whatIf.wins(each.medium().id());
            out.add(new CandidateOut(
                    each.medium().id(),
                    each.fits(),
                    each.effectiveRead().bytesPerSecond(),
                    each.effectiveWrite().bytesPerSecond(),
                    each.randomRead().bytesPerSecond(),
                    each.readChain().narrowest().title(),
                    each.socket().map(StorageNeed.Socket::port).orElse(""),
                    each.enclosure().map(Enclosure::id),
                    each.enduranceYears(),
                    each.cautiousYears(),
                    each.headroom().bytes(),
                    each.powerMargin().value(),
                    each.price(),
                    each.pricePerYear(),
                    each.merit(),
                    rank,
                    ifs,
                    Common.out(each.findings())));
            lines.add(rank + "  " + each.medium().name() + (each.fits() ? ", " + rates(each) : " (refused)"));
            // What would be strengths of one that is refused says nothing.
            (each.fits() ? each.parts() : List.<StorageAssessment.MeritPart>of())
                    .stream()
                            .sorted(Comparator.comparing(StorageAssessment.MeritPart::counts)
                                    .reversed())
                            .limit(3)
                            .forEach(part -> lines.add("     " + part.name() + ": " + part.words()));
            Common.lines(each.findings()).forEach(line -> lines.add("     " + line));
            ifs.ifPresent(line -> lines.add("     " + line));
        }
        lines.addAll(Common.lines(general));
        lines.add(0, advice(ranked, general));
        common.print(new ChooseOut(out, Common.out(general), lines.get(0)), lines);
    }
}
