// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.copies.care.Changes;
import exordium.core.firststart.dialect.MarkedFile;
import exordium.jobs.copies.care.ChangesJob;
import exordium.jobs.copies.vault.CopyJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code copy changes}: what changed since an image or a copy. */
@Command(
        name = "changes",
        description = "Say what changed on a board's medium since its image, its last copy, or between two copies.")
public final class CopyChangesCommand implements Callable<Integer> {
    private static final int MOST_LINES = 200;

    private record ChangesOut(
            String before,
            String now,
            List<FileOut> files,
            List<SettingOut> settings,
            List<PackageOut> packages,
            boolean cutShort,
            String text) {}

    private record FileOut(int partition, String path, String change) {}

    private record SettingOut(String file, String change, List<String> lines) {}

    private record PackageOut(String name, Optional<String> before, Optional<String> now) {}

    @Mixin
    private Common common;

    @Parameters(paramLabel = "BOARD")
    private String board;

    @Option(
            names = "--since",
            paramLabel = "image|copy|ID",
            defaultValue = "copy",
            description = "the image it was written from, its newest copy, or a copy by its number or name")
    private String since;

    @Option(names = "--to", paramLabel = "ID", description = "a later copy instead of the medium itself")
    private Optional<String> to = Optional.empty();

    @Override
    public Integer call() throws IOException {
        Common.House house = common.house();
        ChangesJob.Found found;
        try (ConsoleProgress progress = common.progress(false)) {
            found = new ChangesJob(house.bench(), new CopyJob(house.bench(), house.sheets()))
                    .of(board, since, to, progress.meter());
        }
        Changes changes = found.changes();
        List<String> lines = new ArrayList<>();
        lines.add(found.before() + " against " + found.now() + ": " + changes.sentence());
        changes.files().stream()
                .limit(MOST_LINES)
                .forEach(each -> lines.add(code(each.kind()) + "  partition " + each.partition() + "  " + each.path()));
        changes.packages().stream()
                .limit(MOST_LINES)
                .forEach(each -> lines.add(
                        "package  " + each.name() + "  " + each.before().orElse("not there") + " -> "
                                + each.now().orElse("gone")));
        common.print(
                new ChangesOut(
                        found.before(),
                        found.now(),
                        changes.files().stream()
                                .map(each -> new FileOut(each.partition(), each.path(), code(each.kind())))
                                .toList(),
                        changes.settings().stream()
                                .map(each -> new SettingOut(
                                        each.file(),
                                        each.fate(),
                                        each.lines().stream()
                                                .map(CopyChangesCommand::marked)
                                                .toList()))
                                .toList(),
                        changes.packages().stream()
                                .map(each -> new PackageOut(each.name(), each.before(), each.now()))
                                .toList(),
                        changes.cutShort(),
                        changes.sentence()),
                lines);
        return ExitCode.DONE;
    }

    private static String marked(MarkedFile.Line line) {
        return switch (line.mark()) {
                    case ADDED -> "+";
                    case REMOVED -> "-";
                    case SAME -> " ";
                }
                + line.text();
    }

    private static String code(Enum<?> kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }
}
