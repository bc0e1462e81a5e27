// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.cli.copies.CopyCommand;
import exordium.cli.copies.DueCommand;
import exordium.cli.copies.ScheduleCommand;
import exordium.cli.copies.VaultCommand;
import exordium.cli.firmware.FirmwareCommand;
import exordium.cli.firststart.FirstStartCommand;
import exordium.cli.firststart.LintCommand;
import exordium.cli.house.BoardCommand;
import exordium.cli.house.DemoCommand;
import exordium.cli.house.LogCommand;
import exordium.cli.house.PasteCommand;
import exordium.cli.house.ProfileCommand;
import exordium.cli.house.RulesCommand;
import exordium.cli.house.WindowCommand;
import exordium.cli.house.WorkspaceCommand;
import exordium.cli.image.CompareCommand;
import exordium.cli.image.FilesCommand;
import exordium.cli.image.InspectCommand;
import exordium.cli.image.VerifyCommand;
import exordium.cli.image.WriteCommand;
import exordium.cli.image.WritesCommand;
import exordium.cli.media.DriveCommand;
import exordium.cli.media.DrivesCommand;
import exordium.cli.media.MediumCommand;
import exordium.cli.media.ShelfCommand;
import exordium.cli.multiboot.LayoutCommand;
import exordium.cli.multiboot.SetsCommand;
import exordium.cli.network.NetworkCommand;
import exordium.cli.order.OrderCommand;
import exordium.cli.passage.PartsCommand;
import exordium.cli.passage.PassageCommand;
import exordium.cli.rehearsal.DiagnoseCommand;
import exordium.cli.rehearsal.RehearseCommand;
import exordium.cli.storage.ChooseCommand;
import exordium.cli.storage.WorksCommand;
import exordium.core.finding.NotPossible;
import exordium.core.finding.PlainText;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.Slips;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.Opening;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The command {@code exordium}. */
@Command(
        name = "exordium",
        description = "Plan, carry out, prove and record how single-board computers start.",
        mixinStandardHelpOptions = true,
        version = "exordium 0.1.0")
public final class Main implements Runnable, Common.Root {
    /** By the word each is called with. */
    static final Map<String, Class<?>> COMMANDS = commands();

    @CommandLine.Spec
    private CommandLine.Model.CommandSpec spec;

    @CommandLine.Option(
            names = "--workspace",
            paramLabel = "DIR",
            description = "the workspace folder; before the command or after it")
    private Path workspace;

    @CommandLine.Option(names = "--json", description = "print one JSON document; before the command or after it")
    private boolean json;

    @CommandLine.Option(
            names = "--allow-real-drives",
            description = "allow drives of this machine for this call; before the command or after it")
    private boolean allowRealDrives;

    private final List<Workbench> open = new ArrayList<>();

    @Override
    public Workbench closedAtTheEnd(Workbench workbench) {
        open.add(workbench);
        return workbench;
    }

    private int executed(CommandLine.ParseResult asked) {
        try {
            return new CommandLine.RunLast().execute(asked);
        } catch (StackOverflowError | OutOfMemoryError e) {
            asked.commandSpec()
                    .commandLine()
                    .getErr()
                    .println(
                            "What was given is too deep or too large for the memory this command has; nothing further was done.");
            return ExitCode.BAD_INPUT;
        } finally {
            open.forEach(Workbench::close);
        }
    }

    @Override
    public Common.Before before() {
        return new Common.Before(Optional.ofNullable(workspace), json, allowRealDrives);
    }

    @Override
    public void run() {
        throw new CommandLine.ParameterException(
                spec.commandLine(), "Say what to do: " + String.join(", ", COMMANDS.keySet()) + ".");
    }

    public static void main(String[] args) {
        Opening.readAhead();
        int code = commandLine(args).execute(args);
        System.out.flush();
        System.err.flush();
        // Where somebody has stopped the program already, leaving here lets that come to its end.
        if (!stopping()) {
            System.exit(code);
        }
    }

    private static boolean stopping() {
        Thread probe = new Thread(() -> {}, "probe");
        try {
            Runtime.getRuntime().addShutdownHook(probe);
            Runtime.getRuntime().removeShutdownHook(probe);
            return false;
        } catch (IllegalStateException e) {
            return true;
        }
    }

    private static Map<String, Class<?>> commands() {
        Map<String, Class<?>> all = new LinkedHashMap<>();
        all.put("window", WindowCommand.class);
        all.put("workspace", WorkspaceCommand.class);
        all.put("demo", DemoCommand.class);
        all.put("inspect", InspectCommand.class);
        all.put("drives", DrivesCommand.class);
        all.put("drive", DriveCommand.class);
        all.put("write", WriteCommand.class);
        all.put("writes", WritesCommand.class);
        all.put("verify", VerifyCommand.class);
        all.put("compare", CompareCommand.class);
        all.put("files", FilesCommand.class);
        all.put("firststart", FirstStartCommand.class);
        all.put("lint", LintCommand.class);
        all.put("choose", ChooseCommand.class);
        all.put("diagnose", DiagnoseCommand.class);
        all.put("firmware", FirmwareCommand.class);
        all.put("board", BoardCommand.class);
        all.put("profile", ProfileCommand.class);
        all.put("shelf", ShelfCommand.class);
        all.put("medium", MediumCommand.class);
        all.put("order", OrderCommand.class);
        all.put("rehearse", RehearseCommand.class);
        all.put("copy", CopyCommand.class);
        all.put("due", DueCommand.class);
        all.put("vault", VaultCommand.class);
        all.put("schedule", ScheduleCommand.class);
        all.put("network", NetworkCommand.class);
        all.put("sets", SetsCommand.class);
        all.put("layout", LayoutCommand.class);
        all.put("passage", PassageCommand.class);
        all.put("parts", PartsCommand.class);
        all.put("rules", RulesCommand.class);
        all.put("log", LogCommand.class);
        all.put("paste", PasteCommand.class);
        all.put("works", WorksCommand.class);
        return Collections.unmodifiableMap(all);
    }

    /**
     * The command with its way of saying errors; for tests as well. Reading what all commands take costs more than half a
     * second, so where the first word names one, only that is put together.
     */
    static CommandLine commandLine(String... words) {
        Main main = new Main();
        CommandLine line = new CommandLine(main);
        Class<?> named = named(words);
        (named == null ? COMMANDS.values() : List.<Class<?>>of(named)).forEach(line::addSubcommand);
        line.setExecutionStrategy(main::executed);
        line.setExecutionExceptionHandler(Main::say);
        line.setParameterExceptionHandler((failure, args) -> {
            failure.getCommandLine().getErr().println(PlainText.line(sentence(failure)));
            return ExitCode.BAD_INPUT;
        });
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.registerConverter(LocalDate.class, Main::date);
        return line;
    }

    /** A word that is none of a command's gets the nearest there is. */
    private static String sentence(CommandLine.ParameterException failure) {
        if (!(failure instanceof CommandLine.UnmatchedArgumentException unmatched)) {
            return failure.getMessage();
        }
        String word = unmatched.getUnmatched().get(0);
        CommandLine line = failure.getCommandLine();
        if (word.startsWith("-")) {
            List<String> options =
                    new ArrayList<>(line.getCommandSpec().optionsMap().keySet());
            return "There is no option " + word + " here." + Slips.meant(word, options);
        }
        List<String> commands = new ArrayList<>(line.getSubcommands().keySet());
        return commands.isEmpty()
                ? "\"" + word + "\" is one word too many here."
                : "There is no command \"" + word + "\"; there are " + String.join(", ", commands) + "."
                        + Slips.meant(word, commands);
    }

    private static LocalDate date(String word) {
        try {
            return LocalDate.parse(word);
        } catch (DateTimeParseException e) {
            throw new CommandLine.TypeConversionException("\"" + word + "\" is no date such as 2026-09-02.");
        }
    }

    /** The first word that is no option and no option's value. */
    private static Class<?> named(String... words) {
        for (int i = 0; i < words.length; i++) {
            if (words[i].equals("--workspace")) {
                i++;
            } else if (!words[i].startsWith("-")) {
                return COMMANDS.get(words[i]);
            }
        }
        return null;
    }

    /** One sentence on standard error, never a stack trace. */
    private static int say(Exception failure, CommandLine line, CommandLine.ParseResult result) {
        line.getErr().println(PlainText.line(Sentence.of(failure)));
        if (failure instanceof Refused) {
            return ExitCode.REFUSED;
        }
        boolean input = failure instanceof UnreadableInput
                || failure instanceof NotPossible
                || failure instanceof IllegalArgumentException;
        return input ? ExitCode.BAD_INPUT : ExitCode.FAILED;
    }
}
