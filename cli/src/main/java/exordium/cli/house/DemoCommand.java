// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.jobs.bench.Workbench;
import exordium.jobs.demo.DemoWorkspace;
import java.io.IOException;
import java.time.Clock;
import java.time.ZoneId;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code demo}: makes the demo workspace. */
@Command(name = "demo", description = "Make the demo workspace.")
public final class DemoCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Option(names = "--reset", description = "delete an earlier demo in the folder first")
    private boolean reset;

    private record DemoOut(String workspace, String name, int boards, int media, int images) {}

    @Override
    public Integer call() throws IOException {
        Workbench bench = common.closedAtTheEnd(
                DemoWorkspace.make(common.folder(), reset, Clock.systemUTC(), ZoneId.systemDefault()));
        DemoOut out = new DemoOut(
                bench.folder().toAbsolutePath().toString(),
                bench.rules().workspaceName(),
                bench.records().boards().size(),
                bench.records().media().size(),
                bench.records().images().size());
        common.print(
                out,
                List.of("Demo workspace " + out.name() + " in " + out.workspace() + ": " + out.boards() + " boards, "
                        + out.media() + " media, " + out.images() + " images."));
        return ExitCode.DONE;
    }
}
