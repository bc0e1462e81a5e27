// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.inspection.ImageComparison;
import exordium.core.inspection.ImageComparison.FileChange;
import exordium.jobs.bench.Inspections;
import exordium.jobs.bench.Targets;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code compare}: two images, or an image and a drive, held against each other. */
@Command(name = "compare", description = "Compare two images, or an image and a drive: layout, files, pieces.")
public final class CompareCommand implements Callable<Integer> {
    private static final int MOST_LINES = 200;

    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "FIRST")
    private Path first;

    @Parameters(index = "1", paramLabel = "SECOND")
    private Path second;

    private record FileOut(int partition, String path, String change) {}

    private record CompareOut(
            boolean same, List<String> layout, List<FileOut> files, long differingBytes, boolean cutShort) {}

    @Override
    public Integer call() throws IOException {
        Targets targets = common.readable();
        ImageComparison found;
        try (ConsoleProgress progress = common.progress(false)) {
            found = Inspections.inside(
                    first,
                    targets,
                    progress.meter(),
                    a -> Inspections.inside(
                            second, targets, progress.meter(), b -> ImageComparison.of(a, b, progress.meter())));
        }
        List<String> lines = new ArrayList<>(found.layout());
        found.files().stream()
                .limit(MOST_LINES)
                .forEach(each -> lines.add(word(each.kind()) + "  partition " + each.partition() + "  " + each.path()));
        if (found.files().size() > MOST_LINES) {
            lines.add("and " + (found.files().size() - MOST_LINES) + " more files");
        }
        lines.add(
                found.pieces() == 0
                        ? "No piece differs."
                        : found.pieces() + " of " + found.piecesInBoth() + " pieces of 64 KiB differ, "
                                + found.differing().said() + ".");
        common.print(
                new CompareOut(
                        found.same(),
                        found.layout(),
                        found.files().stream()
                                .map(each -> new FileOut(each.partition(), each.path(), word(each.kind())))
                                .toList(),
                        found.differing().bytes(),
                        found.cutShort()),
                lines);
        return found.same() ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private static String word(FileChange.ChangeKind kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }
}
