// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firmware;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.access.HandSteps;
import exordium.core.bootorder.ChipSettings;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FlashChip;
import exordium.core.profile.InputFile;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.ChipSettingsJob;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firmware settings}: what a firmware keeps beside itself, shown, changed, set back. */
@Command(
        name = "settings",
        description = "Show a board's firmware settings, or what a change to them would mean; --stage puts it down.")
public final class ChipSettingsCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(paramLabel = "BOARD")
    private String board;

    @Option(names = "--file", paramLabel = "FILE", description = "all of them, from a file")
    private Path file;

    @Option(names = "--set", paramLabel = "KEY=VALUE", description = "one of them; may be given again")
    private List<String> sets = List.of();

    @Option(names = "--factory", description = "those of a new board")
    private boolean factory;

    @Option(names = "--stage", description = "put the change down for the next restart")
    private boolean stage;

    private record ChipSettingsOut(
            String board,
            String settings,
            List<String> removed,
            List<String> added,
            boolean staged,
            List<Common.FindingOut> findings,
            List<String> steps) {}

    @Override
    public Integer call() throws IOException {
        Workbench bench = common.workbench();
        Workbench.BoardAtHand at = bench.board(board);
        ChipSettings change = ChipSettingsJob.plan(at, wanted(at));
        boolean put = stage && change.changes();
        List<String> steps = List.of();
        if (put) {
            new ChipSettingsJob(bench).stage(at, change);
            Workbench.BoardAtHand after = bench.board(board);
            steps = HandSteps.restart(
                    after.register().way(), after.profile(), after.board().chip());
        }
        List<String> lines = new ArrayList<>();
        if (change.changes()) {
            change.out().forEach(line -> lines.add("- " + line));
            change.in().forEach(line -> lines.add("+ " + line));
        } else {
            lines.addAll(change.after().lines());
        }
        lines.addAll(Common.lines(change.findings()));
        if (put) {
            lines.add("Staged; restart the board, do not switch it off.");
        }
        lines.addAll(steps);
        common.print(
                new ChipSettingsOut(
                        board,
                        change.after().text(),
                        change.out(),
                        change.in(),
                        put,
                        Common.out(change.findings()),
                        steps),
                lines);
        return change.changes() && Finding.anyStops(change.findings()) ? ExitCode.REFUSED : ExitCode.DONE;
    }

    private String wanted(Workbench.BoardAtHand at) throws IOException {
        if (file != null && factory) {
            throw new UnreadableInput("Give either --file or --factory.");
        }
        FirmwareConfig config = factory
                ? FirmwareConfig.factory(at.profile())
                : at.board().chip().nextConfig();
        if (file != null) {
            config = new FirmwareConfig(
                    new String(InputFile.read(file, 4L * FlashChip.MOST_SETTINGS), StandardCharsets.UTF_8));
        }
        for (String each : sets) {
            int equals = each.indexOf('=');
            if (equals < 1) {
                throw new BadArgument("\"" + each + "\" is no setting such as BOOT_ORDER=0xf41.", each);
            }
            config = config.with(each.substring(0, equals), each.substring(equals + 1));
        }
        return config.text();
    }
}
