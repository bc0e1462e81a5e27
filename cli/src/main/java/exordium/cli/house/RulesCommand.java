// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.RuleTable;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code rules}: what is decided once and counts everywhere. */
@Command(
        name = "rules",
        description = "House rules: what is decided once and counts everywhere.",
        mixinStandardHelpOptions = true)
public final class RulesCommand {
    private record RuleOut(String name, String value, String usual, String title, List<String> values) {
        static RuleOut of(RuleTable.Rule rule, HouseRules rules) {
            return new RuleOut(
                    rule.name(),
                    rule.now(rules),
                    rule.usual(),
                    rule.title(),
                    rule.words().isEmpty() ? List.of(rule.least() + ".." + rule.most()) : rule.words());
        }

        String line() {
            return name + " = " + value + "  (" + title + "; " + String.join(", ", values)
                    + (value.equals(usual) ? "" : "; usually " + usual) + ")";
        }
    }

    @Command(name = "list", description = "Every rule, what it is now and what it may be.")
    int list(@Mixin Common common) throws IOException {
        HouseRules rules = common.workbench().rules();
        List<RuleOut> all =
                RuleTable.ALL.stream().map(rule -> RuleOut.of(rule, rules)).toList();
        common.print(all, all.stream().map(RuleOut::line).toList());
        return ExitCode.DONE;
    }

    @Command(name = "set", description = "Decide a rule.")
    int set(
            @Mixin Common common,
            @Parameters(paramLabel = "NAME") String name,
            @Parameters(paramLabel = "VALUE") String value)
            throws IOException {
        Workbench bench = common.workbench();
        RuleTable.Rule rule = RuleTable.set(bench.rules(), name, value);
        RuleOut now = RuleOut.of(rule, bench.rules());
        common.print(now, List.of(now.line()));
        return ExitCode.DONE;
    }
}
