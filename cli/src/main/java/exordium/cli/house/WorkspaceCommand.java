// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Workbench;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.workspace.WorkspaceExport;
import exordium.jobs.workspace.Workspaces;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code workspace}: makes one, lists those opened lately, takes a whole one along as one file and makes one of it. */
@Command(name = "workspace", description = "Make, list, export and import workspaces.", mixinStandardHelpOptions = true)
public final class WorkspaceCommand {
    private record WorkspaceOut(String workspace, String name, int boards, int media, int images) {
        static WorkspaceOut of(Workbench bench) {
            return new WorkspaceOut(
                    bench.folder().toAbsolutePath().toString(),
                    bench.rules().workspaceName(),
                    bench.records().boards().size(),
                    bench.records().media().size(),
                    bench.records().images().size());
        }
    }

    private record KnownOut(String workspace, String name, boolean there) {}

    private record ExportedOut(String workspace, String file, long bytes) {}

    @Command(name = "new", description = "Make a workspace.")
    int make(
            @Mixin Common common,
            @Parameters(paramLabel = "FOLDER", arity = "0..1", description = "default: what --workspace says")
                    Optional<Path> folder,
            @Option(names = "--name", paramLabel = "NAME") Optional<String> name)
            throws IOException {
        Path where = folder.orElseGet(common::folder).toAbsolutePath().normalize();
        String called = name.orElseGet(() -> String.valueOf(where.getFileName()));
        Workbench bench = common.closedAtTheEnd(
                Workspaces.ofUser().create(where, called, Clock.systemUTC(), ZoneId.systemDefault()));
        WorkspaceOut out = WorkspaceOut.of(bench);
        common.print(out, List.of("Workspace " + out.name() + " is in " + out.workspace() + "."));
        return ExitCode.DONE;
    }

    @Command(name = "list", description = "List the workspaces opened lately.")
    int list(@Mixin Common common) {
        List<KnownOut> all = new ArrayList<>();
        Workspaces.ofUser()
                .recent()
                .forEach(each -> all.add(new KnownOut(each.folder().toString(), each.name(), each.there())));
        Path usual = common.folder().toAbsolutePath().normalize();
        boolean named = all.stream().anyMatch(each -> each.workspace().equals(usual.toString()));
        if (!named && Workbench.isWorkspace(usual)) {
            all.add(new KnownOut(usual.toString(), String.valueOf(usual.getFileName()), true));
        }
        common.print(
                all,
                all.stream()
                        .map(each -> each.name() + "  " + each.workspace() + (each.there() ? "" : "  (not there now)"))
                        .toList());
        return ExitCode.DONE;
    }

    @Command(name = "export", description = "Put all of a workspace into one zip.")
    int export(@Mixin Common common, @Parameters(paramLabel = "FILE.zip") Path file) throws IOException {
        if (!common.hasWorkspace()) {
            throw new UnreadableInput("There is no workspace in " + common.folder() + ".");
        }
        Workbench bench = common.workbench();
        try (ConsoleProgress progress = common.progress(false)) {
            WorkspaceExport.write(bench, file, progress.meter());
        }
        long bytes = Files.size(file);
        common.print(
                new ExportedOut(
                        bench.folder().toAbsolutePath().toString(),
                        file.toAbsolutePath().toString(),
                        bytes),
                List.of("All of " + bench.rules().workspaceName() + " is in " + file + ", " + bytes + " bytes."));
        return ExitCode.DONE;
    }

    @Command(name = "import", description = "Make a workspace of such a zip.")
    int importFrom(
            @Mixin Common common,
            @Parameters(paramLabel = "FILE.zip") Path file,
            @Parameters(paramLabel = "FOLDER", arity = "0..1", description = "default: what --workspace says")
                    Optional<Path> folder)
            throws IOException {
        Path where = folder.orElseGet(common::folder);
        Workbench bench;
        try (ConsoleProgress progress = common.progress(false)) {
            bench = common.closedAtTheEnd(WorkspaceArchive.importFrom(
                    file, where, Clock.systemUTC(), ZoneId.systemDefault(), progress.meter()));
        }
        Workspaces.ofUser().opened(where, bench.rules().workspaceName());
        WorkspaceOut out = WorkspaceOut.of(bench);
        common.print(
                out,
                List.of("Workspace " + out.name() + " is in " + out.workspace() + ": " + out.boards() + " boards, "
                        + out.media() + " media, " + out.images() + " images."));
        return ExitCode.DONE;
    }
}
