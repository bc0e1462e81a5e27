// SPDX-License-Identifier: Apache-2.0
package exordium.cli.media;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.common.KnownOut;
import exordium.core.finding.Finding;
import exordium.core.finding.TypedName;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.KnownDrives;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.media.NewIdentity;
import exordium.jobs.media.PluggedIn;
import exordium.jobs.paper.MediaSheets;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code medium}: the register of media. */
@Command(
        name = "medium",
        description = "Keep the register of media.",
        mixinStandardHelpOptions = true,
        subcommands = {HealthCommands.Health.class, HealthCommands.Fault.class})
public final class MediumCommand {
    private static final int MOST_NAMED = 20;

    private record MediumOut(
            String id,
            String label,
            String name,
            String kind,
            long bytes,
            String place,
            String state,
            Optional<String> board,
            Optional<String> diskId,
            String holds,
            @JsonUnwrapped(prefix = "holds") KnownOut holdsKnown,
            Optional<Instant> lookedAt,
            boolean here,
            long writtenBytes,
            double worn,
            Optional<Double> lastWriteRate,
            int faults) {}

    private record LookOut(List<MediumOut> media, List<Common.FindingOut> findings) {}

    private record TakenOut(int changed, List<String> unknown) {}

    @Command(name = "list", description = "List the media, with what is known of each.")
    int list(@Mixin Common common) throws IOException {
        Workbench bench = common.workbench();
        MediaRegister register = new MediaRegister(bench);
        show(common, bench, register, register.twins());
        return ExitCode.DONE;
    }

    @Command(name = "look", description = "Look into every medium that is here, and for twins among them.")
    int look(@Mixin Common common) throws IOException {
        Workbench bench = common.workbench();
        MediaRegister register = new MediaRegister(bench);
        show(common, bench, register, register.lookIntoAll());
        return ExitCode.DONE;
    }

    private record ReadOut(String medium, String holds, Optional<String> diskId, Instant holdsAsOf, String holdsBy) {}

    @Command(name = "read", description = "Read a medium that is here and keep what is on it for when it is away.")
    int read(@Mixin Common common, @Parameters(paramLabel = "MEDIUM") String medium) throws IOException {
        Workbench bench = common.workbench();
        Media.Details now = new MediaRegister(bench).read(bench.records().medium(medium));
        common.print(
                new ReadOut(medium, now.holds(), now.diskId(), now.lookedAt().orElseThrow(), "read"),
                List.of(medium + " holds " + now.holds() + "; what it was read for is kept."));
        return ExitCode.DONE;
    }

    @Command(name = "take", description = "Take a drive of this machine into the register of media.")
    int take(
            @Mixin Common common,
            @Parameters(
                            paramLabel = "DEVICE",
                            description =
                                    "such as /dev/sdx, its id as \"drives\" shows it, or the name of a virtual drive in the workspace")
                    String device,
            @Option(names = "--name", required = true, paramLabel = "NAME") String name,
            @Option(names = "--kind", paramLabel = "KIND", description = "such as card-quick (default: the likely one)")
                    Optional<String> kind)
            throws IOException {
        Workbench bench = common.workbench();
        Media.Medium medium = new PluggedIn(bench).takeIn(device, name, kind, common.allowsRealDrives(bench));
        MediaRegister register = new MediaRegister(bench);
        MediaRegister.Entry entry = register.all().stream()
                .filter(each -> each.medium().id().equals(medium.id()))
                .findFirst()
                .orElseThrow();
        common.print(
                out(bench.targets(), entry),
                List.of(medium.name() + " is in the register as " + medium.id() + ", labelled "
                        + entry.details().label() + "."));
        return ExitCode.DONE;
    }

    private static void show(Common common, Workbench bench, MediaRegister register, List<Finding> twins)
            throws IOException {
        Targets targets = bench.targets();
        List<MediumOut> media = new java.util.ArrayList<>();
        for (MediaRegister.Entry each : register.all()) {
            media.add(out(targets, each));
        }
        List<String> lines = new java.util.ArrayList<>(media.stream()
                .map(each ->
                        each.label() + "  " + each.name() + "  " + each.board().orElse(each.place()) + "  "
                                + each.state() + "  " + each.holds() + "  " + Math.round(each.worn() * 100) + " % worn")
                .toList());
        lines.addAll(Common.lines(twins));
        common.print(new LookOut(media, Common.out(twins)), lines);
    }

    private static MediumOut out(Targets targets, MediaRegister.Entry entry) throws IOException {
        return new MediumOut(
                entry.medium().id(),
                entry.details().label(),
                entry.medium().name(),
                entry.medium().kind(),
                entry.medium().size().bytes(),
                entry.medium().place(),
                entry.details().state().code(),
                entry.board(),
                entry.details().diskId(),
                entry.details().holds(),
                KnownOut.read(entry.details().lookedAt()),
                entry.details().lookedAt(),
                targets.isHere(entry.medium()),
                entry.medium().written().bytes(),
                entry.medium().worn(),
                entry.measurements().stream()
                        .filter(each -> each.kind().equals("write"))
                        .reduce((first, last) -> last)
                        .map(each -> each.rate().bytesPerSecond()),
                entry.faults().size());
    }

    @Command(name = "label", description = "Give a medium the short name that is printed on it.")
    int label(
            @Mixin Common common,
            @Parameters(paramLabel = "MEDIUM") String medium,
            @Parameters(paramLabel = "LABEL") String label)
            throws IOException {
        Workbench bench = common.workbench();
        new MediaRegister(bench).label(bench.records().medium(medium), label);
        common.print(label, List.of(medium + " is called " + label + "."));
        return ExitCode.DONE;
    }

    @Command(name = "state", description = "Say that a medium is here, lent or retired.")
    int state(
            @Mixin Common common,
            @Parameters(paramLabel = "MEDIUM") String medium,
            @Parameters(paramLabel = "here|lent|retired") String state,
            @Option(names = "--note", paramLabel = "TEXT", defaultValue = "") String note)
            throws IOException {
        Workbench bench = common.workbench();
        new MediaRegister(bench).state(bench.records().medium(medium), Media.State.of(state), note);
        common.print(state, List.of(medium + " is " + state + "."));
        return ExitCode.DONE;
    }

    @Command(name = "merge", description = "Make two entries one that turned out to be the same thing.")
    int merge(
            @Mixin Common common,
            @Parameters(paramLabel = "FROM") String from,
            @Parameters(paramLabel = "INTO") String into)
            throws IOException {
        Workbench bench = common.workbench();
        new MediaRegister(bench)
                .merge(bench.records().medium(from), bench.records().medium(into));
        common.print(into, List.of(from + " and " + into + " are one now."));
        return ExitCode.DONE;
    }

    private record CopyOnOut(boolean fits, String code, String text) {}

    @Command(name = "copy-on", description = "Say whether what is on one medium can be copied on to another.")
    int copyOn(
            @Mixin Common common,
            @Parameters(paramLabel = "FROM") String from,
            @Parameters(paramLabel = "TO") String to)
            throws IOException {
        Workbench bench = common.workbench();
        Finding finding = new MediaRegister(bench)
                .copyOn(bench.records().medium(from), bench.records().medium(to));
        common.print(new CopyOnOut(!finding.stops(), finding.code(), finding.text()), List.of(finding.text()));
        return ExitCode.DONE;
    }

    @Command(name = "known", description = "Put down that a model of drive works with a family of boards, or not.")
    int known(
            @Mixin Common common,
            @Parameters(paramLabel = "MODEL", arity = "0..1") String model,
            @Option(names = "--profile", paramLabel = "P") String profile,
            @Option(names = "--works", negatable = true, defaultValue = "true", fallbackValue = "true") boolean works,
            @Option(names = "--note", paramLabel = "TEXT", defaultValue = "") String note)
            throws IOException {
        Workbench bench = common.workbench();
        if (model != null) {
            if (profile == null) {
                throw new UnreadableInput("Name the family of boards with --profile.");
            }
            new MediaRegister(bench)
                    .known(new KnownDrives.Known(model, common.profile(profile).id(), works, note));
        }
        List<KnownDrives.Known> list = bench.records().knownDrives().list();
        common.print(
                list,
                list.stream()
                        .map(each -> each.name() + "  " + each.profile() + "  "
                                + (each.works() ? "works" : "does not work") + "  " + each.note())
                        .toList());
        return ExitCode.DONE;
    }

    @Command(name = "recognise", description = "Say which medium of the register a drive is.")
    int recognise(@Mixin Common common, @Parameters(paramLabel = "FILE") Path file) throws IOException {
        Workbench bench = common.workbench();
        MediaRegister register = new MediaRegister(bench);
        Optional<Media.Medium> medium = register.recognise(file);
        common.print(
                medium.map(Media.Medium::id),
                List.of(medium.map(found -> file.getFileName() + " is " + register.called(found) + ".")
                        .orElse(file.getFileName() + " was never here.")));
        return ExitCode.DONE;
    }

    @Command(name = "new-identifier", description = "Give a clone a disk identifier of its own.")
    int newIdentifier(
            @Mixin Common common,
            @Parameters(paramLabel = "MEDIUM") String medium,
            @Option(
                            names = "--confirm",
                            required = true,
                            paramLabel = "NAME",
                            description = "the medium's file, to prove it is meant")
                    String confirm)
            throws IOException {
        Workbench bench = common.workbench();
        Media.Medium found = bench.records().medium(medium);
        TypedName.require(confirm, found.file());
        NewIdentity.Changed given = new NewIdentity(bench, new SecureRandom()::nextLong).give(found);
        common.print(
                given,
                List.of(medium + " has " + given.after() + " instead of " + given.before() + "; changed with it: "
                        + String.join(", ", given.files()) + "."));
        return ExitCode.DONE;
    }

    @Command(name = "labels", description = "Print a PDF sheet of labels with QR codes.")
    int labels(@Mixin Common common, @Parameters(paramLabel = "FILE.pdf") Path file) throws IOException {
        int count = new MediaSheets(common.workbench()).labels(file);
        common.print(count, List.of(count + " labels in " + file + "."));
        return ExitCode.DONE;
    }

    private static String few(List<String> names) {
        return names.size() <= MOST_NAMED
                ? String.join(", ", names)
                : String.join(", ", names.subList(0, MOST_NAMED)) + " and " + (names.size() - MOST_NAMED) + " more";
    }

    @Command(name = "csv", description = "Write the register to standard output or a file, or take changes in.")
    int csv(
            @Mixin Common common,
            @Option(names = "--out", paramLabel = "FILE") Path out,
            @Option(names = "--in", paramLabel = "FILE") Path in)
            throws IOException {
        MediaSheets sheets = new MediaSheets(common.workbench());
        if (in != null) {
            MediaSheets.TakenIn taken = sheets.takeIn(in);
            common.print(
                    new TakenOut(taken.changed(), taken.unknown()),
                    List.of(taken.changed() + " media taken in"
                            + (taken.unknown().isEmpty()
                                    ? "."
                                    : "; not in the register: " + few(taken.unknown()) + ".")));
        } else if (out != null) {
            Files.writeString(out, sheets.csv());
            common.message("Written to " + out + ".");
        } else {
            String text = sheets.csv();
            common.printText(text, text);
        }
        return ExitCode.DONE;
    }
}
