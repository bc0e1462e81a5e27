// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;

/**
 * What is packaged beside the program: a page of the manual for the program and each of its commands (man-pages(7)), and completion
 * for shells; both from the commands themselves, so that none is missing.
 */
final class Papers {
    private Papers() {}

    /** Where arguments: the folder for the pages, then the file for the completion. */
    public static void main(String[] args) throws IOException {
        Path pages = Files.createDirectories(Path.of(args[0]));
        CommandLine program = Main.commandLine();
        Files.writeString(pages.resolve("exordium.1"), page("exordium", program));
        for (Map.Entry<String, CommandLine> command : program.getSubcommands().entrySet()) {
            Files.writeString(
                    pages.resolve("exordium-" + command.getKey() + ".1"),
                    page("exordium " + command.getKey(), command.getValue()));
        }
        Files.writeString(Path.of(args[1]), AutoComplete.bash("exordium", program));
    }

    static String page(String name, CommandLine line) {
        CommandSpec spec = line.getCommandSpec();
        StringBuilder page = new StringBuilder();
        page.append(".TH \"")
                .append(name.replace(' ', '-').toUpperCase(java.util.Locale.ROOT))
                .append("\" 1 \"\" \"Exordium\"\n");
        page.append(".SH NAME\n")
                .append(plain(name.replace(' ', '-')))
                .append(" \\- ")
                .append(plain(described(spec)))
                .append('\n');
        page.append(".SH SYNOPSIS\n");
        if (line.getSubcommands().isEmpty()) {
            synopsis(page, name, spec);
        } else {
            line.getSubcommands().forEach((word, each) -> synopsis(page, name + " " + word, each.getCommandSpec()));
        }
        if (!line.getSubcommands().isEmpty()) {
            page.append(".SH COMMANDS\n");
            line.getSubcommands().forEach((word, each) -> commands(page, word, each.getCommandSpec()));
        }
        page.append(".SH OPTIONS\n");
        options(page, spec);
        page.append(
                ".SH EXIT STATUS\n0 done; 1 failed; 2 bad arguments or input that cannot be read; 3 refused for safety; 4 verification"
                        + " found a difference.\n");
        return page.toString();
    }

    private static void synopsis(StringBuilder page, String name, CommandSpec spec) {
        List<String> words = new ArrayList<>();
        spec.positionalParameters()
                .forEach(each -> words.add(each.required() ? each.paramLabel() : "[" + each.paramLabel() + "]"));
        spec.options().stream()
                .filter(OptionSpec::required)
                .forEach(each -> words.add(each.longestName() + " " + each.paramLabel()));
        boolean more = spec.options().stream().anyMatch(each -> !each.required());
        page.append(".B ").append(plain(name)).append('\n');
        page.append(plain(String.join(" ", words) + (more ? " [options]" : ""))).append("\n.br\n");
    }

    private static void commands(StringBuilder page, String word, CommandSpec spec) {
        page.append(".TP\n.B ")
                .append(plain(word))
                .append('\n')
                .append(plain(described(spec)))
                .append('\n');
        options(page, spec);
    }

    private static void options(StringBuilder page, CommandSpec spec) {
        for (OptionSpec option : spec.options()) {
            if (!option.hidden()) {
                page.append(".TP\n.B ")
                        .append(plain(String.join(", ", option.names())))
                        .append(option.arity().max() == 0 ? "" : " " + plain(option.paramLabel()))
                        .append('\n')
                        .append(plain(described(option)))
                        .append('\n');
            }
        }
    }

    private static String described(CommandSpec spec) {
        return String.join(" ", spec.usageMessage().description());
    }

    private static String described(ArgSpec option) {
        String words = java.util.Arrays.stream(option.description()).collect(Collectors.joining(" "));
        return words.isBlank() ? "See the command line's own description." : words;
    }

    /** Text in which nothing is a request of the formatter. */
    private static String plain(String text) {
        return text.replace("\\", "\\e").replace("-", "\\-").replaceAll("(?m)^([.'])", "\\\\&$1");
    }
}
