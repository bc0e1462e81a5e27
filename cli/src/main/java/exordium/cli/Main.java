// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.util.concurrent.CancellationException;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The command {@code exordium}. */
@Command(
        name = "exordium",
        description = "Plan, carry out, prove and record how single-board computers start.",
        mixinStandardHelpOptions = true,
        version = "exordium 0.1.0",
        subcommands = {
            DemoCommand.class,
            InspectCommand.class,
            DrivesCommand.class,
            DriveCommand.class,
            WriteCommand.class,
            VerifyCommand.class,
            FirstStartCommand.class,
            LintCommand.class,
            ChooseCommand.class,
            FirmwareCommand.class,
            BoardCommand.class,
            ShelfCommand.class,
            OrderCommand.class,
            RehearseCommand.class,
            CopyCommand.class,
            DueCommand.class,
            VaultCommand.class,
            LogCommand.class
        })
public final class Main implements Runnable {
    @CommandLine.Spec
    private CommandLine.Model.CommandSpec spec;

    @Override
    public void run() {
        throw new CommandLine.ParameterException(
                spec.commandLine(),
                "Say what to do: " + String.join(", ", spec.subcommands().keySet()) + ".");
    }

    public static void main(String[] args) {
        System.exit(commandLine().execute(args));
    }

    /** The whole command with its way of saying errors; for tests as well. */
    public static CommandLine commandLine() {
        CommandLine line = new CommandLine(new Main());
        line.setExecutionExceptionHandler(Main::say);
        line.setParameterExceptionHandler((failure, args) -> {
            failure.getCommandLine().getErr().println(failure.getMessage());
            return ExitCode.BAD_INPUT;
        });
        line.setCaseInsensitiveEnumValuesAllowed(true);
        return line;
    }

    /** One sentence on standard error, never a stack trace. */
    private static int say(Exception failure, CommandLine line, CommandLine.ParseResult result) {
        int code = ExitCode.FAILED;
        String sentence = failure.getMessage();
        if (failure instanceof Refused) {
            code = ExitCode.REFUSED;
        } else if (failure instanceof UnreadableInput
                || failure instanceof IllegalArgumentException
                || failure instanceof InvalidPathException) {
            code = ExitCode.BAD_INPUT;
        } else if (failure instanceof CancellationException) {
            sentence = "Stopped: " + failure.getMessage() + ".";
        } else if (!(failure instanceof IOException)) {
            sentence = "Something went wrong inside the program (" + failure + "); nothing further was done.";
        }
        line.getErr().println(sentence == null ? failure.toString() : sentence);
        return code;
    }
}
