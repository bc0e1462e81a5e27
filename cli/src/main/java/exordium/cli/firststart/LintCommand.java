// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.CloudLint;
import exordium.core.firststart.KernelLineLint;
import exordium.core.firststart.LineFinding;
import exordium.core.firststart.SettingsDocument;
import exordium.core.firststart.SettingsLint;
import exordium.core.firststart.UserFileLint;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code lint}: checks a settings file or a kernel line. */
@Command(name = "lint", description = "Check a settings file, a kernel line, or another file of a first start.")
public final class LintCommand implements Callable<Integer> {
    private static final long LARGEST = 1L << 20;
    private static final int MOST_MENDS = 10_000;

    @Mixin
    private Common common;

    @Parameters(paramLabel = "FILE")
    private Path file;

    @Option(names = "--as", required = true, paramLabel = "settings|kernel-line|user-file|user-data|network-config")
    private String as;

    @Option(names = "--profile", required = true, paramLabel = "P")
    private String profile;

    @Option(names = "--mend", description = "mend in the file what can be mended, and tell what is left")
    private boolean mend;

    private record FoundOut(@JsonUnwrapped Common.FindingOut finding, int line, Optional<String> mend) {}

    private record Out(List<FoundOut> findings) {}

    @Override
    public Integer call() throws IOException {
        BoardProfile board = common.profile(profile);
        if (!Files.isRegularFile(file) || Files.size(file) > LARGEST) {
            throw new UnreadableInput(
                    Files.isRegularFile(file)
                            ? file + " is too large for a settings file."
                            : "There is no file " + file + ".");
        }
        byte[] content = Files.readAllBytes(file);
        List<LineFinding> found = lint(content, board);
        if (mend) {
            return mended(content, board, found);
        }
        List<Finding> findings = found.stream().map(LineFinding::finding).toList();
        common.print(new Out(outs(found)), findings.isEmpty() ? List.of("Nothing found.") : Common.lines(findings));
        return ExitCode.DONE;
    }

    private List<LineFinding> lint(byte[] content, BoardProfile board) throws UnreadableInput {
        return switch (as) {
            case "settings" -> SettingsLint.of(content, board);
            case "kernel-line" -> KernelLineLint.of(content, board.startFiles().kernelLineForm());
            case "user-file" -> UserFileLint.of(content);
            case "user-data" -> CloudLint.userData(content);
            case "network-config" -> CloudLint.network(content);
            default ->
                throw new UnreadableInput(
                        "\"" + as + "\" is none of settings, kernel-line, user-file, user-data and network-config.");
        };
    }

    /** Mends what can be mended, one after the other, since each changes what stands behind it. */
    private int mended(byte[] content, BoardProfile board, List<LineFinding> first) throws IOException {
        byte[] now = content;
        List<LineFinding> found = first;
        List<String> lines = new ArrayList<>();
        for (int round = 0; round < MOST_MENDS; round++) {
            Optional<LineFinding> next =
                    found.stream().filter(each -> each.mend().isPresent()).findFirst();
            if (next.isEmpty()) {
                break;
            }
            LineFinding.Mend way = next.get().mend().orElseThrow();
            lines.add("line " + way.line() + ", " + next.get().finding().code() + ": " + way.words());
            now = SettingsDocument.parse(now).with(way).bytes();
            found = lint(now, board);
        }
        Path whole = Files.write(file.resolveSibling(file.getFileName() + ".mended"), now);
        Files.move(whole, file, StandardCopyOption.REPLACE_EXISTING);
        List<Finding> left = found.stream().map(LineFinding::finding).toList();
        lines.addAll(Common.lines(left));
        common.print(new Out(outs(found)), lines.isEmpty() ? List.of("Nothing found.") : lines);
        return ExitCode.DONE;
    }

    private static List<FoundOut> outs(List<LineFinding> found) {
        return found.stream()
                .map(each -> new FoundOut(
                        Common.out(List.of(each.finding())).get(0),
                        each.line(),
                        each.mend().map(LineFinding.Mend::words)))
                .toList();
    }
}
