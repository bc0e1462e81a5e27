// SPDX-License-Identifier: Apache-2.0
package exordium.cli.passage;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Wish;
import exordium.jobs.paper.PassageCard;
import exordium.jobs.passage.PassageJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code passage}: from a wish to a board that is as wished for. */
@Command(
        name = "passage",
        description = "From a wish to a running board: ways to it, and the one that was begun, step by step.",
        mixinStandardHelpOptions = true)
public final class PassageCommand {
    /** What is said to be at hand, and what not. */
    public static final class GivenOptions {
        @Option(
                names = "--with",
                paramLabel = "THING",
                description =
                        "a medium or part, by id or kind, that is at hand; of media of the house, no other is used")
        private List<String> with = List.of();

        @Option(
                names = "--without",
                paramLabel = "THING",
                description = "a medium or part, by id or kind, that is not used and not bought")
        private List<String> without = List.of();

        PassagePlan.Given given() {
            return new PassagePlan.Given(Set.copyOf(new TreeSet<>(with)), Set.copyOf(new TreeSet<>(without)));
        }
    }

    static PassageJob job(Common common) throws IOException {
        return job(common, common.house());
    }

    /** Where house: what else of it is asked. */
    static PassageJob job(Common common, Common.House house) throws IOException {
        return new PassageJob(house.bench(), house.benches(), house.sheets(), common.targets(house.bench()));
    }

    @Command(name = "wishes", description = "What can be wished for a board, and what each would take.")
    int wishes(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        List<PassageOut.WishOut> wishes =
                job(common).wishes(board).stream().map(PassageOut.WishOut::of).toList();
        common.print(wishes, wishes.stream().map(PassageOut.WishOut::line).toList());
        return ExitCode.DONE;
    }

    @Command(name = "plan", description = "The ways to a wish, best first; nothing is done.")
    int plan(
            @Mixin Common common,
            @Mixin GivenOptions options,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "WISH", description = "such as to-nvme, order=0xf416, batch=4") String wish)
            throws IOException {
        PassagePlan plan = job(common).plan(board, Wish.parse(wish), options.given());
        return plan.possible() ? shown(common, board, plan) : noWay(common, board, plan);
    }

    private static int shown(Common common, String board, PassagePlan plan) {
        common.print(PassageOut.PlanOut.of(board, plan), PassageOut.lines(plan));
        return ExitCode.DONE;
    }

    /** What would make a way is printed, why there is none is said. */
    private static int noWay(Common common, String board, PassagePlan plan) {
        List<String> lines = PassageOut.lines(plan);
        if (common.json() || !lines.isEmpty()) {
            common.print(PassageOut.PlanOut.of(board, plan), lines);
        }
        common.message(plan.reason());
        return ExitCode.REFUSED;
    }

    @Command(name = "start", description = "Begin one of the ways.")
    int start(
            @Mixin Common common,
            @Mixin GivenOptions options,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "WISH") String wish,
            @Option(names = "--route", paramLabel = "N", defaultValue = "1", description = "which, the best being 1")
                    int route)
            throws IOException {
        PassageJob job = job(common);
        Wish wished = Wish.parse(wish);
        job.requireNoneUnderWay(board);
        PassagePlan plan = job.plan(board, wished, options.given());
        if (!plan.possible()) {
            return noWay(common, board, plan);
        }
        print(common, job.start(board, wished, options.given(), route));
        return ExitCode.DONE;
    }

    private static void print(Common common, PassageJob.Shown shown) {
        common.print(PassageOut.PassagesOut.of(List.of(shown)), PassageOut.lines(shown));
    }

    @Command(name = "show", description = "How far passages are; what does not hold any more is planned anew.")
    int show(@Mixin Common common, @Parameters(paramLabel = "BOARD", arity = "0..1") String board) throws IOException {
        List<PassageJob.Shown> shown = job(common).show(Optional.ofNullable(board));
        List<String> lines = new ArrayList<>();
        shown.forEach(each -> lines.addAll(PassageOut.lines(each)));
        common.print(PassageOut.PassagesOut.of(shown), lines);
        return ExitCode.DONE;
    }

    @Command(name = "done", description = "Carry a step out, or tell that it was done by hand, with what was seen.")
    int done(
            @Mixin Common common,
            @Parameters(paramLabel = "STEP") String step,
            @Option(names = "--board", paramLabel = "BOARD") String board,
            @Option(
                            names = "--confirm",
                            paramLabel = "NAME",
                            defaultValue = "",
                            description = "the target's own name, where something is written over")
                    String confirm,
            @Option(names = "--saw", paramLabel = "FACT=VALUE", description = "such as rootDevice=/dev/sda2")
                    List<String> saw)
            throws IOException {
        try (ConsoleProgress progress = common.progress(true)) {
            print(common, job(common).done(step, Optional.ofNullable(board), confirm, facts(saw), progress.meter()));
        }
        return ExitCode.DONE;
    }

    private static Map<String, String> facts(List<String> saw) throws UnreadableInput {
        Map<String, String> facts = new LinkedHashMap<>();
        for (String each : saw == null ? List.<String>of() : saw) {
            int equals = each.indexOf('=');
            if (equals < 1 || equals == each.length() - 1) {
                throw new BadArgument(
                        "What was seen is FACT=VALUE, such as rootDevice=/dev/sda2, not \"" + each + "\".", each);
            }
            facts.put(each.substring(0, equals), each.substring(equals + 1));
        }
        return facts;
    }

    @Command(name = "anew", description = "Plan a passage anew from where it is, by the way that is best now.")
    int anew(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        print(common, job(common).anew(board));
        return ExitCode.DONE;
    }

    @Command(name = "stop", description = "Leave a passage where it is.")
    int stop(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        print(common, job(common).stop(board));
        return ExitCode.DONE;
    }

    private record CardOut(String board, String file) {}

    @Command(name = "card", description = "The job card on paper, with boxes and lines for what is seen.")
    int card(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--to", required = true, paramLabel = "FILE") Path to)
            throws IOException {
        Common.House house = common.house();
        PassageJob job = job(common, house);
        List<PassageJob.Shown> shown = job.show(Optional.of(board));
        if (shown.isEmpty()) {
            throw new UnreadableInput("No passage was begun at " + board + ".");
        }
        PassageCard.save(house.bench(), shown.get(0), to);
        common.print(new CardOut(board, to.toString()), List.of("The job card is in " + to + "."));
        return ExitCode.DONE;
    }
}
