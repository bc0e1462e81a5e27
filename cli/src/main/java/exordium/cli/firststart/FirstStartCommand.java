// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.TakeIn;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.StartedBut;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.firststart.intents.PasswordHash;
import exordium.core.firststart.intents.WifiKey;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.firststart.IntentSets;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firststart}: turns what is wanted into edits of a medium, and takes them back. */
@Command(
        name = "firststart",
        description = "Plan, make or take back the edits of a first start.",
        mixinStandardHelpOptions = true,
        subcommands = {BatchCommand.class, ReachCommand.class})
public final class FirstStartCommand {

    private record EditOut(String file, String before, String after) {}

    private record FirstStartOut(
            List<EditOut> edits, List<Common.FindingOut> findings, Optional<String> diskId, boolean grows) {}

    private record SetsOut(List<String> sets) {}

    private record KeptOut(String set, String file) {}

    private record ReasonOut(String text, boolean sure, Optional<JsonNode> mend) {}

    private record WhyOut(List<ReasonOut> reasons) {}

    private record SecretOut(String secret) {}

    @Command(name = "plan", description = "Show the edits.")
    int plan(
            @Mixin Common common,
            @Parameters(paramLabel = "INTENTS.yaml") Path file,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--board", paramLabel = "ID", description = "whose first start it is")
                    Optional<String> board)
            throws IOException {
        Workbench bench = common.workbench();
        FirstStartJob.Order order = order(bench, file, at(common.readable(), target), board);
        show(common, new FirstStartJob(bench).plan(order));
        return ExitCode.DONE;
    }

    @Command(name = "apply", description = "Make the edits and read them back.")
    int apply(
            @Mixin Common common,
            @Mixin TakeIn takeIn,
            @Parameters(paramLabel = "INTENTS.yaml") Path file,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--board", paramLabel = "ID", description = "whose first start it is")
                    Optional<String> board)
            throws IOException {
        Workbench bench = common.workbench();
        FirstStartJob.Order order = order(bench, file, at(common.targets(bench), target), board);
        FirstStartJob job = new FirstStartJob(bench);
        if (takeIn.wanted()) {
            Refused.ifAnyStops(job.plan(order).findings());
            takeIn.take(bench, order.target());
        }
        show(common, job.apply(order));
        return ExitCode.DONE;
    }

    @Command(name = "undo", description = "Take back what was set up last on a medium: every file as it was.")
    int undo(
            @Mixin Common common,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--profile", required = true, paramLabel = "P") String profile,
            @Option(names = "--board", paramLabel = "ID", description = "whose first start it was")
                    Optional<String> board)
            throws IOException {
        Workbench bench = common.workbench();
        FirstStartJob.Order order = new FirstStartJob.Order(
                at(common.targets(bench), target), bench.profiles().require(profile), Intents.NONE, board);
        List<FileEdit> back = new FirstStartJob(bench).undo(order);
        show(common, new FirstStartPlan(back, List.of(), Optional.empty(), false));
        return ExitCode.DONE;
    }

    @Command(
            name = "why",
            description = "It started, but …: what of a medium's settings explains it, and the intents that mend it.")
    int why(
            @Mixin Common common,
            @Parameters(
                            paramLabel =
                                    "no-picture|black-borders|keys-swapped|no-network|wrong-address|login-refused|time-wrong")
                    String seen,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--profile", required = true, paramLabel = "P") String profile)
            throws IOException {
        Workbench bench = common.workbench();
        BoardProfile board = bench.profiles().require(profile);
        StartedBut.Symptom symptom = Coded.of(StartedBut.Symptom.class, seen);
        List<StartedBut.Reason> reasons =
                StartedBut.of(symptom, new FirstStartJob(bench).found(at(common.readable(), target), board), board);
        common.print(
                new WhyOut(reasons.stream()
                        .map(each -> new ReasonOut(
                                each.text(), each.sure(), each.mend().map(IntentsReader::fields)))
                        .toList()),
                reasons.stream()
                        .map(each -> (each.sure() ? "" : "look: ")
                                + each.text()
                                + each.mend()
                                        .map(mend -> " Mend: " + IntentsReader.fields(mend))
                                        .orElse(""))
                        .toList());
        return ExitCode.DONE;
    }

    @Command(name = "sets", description = "List the sets of intents that are kept.")
    int sets(@Mixin Common common) throws IOException {
        List<String> names = new IntentSets(common.workbench().folder()).names();
        common.print(new SetsOut(names), names.isEmpty() ? List.of("No set is kept.") : names);
        return ExitCode.DONE;
    }

    @Command(name = "keep", description = "Keep intents as a set to build on; what is one board's own is left out.")
    int keep(
            @Mixin Common common,
            @Parameters(paramLabel = "NAME") String name,
            @Parameters(paramLabel = "INTENTS.yaml") Path file)
            throws IOException {
        IntentSets sets = new IntentSets(common.workbench().folder());
        Path kept = sets.keep(name, sets.over(IntentsReader.file(file)));
        common.print(new KeptOut(name, kept.toString()), List.of("Kept as " + kept + "."));
        return ExitCode.DONE;
    }

    @Command(
            name = "secret",
            description = "Read a password or a Wi-Fi pass phrase from standard input and print what is kept of it.")
    int secret(
            @Mixin Common common,
            @Option(names = "--account", paramLabel = "NAME", description = "a password: its SHA-512 crypt")
                    Optional<String> account,
            @Option(names = "--wifi", paramLabel = "NETWORK", description = "a pass phrase: the key derived from it")
                    Optional<String> wifi)
            throws IOException {
        if (account.isPresent() == wifi.isPresent()) {
            throw new BadArgument("Say either --account NAME or --wifi NETWORK.", "secret");
        }
        String typed = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8)).readLine();
        if (typed == null) {
            throw new UnreadableInput("Nothing came on standard input.");
        }
        String secret = account.isPresent() ? PasswordHash.of(typed, account.get()) : WifiKey.of(wifi.get(), typed);
        common.print(new SecretOut(secret), List.of(secret));
        return ExitCode.DONE;
    }

    private static FirstStartJob.Order order(Workbench bench, Path file, Targets.Target target, Optional<String> board)
            throws IOException {
        IntentsReader.Wanted wanted = IntentsReader.file(file);
        if (wanted.profile().isEmpty() && board.isEmpty()) {
            throw new UnreadableInput(
                    file.getFileName() + ": \"profile\" is missing; say which family of boards it is for.");
        }
        Intents intents = new IntentSets(bench.folder()).over(wanted);
        return new FirstStartJob.Order(
                target,
                wanted.profile().isEmpty()
                        ? bench.board(board.orElseThrow()).profile()
                        : bench.profiles().require(wanted.profile()),
                intents,
                board);
    }

    static Targets.Target at(Targets targets, Path target) throws IOException {
        if (!Files.exists(target)) {
            throw new UnreadableInput("There is no " + target + ".");
        }
        return targets.at(target, ByteSize.ZERO);
    }

    private static String text(FileBody body) {
        return body.link() ? "-> " + body.text() : body.text();
    }

    private static void show(Common common, FirstStartPlan plan) {
        List<String> lines = new ArrayList<>();
        plan.edits().forEach(edit -> {
            lines.add(edit.file()
                    + (edit.before().isEmpty() ? " (new)" : edit.after().isEmpty() ? " (taken out)" : ""));
            edit.before().ifPresent(before -> text(before).lines().forEach(line -> lines.add("- " + line)));
            edit.after().ifPresent(after -> text(after).lines().forEach(line -> lines.add("+ " + line)));
        });
        plan.identifier().ifPresent(id -> lines.add("disk identifier " + id.text()));
        if (plan.grows()) {
            lines.add("the last partition is made as large as the medium allows");
        }
        lines.addAll(Common.lines(plan.findings()));
        common.print(
                new FirstStartOut(
                        plan.edits().stream()
                                .map(edit -> new EditOut(
                                        edit.file(),
                                        edit.before()
                                                .map(FirstStartCommand::text)
                                                .orElse(null),
                                        edit.after()
                                                .map(FirstStartCommand::text)
                                                .orElse(null)))
                                .toList(),
                        Common.out(plan.findings()),
                        plan.identifier().map(id -> id.text()),
                        plan.grows()),
                lines.isEmpty() ? List.of("Nothing to change.") : lines);
    }
}
