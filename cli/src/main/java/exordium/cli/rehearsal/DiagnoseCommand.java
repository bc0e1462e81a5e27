// SPDX-License-Identifier: Apache-2.0
package exordium.cli.rehearsal;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.diagnosis.Diagnosis;
import exordium.core.rehearsal.diagnosis.Sign;
import exordium.jobs.bench.Workbench;
import exordium.jobs.rehearsal.DiagnosisJob;
import exordium.jobs.rehearsal.ScenarioFile;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code diagnose}: what may be wrong, by what was seen of a start. */
@Command(
        name = "diagnose",
        description = "Say what may be wrong with a board by what was seen of its start, and what to look at next.")
public final class DiagnoseCommand implements Callable<Integer> {
    private static final int SHOWN = 5;

    @Mixin
    private Common common;

    @Parameters(paramLabel = "BOARD", arity = "0..1", description = "a board of the register")
    private String board;

    @Option(names = "--scenario", paramLabel = "SCENARIO.yaml", description = "or a board described in a file")
    private Path scenario;

    @Option(
            names = "--seen",
            paramLabel = "SIGN=VALUE",
            description = "such as screen=kernel-waits, light=flickers, root=/dev/mmcblk0p2; may be given again")
    private List<String> seen = List.of();

    @Option(names = "--log", paramLabel = "FILE", description = "a boot log, or what a few commands said")
    private List<Path> logs = List.of();

    @Option(names = "--unknown", paramLabel = "SIGN", description = "was asked for, and nobody can tell")
    private List<String> unknown = List.of();

    @Option(names = "--firmware", paramLabel = "DATE", description = "the release it shows")
    private LocalDate firmware;

    @Option(names = "--order", paramLabel = "VALUE", description = "the order it shows")
    private String order;

    @Option(names = "--put-down", description = "and put it down in the logbook")
    private boolean putDown;

    private record SuspectOut(
            String fault,
            Optional<String> port,
            double share,
            String text,
            String mend,
            String cause,
            String outcome) {}

    private record QuestionOut(String sign, String text, Map<String, String> answers) {}

    private record DiagnoseOut(
            String certainty,
            List<SuspectOut> suspects,
            Optional<QuestionOut> next,
            List<Common.FindingOut> findings) {}

    @Override
    public Integer call() throws IOException {
        if ((scenario == null) == (board == null)) {
            throw new UnreadableInput("Give either a board or --scenario.");
        }
        Workbench workbench = scenario == null || putDown ? common.workbench() : null;
        Bench bench = bench();
        Diagnosis.Seen told = Diagnosis.Seen.nothing();
        for (Path log : logs) {
            told = told.and(DiagnosisJob.log(log, bench));
        }
        for (String each : seen) {
            told = DiagnosisJob.told(told, each, bench);
        }
        Set<Sign> asked = EnumSet.noneOf(Sign.class);
        for (String each : unknown) {
            try {
                asked.add(Sign.valueOf(each.strip().toUpperCase(java.util.Locale.ROOT)));
            } catch (IllegalArgumentException e) {
                throw new BadArgument("\"" + each + "\" is nothing that is asked for.", each);
            }
        }
        Diagnosis diagnosis = Diagnosis.of(bench, told, asked);
        if (putDown && board != null) {
            DiagnosisJob.putDown(workbench, workbench.board(board), diagnosis, told);
        }
        Optional<Finding> key =
                board == null ? Optional.empty() : DiagnosisJob.keyChanged(workbench, workbench.board(board), logs);
        show(diagnosis, key.stream().toList());
        return ExitCode.DONE;
    }

    private Bench bench() throws IOException {
        Bench bench;
        if (scenario != null) {
            bench = ScenarioFile.bench(
                    common.reader(), scenario, common.folder().resolve("profiles"));
        } else {
            Common.House house = common.house();
            bench = house.benches().of(house.bench().board(board));
        }
        if (firmware != null) {
            bench = bench.withFirmware(firmware);
        }
        return order == null ? bench : bench.withOrder(order);
    }

    private void show(Diagnosis diagnosis, List<Finding> findings) {
        List<SuspectOut> suspects = diagnosis.ranked().stream()
                .limit(SHOWN)
                .map(each -> new SuspectOut(
                        each.suspect().kind().code(),
                        each.suspect().port(),
                        Math.round(each.share() * 1000) / 1000.0,
                        each.suspect().text(),
                        each.suspect().mend(),
                        each.suspect().trace().cause().code(),
                        each.suspect().trace().outcome().code()))
                .toList();
        List<String> lines = new ArrayList<>();
        suspects.forEach(
                each -> lines.add(Math.round(each.share() * 100) + " of 100: " + each.text() + " " + each.mend()));
        diagnosis.next().ifPresent(next -> {
            lines.add("Look next: " + next.text());
            next.answers()
                    .forEach((value, words) ->
                            lines.add("  --seen " + next.sign().code() + "=" + value + "   " + words));
            lines.add("  --unknown " + next.sign().code() + "   cannot tell");
        });
        lines.addAll(Common.lines(findings));
        common.print(
                new DiagnoseOut(
                        diagnosis.certainty().code(),
                        suspects,
                        diagnosis.next().map(next -> new QuestionOut(next.sign().code(), next.text(), next.answers())),
                        Common.out(findings)),
                lines);
    }
}
