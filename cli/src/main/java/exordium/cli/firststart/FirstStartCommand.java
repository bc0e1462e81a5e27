// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.FirstStartPlan;
import exordium.core.firststart.Intents;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.ContentsReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firststart}: turns what is wanted into edits of the start partition. */
@Command(
        name = "firststart",
        description = "Plan or make the edits of the start partition.",
        mixinStandardHelpOptions = true)
public final class FirstStartCommand {
    private static final String SCHEMA = "/exordium/profiles/intents.schema.json";

    /** The form of INTENTS.yaml. */
    record IntentsFile(String profile, boolean remoteLogin, Optional<String> fixedAddress, boolean rootByIdentifier) {
        Intents intents() {
            return new Intents(remoteLogin, fixedAddress, rootByIdentifier);
        }
    }

    private record EditOut(String file, String before, String after) {}

    private record Out(List<EditOut> edits, List<Common.FindingOut> findings) {}

    @Command(name = "plan", description = "Show the edits.")
    int plan(
            @Mixin Common common,
            @Parameters(paramLabel = "INTENTS.yaml") Path file,
            @Parameters(paramLabel = "TARGET") Path target)
            throws IOException {
        IntentsFile wanted = read(common, file);
        BoardProfile profile = common.profile(wanted.profile());
        try (BlockDevice device = at(common.targets(true), target).opener().open(false)) {
            FirstStartPlan plan = FirstStartPlan.of(
                    wanted.intents(),
                    ContentsReader.read(device, profile.startFiles()).found(),
                    profile);
            show(common, plan);
        }
        return ExitCode.DONE;
    }

    @Command(name = "apply", description = "Make the edits and read them back.")
    int apply(
            @Mixin Common common,
            @Parameters(paramLabel = "INTENTS.yaml") Path file,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--allow-real-drives") boolean allowReal)
            throws IOException {
        IntentsFile wanted = read(common, file);
        Workbench bench = common.workbench();
        show(
                common,
                FirstStartJob.apply(
                        bench,
                        at(common.targets(allowReal, bench), target),
                        bench.profiles().require(wanted.profile()),
                        wanted.intents(),
                        Optional.empty()));
        return ExitCode.DONE;
    }

    private static IntentsFile read(Common common, Path file) throws IOException {
        return common.reader().user(file, SCHEMA, IntentsFile.class);
    }

    private static Targets.Target at(Targets targets, Path target) throws IOException {
        if (!Files.exists(target)) {
            throw new UnreadableInput("There is no " + target + ".");
        }
        return targets.at(target, ByteSize.ZERO);
    }

    private static void show(Common common, FirstStartPlan plan) {
        List<String> lines = new ArrayList<>();
        plan.edits().forEach(edit -> {
            lines.add(edit.file() + (edit.before().isEmpty() ? " (new)" : ""));
            edit.before().ifPresent(before -> before.lines().forEach(line -> lines.add("- " + line)));
            edit.after().lines().forEach(line -> lines.add("+ " + line));
        });
        lines.addAll(Common.lines(plan.findings()));
        common.print(
                new Out(
                        plan.edits().stream()
                                .map(edit ->
                                        new EditOut(edit.file(), edit.before().orElse(null), edit.after()))
                                .toList(),
                        Common.out(plan.findings())),
                lines.isEmpty() ? List.of("Nothing to change.") : lines);
    }
}
