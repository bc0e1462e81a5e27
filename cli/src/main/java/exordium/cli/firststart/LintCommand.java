// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firststart;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.SettingsCheck;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code lint}: checks a settings file or a kernel line. */
@Command(name = "lint", description = "Check a settings file or a kernel line.")
public final class LintCommand implements Callable<Integer> {
    private static final long LARGEST = 1L << 20;

    @Mixin
    private Common common;

    @Parameters(paramLabel = "FILE")
    private Path file;

    @Option(names = "--as", required = true, paramLabel = "settings|kernel-line")
    private String as;

    @Option(names = "--profile", required = true, paramLabel = "P")
    private String profile;

    private record Out(List<Common.FindingOut> findings) {}

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
        List<Finding> findings =
                switch (as) {
                    case "settings" -> SettingsCheck.settings(content);
                    case "kernel-line" ->
                        SettingsCheck.kernelLine(content, board.startFiles().kernelLineForm());
                    default -> throw new UnreadableInput("\"" + as + "\" is neither settings nor kernel-line.");
                };
        common.print(
                new Out(Common.out(findings)), findings.isEmpty() ? List.of("Nothing found.") : Common.lines(findings));
        return ExitCode.DONE;
    }
}
