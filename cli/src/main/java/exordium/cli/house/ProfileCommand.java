// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyDraft;
import exordium.core.board.FamilyField;
import exordium.core.board.FamilyFromScreen;
import exordium.core.board.FieldSource;
import exordium.core.board.OrderForm;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.family.FamilyFromImage;
import exordium.core.storage.media.MediaCatalogue;
import exordium.jobs.bench.Inspections;
import exordium.jobs.family.Families;
import exordium.jobs.shelf.Intake;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code profile}: families of boards, shipped and of one's own. */
@Command(
        name = "profile",
        description = "List, show, check, describe families of boards, or read one off an image.",
        mixinStandardHelpOptions = true)
public final class ProfileCommand {
    private record FamilyOut(String id, String title, boolean own, String tell) {}

    @JsonInclude(JsonInclude.Include.NON_ABSENT)
    private record MadeOut(
            String id,
            BoardProfile profile,
            Optional<String> file,
            Optional<String> nearest,
            Optional<List<String>> read,
            Optional<List<String>> seen,
            Optional<List<String>> taken,
            Optional<String> outcome,
            Optional<String> cause,
            List<Common.FindingOut> findings) {}

    private record CheckedOut(
            String file, boolean valid, List<String> profiles, Optional<String> outcome, Optional<String> cause) {}

    @Command(name = "list", description = "List the families there are.")
    int list(@Mixin Common common) throws IOException {
        Set<String> own = families(common).own();
        List<FamilyOut> all = new ArrayList<>();
        for (BoardProfile each : common.profiles().all()) {
            all.add(new FamilyOut(each.id(), each.title(), own.contains(each.id()), each.tell()));
        }
        common.print(
                all,
                all.stream()
                        .map(each -> each.id() + (each.own() ? " (your own)" : "") + "  " + each.tell())
                        .toList());
        return ExitCode.DONE;
    }

    /** One field, where it is from, and by what. */
    private record FieldOut(String field, Object value, FieldSource.Kind source, String from) {}

    private record UnknownOut(String field, String howToFindOut) {}

    private record ShownOut(@JsonUnwrapped BoardProfile profile, List<FieldOut> fields, List<UnknownOut> unknown) {
        static ShownOut of(BoardProfile profile, String file) {
            List<FieldOut> fields = new ArrayList<>();
            for (FamilyField field : FamilyField.values()) {
                FieldSource source = profile.source(field, file);
                field.in(profile)
                        .ifPresent(
                                value -> fields.add(new FieldOut(field.code(), value, source.source(), source.from())));
            }
            List<UnknownOut> unknown = profile.from().unknownIn(profile).stream()
                    .map(each -> new UnknownOut(each.code(), each.howToFindOut()))
                    .toList();
            return new ShownOut(profile, fields, unknown);
        }
    }

    @Command(
            name = "show",
            description =
                    "Print a family, in the form it is kept in; where its fields are from, and what is not known.")
    int show(@Mixin Common common, @Parameters(paramLabel = "P") String id) throws IOException {
        BoardProfile profile = common.profile(id);
        Families families = families(common);
        String file = families.own().contains(id) ? "profiles/" + id + ".yaml" : "boards.yaml";
        ShownOut shown = ShownOut.of(profile, file);
        List<String> lines = new ArrayList<>(families.yaml(profile).lines().toList());
        shown.unknown().forEach(each -> lines.add("# not known: " + each.field() + ". " + each.howToFindOut()));
        common.print(shown, lines);
        return ExitCode.DONE;
    }

    @Command(
            name = "tell",
            description =
                    "Say fields of a family of your own, as they stand in its file: firmware.tool=/usr/sbin/update.")
    int tell(
            @Mixin Common common,
            @Parameters(paramLabel = "P") String id,
            @Parameters(arity = "1..*", index = "1..*", paramLabel = "FIELD=VALUE") Map<String, String> said)
            throws IOException {
        BoardProfile profile = families(common).told(id, said, FieldSource.told("its user"));
        ShownOut shown = ShownOut.of(profile, "profiles/" + id + ".yaml");
        List<String> lines = new ArrayList<>();
        lines.add(id + ": " + String.join(", ", said.keySet()) + " told.");
        shown.unknown().forEach(each -> lines.add("not known: " + each.field() + ". " + each.howToFindOut()));
        common.print(shown, lines);
        return ExitCode.DONE;
    }

    @Command(name = "check", description = "Check a file with families; with an image, rehearse it on each.")
    int check(
            @Mixin Common common,
            @Parameters(paramLabel = "FILE") Path file,
            @Option(names = "--image", paramLabel = "IMAGE", description = "an image or card that starts on it")
                    Path image)
            throws IOException {
        Families families = families(common);
        List<BoardProfile> profiles = families.checked(file);
        Optional<Trace> trace = Optional.empty();
        if (image != null) {
            trace = Optional.of(inside(common, image, device -> families.rehearsed(profiles.get(0), device)));
        }
        List<String> ids = profiles.stream().map(BoardProfile::id).toList();
        List<String> lines = new ArrayList<>();
        lines.add(file.getFileName() + " is in order: " + String.join(", ", ids) + ".");
        trace.ifPresent(each -> lines.add(words(each)));
        common.print(
                new CheckedOut(
                        file.toString(),
                        true,
                        ids,
                        trace.map(each -> each.outcome().code()),
                        trace.map(each -> each.cause().code())),
                lines);
        return ExitCode.DONE;
    }

    @Command(
            name = "new",
            description = "Describe a family by what can be seen; the rest is as the nearest one has it.")
    int make(
            @Mixin Common common,
            @Parameters(paramLabel = "ID") String id,
            @Option(names = "--title", paramLabel = "TEXT") Optional<String> title,
            @Option(names = "--like", paramLabel = "P", description = "the family to begin with (default: the nearest)")
                    Optional<String> like,
            @Option(names = "--width", paramLabel = "32|64") Optional<Integer> width,
            @Option(names = "--memory", paramLabel = "SIZES", split = ",", description = "such as \"4 GB,8 GB\"")
                    List<String> memory,
            @Option(names = "--order-kept", paramLabel = "hex-digits|fuse-bits|ordered-list|uefi")
                    Optional<String> dialect,
            @Option(names = "--usual-order", paramLabel = "VALUE") Optional<String> usual,
            @Option(names = "--supply", paramLabel = "S", description = "such as \"5 V 3 A\"") Optional<String> supply,
            @Option(
                            names = "--ports",
                            paramLabel = "PORTS",
                            split = ",",
                            description = "such as card,usb@usb-5g,usb@usb-2,nvme@pcie2-x1,network@ethernet-1g")
                    List<String> ports,
            @Option(names = "--firmware-in", paramLabel = "chip|card|medium") Optional<String> where,
            @Option(names = "--loaders", paramLabel = "FILES", split = ",") List<String> loaders,
            @Option(names = "--kernels", paramLabel = "FILES", split = ",", description = "such as kernel-64.img=64")
                    List<String> kernels,
            @Option(names = "--trees", paramLabel = "FILES", split = ",") List<String> trees,
            @Option(names = "--screen", paramLabel = "FILE", description = SCREEN) Optional<Path> screen,
            @Mixin Keep keep)
            throws IOException {
        FamilyDraft draft = new FamilyDraft(
                id,
                title,
                like,
                width,
                stripped(memory),
                OrderForm.said(dialect),
                usual,
                supply,
                stripped(ports),
                where,
                stripped(loaders),
                stripped(kernels),
                stripped(trees));
        Optional<FamilyFromScreen.Seen> seen = seen(screen);
        Families families = families(common);
        BoardProfile profile = families.made(seen.isPresent() ? families.seen(draft, seen.get()) : draft);
        return kept(common, keep, new Made(profile, seen, Optional.empty(), Optional.empty()));
    }

    @Command(name = "from", description = "Read a family off an image or a card that starts on it.")
    int from(
            @Mixin Common common,
            @Parameters(paramLabel = "IMAGE") Path image,
            @Option(names = "--id", paramLabel = "ID", description = "what to call it (default: from the file's name)")
                    Optional<String> id,
            @Option(names = "--title", paramLabel = "TEXT") Optional<String> title,
            @Option(names = "--like", paramLabel = "P") Optional<String> like,
            @Option(
                            names = "--generation",
                            paramLabel = "NAME",
                            description = "which of several generations of boards it starts")
                    Optional<String> generation,
            @Option(names = "--screen", paramLabel = "FILE", description = SCREEN) Optional<Path> screen,
            @Mixin Keep keep)
            throws IOException {
        Families families = families(common);
        String plain = String.valueOf(image.getFileName()).replaceAll("\\.(img|iso)(\\.\\w+)?$", "");
        String name = id.isPresent() ? id.get() : Intake.identifier(plain, "family");
        Optional<FamilyFromScreen.Seen> seen = seen(screen);
        return inside(common, image, device -> {
            FamilyFromImage.Described described = families.from(device, name, title.orElse(name), like, generation);
            BoardProfile profile = described.profile();
            if (seen.isPresent()) {
                FamilyDraft draft = FamilyDraft.of(name).like(title, described.nearest());
                profile = families.from(device, families.seen(draft, seen.get()), generation);
            }
            Trace trace = families.rehearsed(profile, device);
            return kept(common, keep, new Made(profile, seen, Optional.of(described), Optional.of(trace)));
        });
    }

    private static final String SCREEN = "lines its start screen or serial console showed at one start, as a text file";

    private static Optional<FamilyFromScreen.Seen> seen(Optional<Path> screen) throws IOException {
        return screen.isPresent() ? Optional.of(FamilyFromScreen.read(screen.get())) : Optional.empty();
    }

    /** A family, and what it was made from. */
    private record Made(
            BoardProfile profile,
            Optional<FamilyFromScreen.Seen> seen,
            Optional<FamilyFromImage.Described> described,
            Optional<Trace> trace) {}

    /** Where a family goes. */
    static final class Keep {
        @Option(names = "--out", paramLabel = "FILE", description = "write it there and keep it nowhere else")
        private Path out;

        @Option(names = "--replace", description = "in place of one of the same name")
        private boolean replace;
    }

    private static int kept(Common common, Keep keep, Made made) throws IOException {
        BoardProfile profile = made.profile();
        Optional<FamilyFromImage.Described> described = made.described();
        Optional<Trace> trace = made.trace();
        Families families = families(common);
        Path file;
        if (keep.out != null) {
            if (Files.exists(keep.out) && !keep.replace) {
                throw new UnreadableInput("There is a file " + keep.out + " already; nothing was written.");
            }
            file = Files.writeString(keep.out, families.yaml(profile));
        } else {
            file = families.keep(profile, keep.replace);
        }
        List<String> lines = new ArrayList<>();
        described.ifPresent(each -> {
            each.read().forEach(line -> lines.add("read      " + line));
            each.taken().forEach(line -> lines.add("as in " + each.nearest() + "  " + line));
        });
        made.seen().ifPresent(each -> each.read().forEach(line -> lines.add("seen      " + line)));
        trace.ifPresent(each -> lines.add(words(each)));
        lines.add(profile.id() + " is described in " + file + ".");
        common.print(
                new MadeOut(
                        profile.id(),
                        profile,
                        Optional.of(file.toString()),
                        described.map(FamilyFromImage.Described::nearest),
                        described.map(FamilyFromImage.Described::read),
                        made.seen().map(FamilyFromScreen.Seen::read),
                        described.map(FamilyFromImage.Described::taken),
                        trace.map(each -> each.outcome().code()),
                        trace.map(each -> each.cause().code()),
                        trace.map(each -> Common.out(each.findings())).orElse(List.of())),
                lines);
        return ExitCode.DONE;
    }

    private static String words(Trace trace) {
        if (trace.outcome() == Trace.Outcome.INSTALLING) {
            return "Rehearsed with that image it is an installer's medium: it starts, and installs from there.";
        }
        return trace.runs()
                ? "Rehearsed with that image it runs after " + trace.seconds() + " s."
                : "Rehearsed with that image it does not run: " + trace.cause().code() + ".";
    }

    private static List<String> stripped(List<String> words) {
        return words == null ? List.of() : words.stream().map(String::strip).toList();
    }

    private static Families families(Common common) throws IOException {
        return new Families(
                common.reader(),
                common.profiles(),
                MediaCatalogue.shipped(),
                common.folder().resolve("profiles"));
    }

    private static <T> T inside(Common common, Path path, Inspections.Inside<T> work) throws IOException {
        return Inspections.inside(path, common.targets(), TransferWatch.NONE, work);
    }
}
