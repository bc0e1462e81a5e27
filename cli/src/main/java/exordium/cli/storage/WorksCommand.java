// SPDX-License-Identifier: Apache-2.0
package exordium.cli.storage;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.Works;
import exordium.jobs.bench.Workbench;
import exordium.jobs.bench.WorksShelf;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code works}: what works with which family of boards, and what does not. */
@Command(
        name = "works",
        description =
                "What drives, enclosures, carriers, supplies and images work with a family of boards: list, add, hand on.",
        mixinStandardHelpOptions = true)
public final class WorksCommand {
    private record ListOut(List<Works.Entry> entries) {}

    private record ExportOut(String file, String by, int entries, String key) {}

    private record ImportOut(String by, int entries, String signed, int all) {}

    @Command(name = "list", description = "What is known to work or to fail, and who says so.")
    int list(
            @Mixin Common common,
            @Option(names = "--profile", paramLabel = "P") Optional<String> profile,
            @Option(names = "--kind", paramLabel = "drive|enclosure|carrier|supply|image") Optional<Works.Kind> kind)
            throws IOException {
        List<Works.Entry> entries = shelf(common).all().entries().stream()
                .filter(each -> profile.isEmpty() || each.profile().equals(profile.get()))
                .filter(each -> kind.isEmpty() || each.kind() == kind.get())
                .toList();
        common.print(
                new ListOut(entries),
                entries.isEmpty()
                        ? List.of("Nothing is put down yet.")
                        : entries.stream().map(Works::line).toList());
        return ExitCode.DONE;
    }

    @Command(name = "add", description = "Put down that something works with a family of boards, or fails.")
    int add(
            @Mixin Common common,
            @Parameters(paramLabel = "NAME", description = "its model, as it stands on it") String name,
            @Option(names = "--profile", required = true, paramLabel = "P") String profile,
            @Option(names = "--kind", paramLabel = "drive|enclosure|carrier|supply|image", defaultValue = "drive")
                    Works.Kind kind,
            @Option(names = "--fails", description = "it does not work") boolean fails,
            @Option(names = "--release", paramLabel = "DATE", description = "of the firmware it was seen with")
                    Optional<LocalDate> release,
            @Option(names = "--date", paramLabel = "DATE", description = "when it was seen (default: today)")
                    Optional<LocalDate> date,
            @Option(names = "--note", paramLabel = "TEXT", defaultValue = "") String note)
            throws IOException {
        Workbench bench = common.workbench();
        String plain = name.strip().replaceAll("\\s+", " ");
        if (plain.isEmpty() || plain.length() > 120) {
            throw new BadArgument("Say its model in one to 120 letters.", name);
        }
        Works.Entry entry = new Works.Entry(
                kind,
                plain,
                bench.profiles().require(profile).id(),
                !fails,
                release,
                date.orElse(bench.today()),
                note.strip(),
                "");
        shelf(common).put(List.of(entry));
        common.print(entry, List.of(Works.line(entry)));
        return ExitCode.DONE;
    }

    @Command(name = "export", description = "Hand on what was seen here, as a signed text.")
    int export(
            @Mixin Common common,
            @Parameters(paramLabel = "FILE") Path file,
            @Option(names = "--by", paramLabel = "NAME", description = "who says so (default: the workspace's name)")
                    Optional<String> by,
            @Option(names = "--all", description = "what others said as well, each under its name") boolean all)
            throws IOException {
        if (Files.exists(file)) {
            throw new UnreadableInput("There is a file " + file + " already; nothing was written.");
        }
        WorksShelf shelf = shelf(common);
        String name = by.orElse(String.valueOf(common.folder().toAbsolutePath().getFileName()));
        if (name.isBlank() || name.length() > 80) {
            throw new BadArgument("Say who says so in one to 80 letters.", name);
        }
        Works works = shelf.all();
        Works own = all
                ? works
                : new Works(works.entries().stream().filter(Works.Entry::own).toList());
        String text = own.signedText(common.reader(), name.strip(), shelf.key());
        Files.writeString(file, text);
        common.print(
                new ExportOut(
                        file.toString(),
                        name,
                        own.entries().size(),
                        java.util.Base64.getEncoder()
                                .encodeToString(shelf.key().getPublic().getEncoded())),
                List.of(own.entries().size() + " entries are in " + file + ", signed as " + name + "."));
        return ExitCode.DONE;
    }

    @Command(name = "import", description = "Take in what somebody else saw; each entry keeps who says so.")
    int take(@Mixin Common common, @Parameters(paramLabel = "FILE") Path file) throws IOException {
        WorksShelf shelf = shelf(common);
        Works.Received received = shelf.received(file);
        Works now = shelf.put(received.entries());
        String signed = received.signed().code();
        common.print(
                new ImportOut(
                        received.by(),
                        received.entries().size(),
                        signed,
                        now.entries().size()),
                List.of(received.entries().size() + " entries of "
                        + (received.by().isBlank() ? String.valueOf(file.getFileName()) : received.by())
                        + (received.signed() == Works.Signed.GOOD ? ", signed" : ", which nobody signed")
                        + "; " + now.entries().size() + " in all. What others saw counts as that, never as a proof."));
        return ExitCode.DONE;
    }

    private static WorksShelf shelf(Common common) throws IOException {
        return new WorksShelf(common.workbench().folder(), common.reader());
    }
}
