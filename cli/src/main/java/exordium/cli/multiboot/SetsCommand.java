// SPDX-License-Identifier: Apache-2.0
package exordium.cli.multiboot;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.access.BoardState;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.multiboot.StartSets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.multiboot.SetsJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sets}: named combinations of media, order and settings. */
@Command(
        name = "sets",
        description = "Start sets of a board: named combinations of media, order and settings.",
        mixinStandardHelpOptions = true)
public final class SetsCommand {
    private record SetOut(
            String name,
            String title,
            String order,
            Map<String, String> plug,
            List<String> unplug,
            Map<String, String> settings,
            boolean button,
            boolean chosen,
            List<String> atTheBoard,
            String outcome,
            String startedFrom,
            String rootFrom,
            String cause,
            double seconds,
            List<Common.FindingOut> findings) {}

    private record ListOut(String board, List<SetOut> sets, String triedOnce) {}

    private record UseOut(String board, SetOut set, boolean once, String staged, List<String> steps) {}

    private static SetOut out(SetsJob.Proven proven) {
        StartSets.StartSet set = proven.set();
        return new SetOut(
                set.name(),
                set.said(),
                set.order().orElse(null),
                set.plug(),
                set.unplug(),
                set.settings(),
                set.holdsButton(),
                proven.chosen(),
                proven.atTheBoard(),
                proven.trace().outcome().code(),
                proven.trace().startedFrom().orElse(null),
                proven.trace().rootFrom().orElse(null),
                proven.trace().cause().code(),
                proven.trace().seconds(),
                Common.out(proven.findings()));
    }

    private static List<String> lines(SetsJob.Proven proven) {
        List<String> lines = new ArrayList<>();
        lines.add((proven.chosen() ? "* " : "  ") + proven.set().name() + "  "
                + proven.set().order().orElse("(order as it is)") + "  "
                + (proven.trace().runs()
                        ? "starts from " + proven.trace().startedFrom().orElse("") + " in "
                                + proven.trace().seconds() + " s"
                        : proven.trace().outcome().code() + ": "
                                + proven.trace().cause().shortText()));
        proven.atTheBoard().forEach(step -> lines.add("      " + step));
        Common.lines(proven.findings()).forEach(line -> lines.add("      " + line));
        return lines;
    }

    @Command(name = "list", description = "The sets of a board, each proven by rehearsal.")
    int list(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        SetsJob job = new SetsJob(house.bench(), house.benches());
        List<SetsJob.Proven> proven = job.proven(at);
        Optional<String> tried = job.of(board).fallback().map(StartSets.Fallback::set);
        List<String> lines = new ArrayList<>();
        proven.forEach(each -> lines.addAll(lines(each)));
        tried.ifPresent(set -> lines.add(set + " is being tried; \"sets use " + board + " --back\" goes back."));
        if (proven.isEmpty()) {
            lines.add("It has no start sets yet; \"sets new " + board + " NAME\" makes one.");
        }
        common.print(new ListOut(board, proven.stream().map(SetsCommand::out).toList(), tried.orElse(null)), lines);
        return ExitCode.DONE;
    }

    @Command(name = "new", description = "Make a set, or put another in its place; nothing is staged.")
    int create(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "NAME") String name,
            @Option(
                            names = "--order",
                            paramLabel = "VALUE|a,b,c",
                            description = "as the board stores it, or as sources")
                    String order,
            @Option(names = "--plug", paramLabel = "PORT=MEDIUM") Map<String, String> plug,
            @Option(names = "--unplug", paramLabel = "PORT") List<String> unplug,
            @Option(names = "--setting", paramLabel = "KEY=VALUE") Map<String, String> settings,
            @Option(names = "--button", description = "the board's button is held while power comes on") boolean button,
            @Option(names = "--title", paramLabel = "WORDS") String title)
            throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        Optional<String> value = order == null ? Optional.empty() : Optional.of(value(at, order));
        StartSets.StartSet set = new StartSets.StartSet(
                name,
                Optional.ofNullable(title),
                value,
                plug == null ? Map.of() : new TreeMap<>(plug),
                unplug == null ? List.of() : unplug,
                settings == null ? Map.of() : new TreeMap<>(settings),
                button ? Optional.of(true) : Optional.empty());
        SetsJob.Proven kept = new SetsJob(house.bench(), house.benches()).keep(at, set);
        common.print(out(kept), lines(kept));
        return ExitCode.DONE;
    }

    /** Words for sources, or a value as it is. */
    private static String value(Workbench.BoardAtHand at, String order) throws UnreadableInput {
        List<StartSource> sources = new ArrayList<>();
        for (String word : order.split(",")) {
            Optional<StartSource> source = java.util.Arrays.stream(StartSource.values())
                    .filter(each -> each.code().equalsIgnoreCase(word.strip()))
                    .findFirst();
            if (source.isEmpty()) {
                return order;
            }
            sources.add(source.get());
        }
        return OrderDialect.of(at.profile()).encode(sources);
    }

    @Command(name = "remove", description = "Forget a set; nothing else changes.")
    int remove(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "NAME") String name)
            throws IOException {
        Common.House house = common.house();
        house.bench().board(board);
        SetsJob job = new SetsJob(house.bench(), house.benches());
        job.remove(house.bench().board(board), name);
        return list(common, board);
    }

    @Command(name = "use", description = "Stage a set in one change; it counts from the next restart.")
    int use(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "NAME", arity = "0..1") String name,
            @Option(names = "--once", description = "for one start: the restart after that goes back") boolean once,
            @Option(names = "--back", description = "go back from a set that is tried") boolean back)
            throws IOException {
        if ((name == null) != back) {
            throw new BadArgument("Name a set, or say --back.", board);
        }
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        SetsJob job = new SetsJob(house.bench(), house.benches());
        if (back) {
            BoardState state = job.back(at);
            String staged = state.chip().nextConfig().text();
            common.print(
                    new UseOut(board, null, false, staged, List.of("Restart it; do not switch it off.")),
                    List.of("What was set before is staged; restart it, do not switch it off."));
            return ExitCode.DONE;
        }
        SetsJob.Used used = job.use(at, name, once);
        List<String> lines = new ArrayList<>(lines(used.proven()));
        lines.addAll(used.steps());
        common.print(
                new UseOut(
                        board,
                        out(used.proven()),
                        once,
                        used.state().chip().nextConfig().text(),
                        used.steps()),
                lines);
        return ExitCode.DONE;
    }
}
