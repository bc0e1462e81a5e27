// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code window}: opens the window on the workspace; the same as no command at all. */
@Command(name = "window", description = "Open the window on the workspace; the same as no command at all.")
public final class WindowCommand implements Callable<Integer> {
    /** The program that opens it, as whoever started this one says. */
    private static final String PROGRAM = "exordium.window";

    @Mixin
    private Common common;

    @Override
    public Integer call() throws IOException {
        String program = System.getProperty(PROGRAM, "");
        if (program.isEmpty()) {
            throw new UnreadableInput("The window is opened by the program \"exordium\" itself, without a command.");
        }
        Process window = new ProcessBuilder(program, "--workspace=" + common.folder())
                .inheritIO()
                .start();
        try {
            return window.waitFor() == 0 ? ExitCode.DONE : ExitCode.FAILED;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return ExitCode.FAILED;
        }
    }
}
