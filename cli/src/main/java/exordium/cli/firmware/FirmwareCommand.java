// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firmware;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.KnownOut;
import exordium.core.access.HandSteps;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareAdvice;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.FirmwareStatus;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.FirmwareFacts;
import exordium.jobs.firmware.FirmwareJob;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firmware}: what runs, what is newest, and staging an update. */
@Command(
        name = "firmware",
        description = "Show and stage a board's firmware.",
        mixinStandardHelpOptions = true,
        subcommands = {
            RecoveryCardCommand.class,
            FirmwareCardCommand.class,
            ChipSettingsCommand.class,
            BundleCommands.class
        })
public final class FirmwareCommand {
    private record ReleaseOut(LocalDate version, String channel, String notes) {}

    private record GateOut(String gate, String state, String text) {}

    private record StatusOut(
            String board,
            String reach,
            Optional<LocalDate> running,
            @JsonUnwrapped(prefix = "running") KnownOut runningKnown,
            Optional<LocalDate> staged,
            Optional<LocalDate> newest,
            String channel,
            String verdict,
            Optional<LocalDate> updateTo,
            List<Common.FindingOut> reasons,
            List<GateOut> gates,
            List<Common.FindingOut> system,
            List<Common.FindingOut> findings) {}

    private record PlanOut(
            String board,
            String reach,
            LocalDate from,
            @JsonUnwrapped(prefix = "from") KnownOut fromKnown,
            LocalDate to,
            List<Common.FindingOut> findings,
            List<String> steps) {}

    @Command(name = "list", description = "List the releases for a board.")
    int list(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Workbench.BoardAtHand at = common.workbench().board(board);
        List<ReleaseOut> releases = common
                .workbench()
                .firmware()
                .of(at.profile().id())
                .stream()
                .map(each -> new ReleaseOut(each.version(), each.channel().code(), each.notes()))
                .toList();
        common.print(
                releases,
                releases.stream()
                        .map(each -> each.version() + "  " + each.channel() + "  " + each.notes())
                        .toList());
        return ExitCode.DONE;
    }

    @Command(name = "status", description = "Show what runs, is staged and is newest.")
    int status(@Mixin Common common, @Parameters(paramLabel = "BOARD") String board) throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        FirmwareStatus status = house.sheets().firmware(at);
        KnownOut known = KnownOut.of(at.board().known().firmware());
        Optional<LocalDate> newest = status.newest().map(FirmwareRelease::version);
        List<String> lines = new ArrayList<>();
        lines.add("runs " + FirmwareChip.said(status.running()) + KnownOut.words(known)
                + status.staged().map(each -> ", staged " + each).orElse("")
                + newest.map(each -> ", newest in " + status.channel().code() + " " + each)
                        .orElse(""));
        FirmwareFacts facts = new FirmwareFacts(house.bench(), house.benches());
        FirmwareAdvice advice = facts.advice(at);
        List<Finding> system = facts.system(at);
        lines.add(advice.verdict().code()
                + advice.to().map(release -> " to " + release.version()).orElse(""));
        lines.addAll(Common.lines(advice.reasons()));
        advice.gates()
                .forEach(gate ->
                        lines.add(gate.state().code() + ": " + gate.what().title() + ". " + gate.text()));
        lines.addAll(Common.lines(status.findings()));
        lines.addAll(Common.lines(system));
        lines.addAll(Common.lines(advice.doNotMixUp()));
        common.print(
                new StatusOut(
                        board,
                        at.register().way().code(),
                        FirmwareChip.known(status.running()),
                        known,
                        status.staged(),
                        newest,
                        status.channel().code(),
                        advice.verdict().code(),
                        advice.to().map(FirmwareRelease::version),
                        Common.out(advice.reasons()),
                        advice.gates().stream()
                                .map(gate -> new GateOut(
                                        gate.what().code(), gate.state().code(), gate.text()))
                                .toList(),
                        Common.out(system),
                        Common.out(status.findings())),
                lines);
        return ExitCode.DONE;
    }

    @Command(name = "plan", description = "Show what staging a release means.")
    int plan(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--version", paramLabel = "DATE") LocalDate version)
            throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        FirmwareRelease release = release(house.bench(), at, version);
        List<Finding> findings = new FirmwareJob(house.bench()).plan(at, release);
        show(common, at, release, findings);
        return Finding.anyStops(findings) ? ExitCode.REFUSED : ExitCode.DONE;
    }

    @Command(name = "apply", description = "Stage a release; it takes effect at the next restart.")
    int apply(
            @Mixin Common common,
            @Parameters(paramLabel = "BOARD") String board,
            @Option(names = "--version", paramLabel = "DATE") LocalDate version)
            throws IOException {
        Common.House house = common.house();
        Workbench.BoardAtHand at = house.bench().board(board);
        FirmwareRelease release = release(house.bench(), at, version);
        new FirmwareJob(house.bench()).stage(at, release);
        show(common, house.bench().board(board), release, new FirmwareJob(house.bench()).plan(at, release));
        return ExitCode.DONE;
    }

    static FirmwareRelease release(Workbench bench, Workbench.BoardAtHand at, LocalDate version) throws IOException {
        if (version == null) {
            return bench.firmware()
                    .newest(at.profile().id(), at.register().channel())
                    .orElseThrow(() -> new UnreadableInput(
                            "There is no release for a " + at.profile().id() + "."));
        }
        return new FirmwareJob(bench).release(at, version);
    }

    private static void show(Common common, Workbench.BoardAtHand at, FirmwareRelease release, List<Finding> findings) {
        List<String> lines = new ArrayList<>();
        KnownOut known = KnownOut.of(at.board().known().firmware());
        List<String> steps = HandSteps.restart(
                at.register().way(), at.profile(), at.board().chip().stage(release.version()));
        lines.add("from " + at.board().firmware() + KnownOut.words(known) + " to " + release.version());
        lines.addAll(Common.lines(findings));
        lines.addAll(steps);
        common.print(
                new PlanOut(
                        at.register().id(),
                        at.register().way().code(),
                        at.board().firmware(),
                        known,
                        release.version(),
                        Common.out(findings),
                        steps),
                lines);
    }
}
