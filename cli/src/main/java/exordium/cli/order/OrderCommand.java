// SPDX-License-Identifier: Apache-2.0
package exordium.cli.order;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.access.Ability;
import exordium.core.access.HandSteps;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.bootorder.FusePlan;
import exordium.core.bootorder.OrderDialect;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Companions;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.Workbench;
import exordium.jobs.order.OrderJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code order}: reads and writes down start orders. */
@Command(
        name = "order",
        description = "Decode, encode and stage start orders.",
        mixinStandardHelpOptions = true,
        subcommands = OrderInstallCommand.class)
public final class OrderCommand {
    private static final long LARGEST_STORE = 256L << 20;

    private record OrderOut(String value, List<StartSource> sources, List<Common.FindingOut> findings) {}

    private record EncodedOut(String value, List<StartSource> sources) {}

    private record StagedOut(
            String board,
            String reach,
            String value,
            String note,
            List<String> steps,
            String outcome,
            String cause,
            String rehearsed,
            List<Common.FindingOut> findings) {}

    @Command(name = "decode", description = "Say what a stored order means.")
    int decode(
            @Mixin Common common,
            @Option(names = "--profile", required = true) String profile,
            @Option(
                            names = "--variables",
                            paramLabel = "FOLDER",
                            description = "a UEFI board's variables as files, as its running system shows them")
                    Path variables,
            @Parameters(paramLabel = "VALUE", arity = "0..1") String value)
            throws IOException {
        if ((variables == null) == (value == null)) {
            throw new UnreadableInput("Give either a value or --variables.");
        }
        if (variables != null) {
            return decodeVariables(common, variables);
        }
        DecodedOrder order = OrderDialect.of(common.profile(profile)).decode(value);
        List<String> lines = new ArrayList<>();
        if (!order.sources().isEmpty()) {
            lines.add(order.sources().stream().map(StartSource::code).collect(Collectors.joining(", ")));
        }
        lines.addAll(Common.lines(order.findings()));
        common.print(new OrderOut(order.value(), order.sources(), Common.out(order.findings())), lines);
        return Finding.anyStops(order.findings()) ? ExitCode.BAD_INPUT : ExitCode.DONE;
    }

    private record EntryOut(String entry, String title, boolean active, Optional<StartSource> source, String path) {}

    private record VariablesOut(String value, List<EntryOut> entries) {}

    private static int decodeVariables(Common common, Path folder) throws IOException {
        return print(common, EfiVariables.ofFolder(folder));
    }

    private static int print(Common common, EfiVariables variables) {
        List<EntryOut> entries = new ArrayList<>();
        for (int number : variables.order()) {
            EfiLoadOption option = variables.entries().get(number);
            entries.add(
                    option == null
                            ? new EntryOut(EfiLoadOption.variable(number), "", false, Optional.empty(), "is not there")
                            : new EntryOut(
                                    EfiLoadOption.variable(number),
                                    option.title(),
                                    option.isActive(),
                                    option.source(),
                                    option.said()));
        }
        List<String> lines = new ArrayList<>();
        for (EntryOut each : entries) {
            lines.add(each.entry() + "  " + each.title() + "  "
                    + each.source().map(StartSource::code).orElse("a partition or a file") + "  " + each.path()
                    + (each.active() ? "" : "  passed over: not active"));
        }
        common.print(new VariablesOut(variables.value(), entries), lines);
        return ExitCode.DONE;
    }

    @Command(
            name = "store",
            description = "Start entries and their order in a file that holds a UEFI firmware's variables.")
    int store(
            @Mixin Common common,
            @Parameters(paramLabel = "FILE") Path file,
            @Option(names = "--order", paramLabel = "0001,0000", description = "another order; needs --to")
                    String order,
            @Option(names = "--to", paramLabel = "OUT", description = "a new file; the one there is stays as it is")
                    Path to)
            throws IOException {
        if ((order == null) != (to == null)) {
            throw new UnreadableInput("Give --order and --to together.");
        }
        if (!Files.isRegularFile(file) || Files.size(file) > LARGEST_STORE) {
            throw new UnreadableInput("There is no store of UEFI variables at " + file + ".");
        }
        byte[] store = Files.readAllBytes(file);
        if (order != null) {
            List<Integer> numbers = new ArrayList<>();
            for (String each : order.split(",")) {
                if (!each.strip().matches("[0-9a-fA-F]{4}")) {
                    throw new BadArgument("\"" + each + "\" is no entry such as 0001.", order);
                }
                numbers.add(Integer.parseInt(each.strip(), 16));
            }
            store = EfiStore.withOrder(store, numbers);
            Files.write(to, store, StandardOpenOption.CREATE_NEW);
        }
        return print(common, EfiStore.parse(store));
    }

    private record PresetOut(
            String id,
            String title,
            String value,
            List<StartSource> sources,
            String reason,
            String outcome,
            double seconds) {}

    @Command(
            name = "presets",
            description = "Orders people choose for such a board, with reasons and how long each start takes.")
    int presets(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        Bench bench = house.benches().of(at);
        Set<StartSource> plugged = bench.attached().stream()
                .flatMap(each -> at.profile().port(each.port()).stream())
                .map(port -> port.source())
                .collect(Collectors.toSet());
        List<PresetOut> presets = new ArrayList<>();
        for (OrderPreset each : OrderPreset.of(at.profile(), plugged)) {
            Trace trace = Rehearsal.of(bench.withOrder(each.value()));
            presets.add(new PresetOut(
                    each.id(),
                    each.title(),
                    each.value(),
                    each.sources(),
                    each.reason(),
                    trace.outcome().code(),
                    trace.seconds()));
        }
        common.print(
                presets,
                presets.stream()
                        .map(each -> each.value() + "  " + each.title() + ": " + each.outcome() + " after "
                                + each.seconds() + " s. " + each.reason())
                        .toList());
        return ExitCode.DONE;
    }

    private record PlanOut(
            String board,
            String value,
            List<StartSource> sources,
            String outcome,
            double seconds,
            double secondsNow,
            List<String> settingsAdded,
            List<String> settingsRemoved,
            List<Common.FindingOut> findings) {}

    @Command(name = "plan", description = "What an order would do on a board, and which settings have to go with it.")
    int plan(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "VALUE") String value)
            throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        Bench bench = house.benches().of(at);
        List<Finding> findings = new ArrayList<>(
                OrderDialect.judge(at.profile(), value, at.board().chip().running()));
        DecodedOrder order = OrderDialect.of(at.profile()).decode(value);
        Companions with = new OrderJob(house.bench()).companions(at, bench, order.sources());
        findings.addAll(with.findings());
        Bench next = bench.withConfig(with.config()).withOrder(value);
        Trace trace = Rehearsal.of(next);
        List<String> lines = new ArrayList<>();
        lines.add(trace.outcome().code() + " after " + trace.seconds() + " s; now "
                + Rehearsal.of(bench).seconds() + " s");
        with.out().forEach(line -> lines.add("- " + line));
        with.in().forEach(line -> lines.add("+ " + line));
        lines.addAll(Common.lines(findings));
        common.print(
                new PlanOut(
                        board,
                        value,
                        order.sources(),
                        trace.outcome().code(),
                        trace.seconds(),
                        Rehearsal.of(bench).seconds(),
                        with.in(),
                        with.out(),
                        Common.out(findings)),
                lines);
        return Finding.anyStops(findings) ? ExitCode.REFUSED : ExitCode.DONE;
    }

    private record FuseOut(
            String board,
            int bit,
            String before,
            String after,
            String line,
            boolean set,
            List<Common.FindingOut> findings,
            List<String> steps) {}

    @Command(
            name = "fuse",
            description =
                    "What setting a board's one-time bit comes to; at a virtual board it is set when confirmed twice.")
    int fuse(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(
                            names = "--register",
                            paramLabel = "VALUE",
                            description = "as the board's tool prints it, 17:1020000a")
                    String register,
            @Option(names = "--confirm", paramLabel = "BOARD", description = "the board's id, the first time of asking")
                    String typed,
            @Option(names = "--again", paramLabel = "WORDS", description = "the bit, as in \"bit 29\", the second time")
                    String again)
            throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        FusePlan plan = FusePlan.of(at.profile(), register == null ? at.order() : register);
        boolean set = typed != null || again != null;
        if (set) {
            new OrderJob(house.bench()).setFuse(at, typed == null ? "" : typed, again == null ? "" : again);
        }
        List<String> lines = new ArrayList<>();
        lines.add("register " + plan.before() + " before, " + plan.after() + " after: bit " + plan.bit()
                + (set ? " is set, for ever" : ""));
        lines.addAll(Common.lines(plan.findings()));
        lines.addAll(plan.steps());
        common.print(
                new FuseOut(
                        board,
                        plan.bit(),
                        plan.before(),
                        plan.after(),
                        plan.line(),
                        set,
                        Common.out(plan.findings()),
                        plan.steps()),
                lines);
        return Finding.anyStops(plan.findings()) ? ExitCode.REFUSED : ExitCode.DONE;
    }

    @Command(name = "encode", description = "Write sources down as the board stores them.")
    int encode(
            @Mixin Common common,
            @Option(names = "--profile", required = true) String profile,
            @Parameters(paramLabel = "a,b,c") String list)
            throws IOException {
        List<StartSource> sources = new ArrayList<>();
        for (String code : list.split(",")) {
            sources.add(StartSource.find(code.strip())
                    .orElseThrow(() -> new UnreadableInput("\"" + code.strip() + "\" is no source; there are "
                            + Arrays.stream(StartSource.values())
                                    .map(StartSource::code)
                                    .collect(Collectors.joining(", "))
                            + ".")));
        }
        String value = OrderDialect.of(common.profile(profile)).encode(sources);
        common.print(new EncodedOut(value, sources), List.of(value));
        return ExitCode.DONE;
    }

    @Command(name = "stage", description = "Stage an order on a board; it counts from the next restart.")
    int stage(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Parameters(paramLabel = "VALUE") String value,
            @Option(
                            names = "--with-settings",
                            negatable = true,
                            defaultValue = "true",
                            fallbackValue = "true",
                            description = "and the settings that have to go with it (default), or the order alone")
                    boolean withSettings)
            throws IOException {
        Common.House house = common.house();
        OrderJob job = new OrderJob(house.bench());
        Workbench.BoardAtHand before = house.bench().board(board);
        // Where it is set by hand the steps are all its user goes by: what has to go with the order is among them.
        boolean with = withSettings || !before.register().can(Ability.STAGE);
        if (with) {
            List<StartSource> sources =
                    OrderDialect.of(before.profile()).decode(value).sources();
            job.stage(before, value, job.companions(before, house.benches().of(before), sources));
        } else {
            job.stage(before, value);
        }
        Workbench.BoardAtHand at = house.bench().board(board);
        String note = at.register().can(Ability.STAGE)
                ? value + " is staged on " + board + "; restart it, do not switch it off."
                : value + " is to be set at " + board + ":";
        List<String> steps =
                HandSteps.restart(at.register().way(), at.profile(), at.board().chip());
        Trace then = Rehearsal.of(house.benches()
                .of(at)
                .withConfig(at.board().chip().nextConfig())
                .withOrder(value));
        String rehearsed = then.runs()
                ? "As rehearsed it then starts from " + then.startedFrom().orElse("nowhere") + " in " + then.seconds()
                        + " s."
                : "As rehearsed it then does not start (" + then.outcome().code() + "): "
                        + then.cause().shortText() + ".";
        List<Finding> findings = then.findings().stream()
                .filter(finding -> finding.severity() != Severity.NOTE)
                .toList();
        List<String> lines = new ArrayList<>(List.of(note));
        lines.addAll(steps);
        lines.add(rehearsed);
        lines.addAll(Common.lines(findings));
        common.print(
                new StagedOut(
                        board,
                        at.register().way().code(),
                        value,
                        note,
                        steps,
                        then.outcome().code(),
                        then.cause().code(),
                        rehearsed,
                        Common.out(findings)),
                lines);
        return ExitCode.DONE;
    }
}
