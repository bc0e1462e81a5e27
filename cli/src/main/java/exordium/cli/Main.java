// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
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
            WritesCommand.class,
            VerifyCommand.class,
            CompareCommand.class,
            FilesCommand.class,
            FirstStartCommand.class,
            LintCommand.class,
            ChooseCommand.class,
            FirmwareCommand.class,
            BoardCommand.class,
            ShelfCommand.class,
            MediumCommand.class,
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
        line.getErr().println(Sentence.of(failure));
        if (failure instanceof Refused) {
            return ExitCode.REFUSED;
        }
        boolean input = failure instanceof UnreadableInput || failure instanceof IllegalArgumentException;
        return input ? ExitCode.BAD_INPUT : ExitCode.FAILED;
    }
}
