// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.schedule.Retention;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firststart.SetUpAt;
import exordium.core.passage.Weights;
import exordium.core.storage.judgement.Reliability;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The house rules by their names: what each may be, what it is unless somebody decides, and what it is about. */
public final class RuleTable {
    private static final List<String> SWITCH = List.of("on", "off");

    private RuleTable() {}

    /**
     * A rule.
     *
     * @param words what it may be; none for a number
     * @param least and most: of a number
     */
    public record Rule(String name, String title, String usual, List<String> words, int least, int most) {
        private static Rule of(String name, String title, boolean usual) {
            return new Rule(name, title, usual ? "on" : "off", SWITCH, 0, 0);
        }

        private static Rule of(String name, String title, int usual, int least, int most) {
            return new Rule(name, title, String.valueOf(usual), List.of(), least, most);
        }

        private static Rule of(String name, String title, Enum<?> usual, Enum<?>... all) {
            return new Rule(
                    name, title, word(usual), Arrays.stream(all).map(Rule::word).toList(), 0, 0);
        }

        private static String word(Enum<?> value) {
            return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        /** Whether it may be this. */
        public boolean takes(String value) {
            if (!words.isEmpty()) {
                return words.contains(value.replace('_', '-'));
            }
            return value.matches("\\d{1,6}") && Integer.parseInt(value) >= least && Integer.parseInt(value) <= most;
        }

        /** What it may be, for a sentence. */
        public String said() {
            return words.isEmpty() ? least + " to " + most : String.join(", ", words);
        }

        /** As it is now. */
        public String now(HouseRules rules) {
            return rules.decided(name).map(value -> value.replace('_', '-')).orElse(usual);
        }

        /** As it is kept. */
        private String kept(String value) {
            return words.equals(SWITCH) ? value : value.replace('-', '_');
        }
    }

    /** In the order of the page they stand on. */
    public static final List<Rule> ALL = List.of(
            Rule.of("copy-days", "a board is copied every so many days", CopyRule.USUAL.days(), 1, 3650),
            Rule.of(
                    "copy-days-light",
                    "one that is lightly used every so many days",
                    CopyRule.USUAL.daysWhenLightlyUsed(),
                    1,
                    3650),
            Rule.of("copy-by-risk", "a risk makes a copy due sooner", CopyRule.USUAL.byRisk()),
            Rule.of("due-runs", "due copies are made by themselves while the window is open", true),
            Rule.of("reminders", "the desktop reminds of media to be fetched", true),
            Rule.of("way-back", "what a dead medium comes back from", WayBack.COPY, WayBack.values()),
            Rule.of("keep-last", "the newest copies that are kept", Retention.USUAL.last(), 1, 1000),
            Rule.of("keep-changes", "copies made before changes that are kept", Retention.USUAL.changes(), 0, 1000),
            Rule.of("keep-months", "months of which the newest copy is kept", Retention.USUAL.months(), 0, 1000),
            Rule.of("keep-years", "years of which the newest copy is kept", Retention.USUAL.years(), 0, 1000),
            new Rule("smallest-card", "no card smaller than so many GB", "16", List.of("8", "16", "32"), 0, 0),
            Rule.of("pcie", "the generation of PCIe that NVMe runs at", 2, 2, 3),
            Rule.of("reliability", "what reliability comes by", Reliability.BY_ROLE, Reliability.values()),
            Rule.of("free-tail", "percent left free behind a grown partition", 1, 0, 50),
            Rule.of("set-up-at", "when settings are made", SetUpAt.WRITING, SetUpAt.values()),
            Rule.of("channel", "the channel firmware follows", Channel.DEFAULT, Channel.values()),
            Rule.of("first-tried", "what is tried first", FirstTried.CARD, FirstTried.values()),
            Rule.of(
                    "weigh-opening",
                    "minutes that one opening of a box counts for",
                    (int) Weights.USUAL.opening(),
                    0,
                    1000),
            Rule.of("weigh-euro", "minutes that one euro counts for", (int) Weights.USUAL.euro(), 0, 1000),
            Rule.of("weigh-wear", "minutes that ten gigabytes written count for", (int) Weights.USUAL.wear(), 0, 1000),
            Rule.of("real-drives", "drives of this machine may be written to", false));

    /** The rule of that name; empty where it is none. */
    public static Optional<Rule> find(String name) {
        return ALL.stream().filter(rule -> rule.name().equals(name)).findFirst();
    }

    /**
     * Decides one.
     *
     * @throws UnreadableInput when there is no such rule, or it may not be this; nothing is changed then
     */
    public static Rule set(HouseRules rules, String name, String value) throws UnreadableInput {
        List<String> names = ALL.stream().map(Rule::name).toList();
        Rule rule = find(name)
                .orElseThrow(() -> new UnknownName(
                        "There is no house rule \"" + name + "\"; there are " + String.join(", ", names) + ".",
                        name,
                        names));
        String wanted = value.strip().toLowerCase(Locale.ROOT);
        if (!rule.takes(wanted)) {
            throw new BadArgument("The house rule " + name + " is " + rule.said() + ", not \"" + value + "\".", value);
        }
        rules.decide(name, rule.kept(wanted));
        return rule;
    }
}
