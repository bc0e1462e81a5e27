// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.lint.CloudLint;
import exordium.core.firststart.lint.KernelLineLint;
import exordium.core.firststart.lint.SettingsLint;
import exordium.core.firststart.lint.UserFileLint;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.Mended;
import exordium.core.profile.InputFile;
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

    private record LintOut(List<FoundOut> findings) {}

    @Override
    public Integer call() throws IOException {
        BoardProfile board = common.profile(profile);
        byte[] content = InputFile.read(file, LARGEST);
        Mended.Linter linter = linter(board);
        if (mend) {
            return mended(Mended.all(content, linter));
        }
        List<LineFinding> found = linter.lint(content);
        List<Finding> findings = found.stream().map(LineFinding::finding).toList();
        common.print(new LintOut(outs(found)), findings.isEmpty() ? List.of("Nothing found.") : Common.lines(findings));
        return ExitCode.DONE;
    }

    private Mended.Linter linter(BoardProfile board) throws UnreadableInput {
        return switch (as) {
            case "settings" -> content -> SettingsLint.of(content, board);
            case "kernel-line" ->
                content -> KernelLineLint.of(content, board.startFiles().kernelLineForm());
            case "user-file" -> UserFileLint::of;
            case "user-data" -> CloudLint::userData;
            case "network-config" -> CloudLint::network;
            default ->
                throw new UnreadableInput(
                        "\"" + as + "\" is none of settings, kernel-line, user-file, user-data and network-config.");
        };
    }

    private int mended(Mended mended) throws IOException {
        Path whole = Files.write(file.resolveSibling(file.getFileName() + ".mended"), mended.content());
        Files.move(whole, file, StandardCopyOption.REPLACE_EXISTING);
        List<String> lines = new ArrayList<>();
        mended.done()
                .forEach(each ->
                        lines.add("line " + each.line() + ", " + each.finding().code() + ": "
                                + each.mend().orElseThrow().words()));
        lines.addAll(
                Common.lines(mended.left().stream().map(LineFinding::finding).toList()));
        common.print(new LintOut(outs(mended.left())), lines.isEmpty() ? List.of("Nothing found.") : lines);
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
