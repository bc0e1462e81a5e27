// SPDX-License-Identifier: Apache-2.0
package exordium.cli.network;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.network.BoardAsk;
import exordium.core.network.NetworkPlan;
import exordium.jobs.bench.Workbench;
import exordium.jobs.network.NetworkFacts;
import exordium.jobs.network.NetworkJob;
import exordium.jobs.network.NetworkKit;
import exordium.jobs.network.NetworkTry;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code network}: a server for boards that start with nothing plugged in. */
@Command(
        name = "network",
        description = "Plan, make and try what a server needs for boards that start over the network.",
        mixinStandardHelpOptions = true,
        subcommands = NetworkLogCommand.class)
public final class NetworkCommand {
    /** The kit all of it is about. */
    static final class Kit {
        @Option(
                names = "--kit",
                paramLabel = "DIR",
                description = "the kit's folder (default: network in the workspace)")
        private Path folder;

        NetworkKit at(Workbench workbench) {
            return folder == null ? NetworkKit.of(workbench) : new NetworkKit(workbench, folder);
        }
    }

    private record BoardOut(
            String board,
            String profile,
            String serial,
            String mac,
            String address,
            String folder,
            String root,
            String rootKind,
            long rootBytes,
            double secondsAlone,
            double secondsTogether,
            String kernelLine) {}

    private record PlanOut(
            String server,
            String address,
            String folder,
            List<BoardOut> boards,
            long neededBytes,
            Long roomBytes,
            double secondsTogether,
            double secondsSimulated,
            double secondsApart,
            double secondsStaggered,
            List<Common.FindingOut> findings) {}

    private record FileOut(String path, String text) {}

    private record KitOut(
            String folder,
            List<String> written,
            List<String> kept,
            List<String> removed,
            List<FileOut> files,
            List<Common.FindingOut> findings) {}

    private record StepOut(String text, boolean good, List<String> log) {}

    private record SeenOut(
            String board,
            boolean starts,
            boolean agrees,
            String reached,
            String cause,
            String text,
            String address,
            List<StepOut> steps,
            String rehearsedOutcome,
            String rehearsedCause,
            double rehearsedSeconds) {}

    private record TryOut(
            boolean real, String why, List<SeenOut> boards, List<String> log, Map<String, String> broken) {}

    private record FaultOut(List<String> played) {}

    @Command(
            name = "plan",
            description = "Work out a plan: addresses, folders, roots, room and seconds; nothing is written.")
    int plan(
            @Mixin Common common,
            @Mixin Kit kit,
            @Parameters(paramLabel = "PLAN.yaml", arity = "0..1", description = "the kit's own where absent") Path file)
            throws IOException {
        Workbench workbench = common.workbench();
        NetworkKit at = kit.at(workbench);
        NetworkPlan plan = file == null ? at.plan() : NetworkPlan.read(common.reader(), file);
        NetworkJob.Planned planned = new NetworkJob(workbench, at).planned(plan);
        List<BoardOut> boards = planned.rows().stream().map(NetworkCommand::out).toList();
        List<String> lines = new ArrayList<>();
        for (NetworkJob.Row row : planned.rows()) {
            lines.add(String.format(
                    Locale.ROOT,
                    "%s  %s  tftp/%s  %s  %s  up after %.0f s, with all at once %.0f s",
                    row.client().id(),
                    row.client().address().orElse(""),
                    row.folder(),
                    row.client().rootKind().code(),
                    row.rootSize().said(),
                    row.alone(),
                    row.together()));
        }
        lines.add(String.format(
                Locale.ROOT,
                "Roots need %s%s. All at once: the last is up after %.0f s; %.1f s apart: after %.0f s.",
                planned.space().roots().said(),
                planned.space().room().map(room -> " of " + room.said()).orElse(""),
                planned.lastTogether(),
                planned.apart(),
                planned.lastApart()));
        lines.addAll(Common.lines(planned.findings()));
        common.print(
                new PlanOut(
                        plan.server().name(),
                        plan.server().address(),
                        plan.server().folder(),
                        boards,
                        planned.space().roots().bytes(),
                        planned.space().room().map(room -> room.bytes()).orElse(null),
                        planned.lastTogether(),
                        planned.simulated(),
                        planned.apart(),
                        planned.lastApart(),
                        Common.out(planned.findings())),
                lines);
        return Finding.anyStops(planned.findings()) ? ExitCode.REFUSED : ExitCode.DONE;
    }

    private static BoardOut out(NetworkJob.Row row) {
        NetworkPlan.Client client = row.client();
        return new BoardOut(
                client.id(),
                client.profile(),
                client.plainSerial(),
                client.plainMac(),
                client.address().orElse(""),
                row.folder(),
                row.root(),
                client.rootKind().code(),
                row.rootSize().bytes(),
                row.alone(),
                row.together(),
                row.kernelLine());
    }

    @Command(
            name = "kit",
            description = "Bring the kit to a plan: boards that changed are made anew, others are left as they are.")
    int kit(
            @Mixin Common common,
            @Mixin Kit kit,
            @Parameters(paramLabel = "PLAN.yaml", arity = "0..1", description = "the kit's own where absent") Path file,
            @Option(names = "--dry-run", description = "show every text file, write nothing") boolean dryRun,
            @Option(names = "--unpack", description = "unpack the roots here, as root; else they stay tars")
                    boolean unpack)
            throws IOException {
        Workbench workbench = common.workbench();
        NetworkKit at = kit.at(workbench);
        NetworkPlan plan = file == null ? at.plan() : NetworkPlan.read(common.reader(), file);
        if (dryRun) {
            NetworkFacts facts = new NetworkFacts(workbench);
            List<Finding> findings = facts.findings(plan);
            List<NetworkKit.Shown> shown = Finding.anyStops(findings) ? List.of() : at.shown(plan, facts);
            List<String> lines = new ArrayList<>();
            for (NetworkKit.Shown each : shown) {
                lines.add(each.path() + ":");
                each.text().lines().forEach(line -> lines.add("    " + line));
            }
            lines.addAll(Common.lines(findings));
            print(common, at, new NetworkKit.Done(List.of(), List.of(), List.of(), findings), shown, lines);
            return Finding.anyStops(findings) ? ExitCode.REFUSED : ExitCode.DONE;
        }
        try (ConsoleProgress progress = common.progress(false)) {
            NetworkKit.Done done = at.bringTo(plan, roots(unpack), progress.meter());
            print(common, at, done, List.of(), lines(at, done));
        }
        return ExitCode.DONE;
    }

    private static NetworkKit.Roots roots(boolean unpack) {
        return unpack ? NetworkKit.Roots.UNPACKED : NetworkKit.Roots.TAR;
    }

    private static List<String> lines(NetworkKit at, NetworkKit.Done done) {
        List<String> lines = new ArrayList<>();
        done.written().forEach(id -> lines.add("made      " + id));
        done.kept().forEach(id -> lines.add("as it was " + id));
        done.removed().forEach(id -> lines.add("taken out " + id));
        lines.addAll(Common.lines(done.findings()));
        lines.add("The kit is in " + at.folder() + "; what to do with it is in its STEPS.txt.");
        return lines;
    }

    private static void print(
            Common common, NetworkKit at, NetworkKit.Done done, List<NetworkKit.Shown> shown, List<String> lines) {
        common.print(
                new KitOut(
                        at.folder().toString(),
                        done.written(),
                        done.kept(),
                        done.removed(),
                        shown.stream()
                                .map(each -> new FileOut(each.path(), each.text()))
                                .toList(),
                        Common.out(done.findings())),
                lines);
    }

    @Command(name = "add", description = "One board more: only its own files change.")
    int add(
            @Mixin Common common,
            @Mixin Kit kit,
            @Parameters(paramLabel = "BOARD", description = "of the register, or a new name with the options below")
                    String board,
            @Option(names = "--image", paramLabel = "FILE", required = true, description = "of the shelf, or a path")
                    String image,
            @Option(names = "--root", paramLabel = "KIND", description = "own, memory or state") String root,
            @Option(names = "--profile", paramLabel = "FAMILY") String profile,
            @Option(names = "--serial", paramLabel = "S") String serial,
            @Option(names = "--mac", paramLabel = "M") String mac,
            @Option(names = "--address", paramLabel = "IP") String address,
            @Option(names = "--unpack") boolean unpack)
            throws IOException {
        Workbench workbench = common.workbench();
        NetworkKit at = kit.at(workbench);
        NetworkJob job = new NetworkJob(workbench, at);
        Optional<NetworkPlan.Root> kind = root == null ? Optional.empty() : Optional.of(rootOf(root));
        NetworkPlan.Client client;
        if (profile == null && serial == null && mac == null) {
            client = job.ofRegister(board, image, kind);
        } else if (profile == null || mac == null) {
            throw new BadArgument("A board that is not in the register needs --profile, --serial and --mac.", board);
        } else {
            client = new NetworkPlan.Client(
                    board,
                    profile,
                    serial == null ? "" : serial,
                    mac,
                    Optional.empty(),
                    image,
                    Optional.empty(),
                    kind,
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty());
        }
        if (address != null) {
            client = client.withAddress(address);
        }
        try (ConsoleProgress progress = common.progress(false)) {
            NetworkKit.Done done = at.add(NetworkKit.checked(workbench, client), roots(unpack), progress.meter());
            print(common, at, done, List.of(), lines(at, done));
        }
        return ExitCode.DONE;
    }

    private static NetworkPlan.Root rootOf(String word) throws BadArgument {
        try {
            return NetworkPlan.Root.of(word);
        } catch (IllegalArgumentException e) {
            throw new BadArgument(e.getMessage(), word);
        }
    }

    @Command(name = "remove", description = "Take a board out with all that is its own.")
    int remove(@Mixin Common common, @Mixin Kit kit, @Parameters(paramLabel = "BOARD") String board)
            throws IOException {
        NetworkKit at = kit.at(common.workbench());
        NetworkKit.Done done = at.remove(board);
        print(common, at, done, List.of(), lines(at, done));
        return ExitCode.DONE;
    }

    @Command(
            name = "try",
            description =
                    "Ask for everything as each board would: real servers in a network of their own where that is possible,"
                            + " else one that is played.")
    int tries(
            @Mixin Common common,
            @Mixin Kit kit,
            @Parameters(paramLabel = "BOARD", arity = "0..1") String board,
            @Option(names = "--played", description = "by the played server and its faults alone") boolean played)
            throws IOException {
        Workbench workbench = common.workbench();
        NetworkTry tries = new NetworkTry(workbench, kit.at(workbench));
        Optional<String> only = Optional.ofNullable(board);
        NetworkTry.Report report = played ? tries.played(only, Optional.empty()) : tries.real(only);
        List<String> lines = new ArrayList<>();
        report.why().ifPresent(lines::add);
        for (NetworkTry.Seen each : report.boards()) {
            lines.add(each.board() + ": " + each.asked().text()
                    + (each.agrees()
                            ? ""
                            : " The rehearsal says otherwise: "
                                    + each.rehearsed().cause().shortText() + "."));
            for (BoardAsk.Step step : each.asked().steps()) {
                lines.add((step.good() ? "    " : "  ! ") + step.text());
                step.log().forEach(line -> lines.add("        | " + line));
            }
        }
        report.broken().forEach((id, what) -> lines.add(id + ": " + what + "."));
        common.print(
                new TryOut(
                        report.real(),
                        report.why().orElse(null),
                        report.boards().stream().map(NetworkCommand::out).toList(),
                        report.log(),
                        report.broken()),
                lines);
        return report.good() ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private static SeenOut out(NetworkTry.Seen each) {
        BoardAsk.Come asked = each.asked();
        return new SeenOut(
                each.board(),
                each.starts(),
                each.agrees(),
                asked.reached().name().toLowerCase(Locale.ROOT),
                asked.cause().code(),
                asked.text(),
                asked.address(),
                asked.steps().stream()
                        .map(step -> new StepOut(step.text(), step.good(), step.log()))
                        .toList(),
                each.rehearsed().outcome().code(),
                each.rehearsed().cause().code(),
                each.rehearsed().seconds());
    }

    @Command(name = "fault", description = "Play a fault in the simulated network; none takes all away.")
    int fault(
            @Mixin Common common,
            @Mixin Kit kit,
            @Parameters(paramLabel = "KIND", arity = "0..1") String kind,
            @Option(names = "--board", paramLabel = "BOARD") String board)
            throws IOException {
        Workbench workbench = common.workbench();
        NetworkJob job = new NetworkJob(workbench, kit.at(workbench));
        if (kind != null) {
            job.play(kind, Optional.ofNullable(board));
        }
        List<String> played = job.playedFaults();
        List<String> lines = new ArrayList<>(played);
        if (played.isEmpty()) {
            lines.add("Nothing is wrong. These can be played:");
            NetworkJob.faults().forEach((code, said) -> lines.add("  " + code + ": " + said));
        }
        common.print(new FaultOut(played), lines);
        return ExitCode.DONE;
    }
}
