// SPDX-License-Identifier: Apache-2.0
package exordium.cli.network;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.jobs.bench.Workbench;
import exordium.jobs.network.NetworkJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code network read-log}: how far each board came. */
@Command(name = "read-log", description = "How far each board came, by the server's log.")
public final class NetworkLogCommand implements Callable<Integer> {
    private record LogOut(
            String board,
            String mac,
            String address,
            String reached,
            String cause,
            String text,
            List<String> files,
            List<String> missing,
            String rehearsedCause) {}

    @Mixin
    private Common common;

    @Mixin
    private NetworkCommand.Kit kit;

    @Parameters(paramLabel = "LOG")
    private Path log;

    @Override
    public Integer call() throws IOException {
        Workbench workbench = common.workbench();
        List<NetworkJob.LogLine> read = new NetworkJob(workbench, kit.at(workbench)).readLog(log);
        List<String> lines = new ArrayList<>();
        for (NetworkJob.LogLine each : read) {
            lines.add(each.line().board() + "  " + each.line().mac() + "  "
                    + each.line().address() + "  "
                    + each.line().reached().said() + ": " + each.line().text()
                    + each.rehearsed()
                            .filter(trace -> !trace.runs())
                            .map(trace -> " By the kit itself: " + trace.cause().shortText() + ".")
                            .orElse(""));
        }
        common.print(
                read.stream()
                        .map(each -> new LogOut(
                                each.line().board(),
                                each.line().mac(),
                                each.line().address(),
                                each.line().reached().name().toLowerCase(Locale.ROOT),
                                each.cause().code(),
                                each.line().text(),
                                each.line().files(),
                                each.line().missing(),
                                each.rehearsed()
                                        .map(trace -> trace.cause().code())
                                        .orElse(null)))
                        .toList(),
                lines);
        return ExitCode.DONE;
    }
}
