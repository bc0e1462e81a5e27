// SPDX-License-Identifier: Apache-2.0
package exordium.cli.multiboot;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.Workbench;
import exordium.jobs.multiboot.LayoutJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code layout}: several systems on one drive. */
@Command(name = "layout", description = "Several systems on one drive, by one menu.", mixinStandardHelpOptions = true)
public final class LayoutCommand {
    private record PartOut(int number, String holds, String name, long startByte, long bytes, long leastBytes) {}

    private record PlanOut(
            String table, List<PartOut> partitions, long unallocatedBytes, List<Common.FindingOut> findings) {}

    private record StartOut(
            String system, String outcome, String startedFrom, String rootFrom, String cause, double seconds) {}

    private record EntryOut(String variable, String title, String path) {}

    private record ApplyOut(
            String table,
            List<PartOut> partitions,
            List<StartOut> starts,
            String verdict,
            long writtenBytes,
            List<EntryOut> entries,
            String store,
            List<Common.FindingOut> findings) {}

    private static List<PartOut> parts(LayoutPlan.Laid laid) {
        return laid.parts().stream()
                .map(each -> new PartOut(
                        each.number(),
                        each.holds().name().toLowerCase(Locale.ROOT),
                        each.name(),
                        each.start(),
                        each.size().bytes(),
                        each.least().bytes()))
                .toList();
    }

    private static List<String> lines(LayoutPlan.Laid laid) {
        List<String> lines = new ArrayList<>();
        for (LayoutPlan.Part each : laid.parts()) {
            lines.add(String.format(
                    Locale.ROOT,
                    "%2d  %-8s %-16s from %s, %s",
                    each.number(),
                    each.holds().name().toLowerCase(Locale.ROOT),
                    each.name(),
                    ByteSize.of(each.start()).said(),
                    each.size().said()));
        }
        lines.add((laid.gpt() ? "GPT" : "MBR") + ", " + laid.free().said() + " left free");
        lines.addAll(Common.lines(laid.findings()));
        return lines;
    }

    private static LayoutPlan read(Common common, Path file) throws IOException {
        return common.reader().user(file, LayoutPlan.SCHEMA, LayoutPlan.class);
    }

    @Command(name = "plan", description = "Where everything would be; nothing is written.")
    int plan(@Mixin Common common, @Parameters(paramLabel = "LAYOUT.yaml") Path file) throws IOException {
        LayoutPlan plan = read(common, file);
        LayoutPlan.Laid laid = new LayoutJob(common.workbench()).laid(plan);
        common.print(
                new PlanOut(laid.gpt() ? "gpt" : "mbr", parts(laid), laid.free().bytes(), Common.out(laid.findings())),
                lines(laid));
        return Finding.anyStops(laid.findings()) ? ExitCode.REFUSED : ExitCode.DONE;
    }

    @Command(name = "apply", description = "Put the systems together and write them to a drive, read back.")
    int apply(
            @Mixin Common common,
            @Parameters(paramLabel = "LAYOUT.yaml") Path file,
            @Parameters(paramLabel = "TARGET") Path target,
            @Option(names = "--confirm", paramLabel = "NAME", required = true, description = "the target's own name")
                    String typed,
            @Option(
                            names = "--store",
                            paramLabel = "FILE",
                            description = "for entries of UEFI's list: a store of variables that holds them, made anew")
                    Path store)
            throws IOException {
        LayoutPlan plan = read(common, file);
        if (store != null && !Files.isDirectory(store.toAbsolutePath().getParent())) {
            throw new BadArgument("There is no folder for " + store + ".", store.toString());
        }
        if (store != null && (Files.exists(store) || !plan.byEntries())) {
            throw new BadArgument(
                    plan.byEntries()
                            ? store + " is there already; nothing is written over it."
                            : "A store of variables goes with \"choose: entries\" only.",
                    store.toString());
        }
        Workbench workbench = common.workbench();
        LayoutJob.Made made;
        try (ConsoleProgress progress = common.progress(true)) {
            made = new LayoutJob(workbench).apply(plan, common.targets(workbench), target, typed, progress.meter());
        }
        List<StartOut> starts = new ArrayList<>();
        List<String> lines = new ArrayList<>(lines(made.laid()));
        for (Map.Entry<String, Trace> each : made.starts().entrySet()) {
            Trace trace = each.getValue();
            starts.add(new StartOut(
                    each.getKey(),
                    trace.outcome().code(),
                    trace.startedFrom().orElse(null),
                    trace.rootFrom().orElse(null),
                    trace.cause().code(),
                    trace.seconds()));
        }
        lines.addAll(made.startsSaid());
        lines.add(made.report().verdict().code());
        List<EntryOut> entries = new ArrayList<>();
        if (made.entries().isPresent()) {
            EfiVariables variables = made.entries().get();
            for (int number : variables.order()) {
                EfiLoadOption entry = variables.entries().get(number);
                entries.add(new EntryOut(EfiLoadOption.variable(number), entry.title(), entry.said()));
                lines.add(EfiLoadOption.variable(number) + "  " + entry.title() + "  " + entry.said());
            }
            if (store != null) {
                Files.write(store, EfiStore.of(variables));
                lines.add("The entries are in " + store + ".");
            } else {
                lines.add("Make these entries in the firmware's own menu, or give --store for a file that holds them.");
            }
        }
        common.print(
                new ApplyOut(
                        made.laid().gpt() ? "gpt" : "mbr",
                        parts(made.laid()),
                        starts,
                        made.report().verdict().code(),
                        made.report().writtenBytes(),
                        entries,
                        store == null ? null : store.toString(),
                        Common.out(made.laid().findings())),
                lines);
        return made.report().verdict().good() ? ExitCode.DONE : ExitCode.FAILED;
    }
}
