// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.bootorder.FirstTried;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnknownName;
import exordium.core.storage.judgement.Reliability;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.RuleTable;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RuleTableTest {
    private final Map<String, String> kept = new HashMap<>();
    private final HouseRules rules = new HouseRules(Map.of(), kept::put);

    /** What stands in the table as usual is what counts where nobody decided. */
    @Test
    void theUsualOfEveryRuleIsWhatCounts() throws Exception {
        HouseRules decided = new HouseRules(Map.of(), (key, value) -> {});
        for (RuleTable.Rule rule : RuleTable.ALL) {
            assertThat(rule.now(rules)).isEqualTo(rule.usual());
            assertThat(rule.takes(rule.usual())).as(rule.name()).isTrue();
            RuleTable.set(decided, rule.name(), rule.usual());
        }
        assertThat(decided.copyRule()).isEqualTo(rules.copyRule());
        assertThat(decided.retention()).isEqualTo(rules.retention());
        assertThat(decided.storageRules()).isEqualTo(rules.storageRules());
        assertThat(decided.firstTried()).isEqualTo(rules.firstTried());
        assertThat(decided.channel()).isEqualTo(rules.channel());
        assertThat(decided.wayBack()).isEqualTo(rules.wayBack());
        assertThat(decided.setUpAt()).isEqualTo(rules.setUpAt());
        assertThat(decided.freeTail()).isEqualTo(rules.freeTail());
        assertThat(decided.realDrives()).isEqualTo(rules.realDrives());
        assertThat(decided.dueRuns()).isEqualTo(rules.dueRuns());
        assertThat(decided.reminders()).isEqualTo(rules.reminders());
    }

    @Test
    void everyWordOfEveryRuleCanBeDecidedAndReadAgain() throws Exception {
        for (RuleTable.Rule rule : RuleTable.ALL) {
            for (String word : rule.words()) {
                RuleTable.set(rules, rule.name(), word);
                assertThat(rule.now(new HouseRules(kept, (key, value) -> {}))).isEqualTo(word);
            }
        }
        // Whatever was decided last is read by its own getter.
        HouseRules read = new HouseRules(kept, (key, value) -> {});
        assertThat(read.reliability()).isEqualTo(Reliability.values()[Reliability.values().length - 1]);
        assertThat(read.firstTried()).isEqualTo(FirstTried.values()[FirstTried.values().length - 1]);
        assertThat(read.smallestLabel()).isEqualTo(32);
    }

    @Test
    void whatARuleMayNotBeIsSaidAndChangesNothing() {
        assertThatThrownBy(() -> RuleTable.set(rules, "pcie", "4"))
                .isInstanceOf(BadArgument.class)
                .hasMessage("The house rule pcie is 2 to 3, not \"4\".");
        assertThatThrownBy(() -> RuleTable.set(rules, "copy-days", "0")).hasMessageContaining("1 to 3650");
        assertThatThrownBy(() -> RuleTable.set(rules, "smallest-card", "12")).hasMessageContaining("8, 16, 32");
        assertThatThrownBy(() -> RuleTable.set(rules, "real-drives", "yes")).hasMessageContaining("on, off");
        assertThatThrownBy(() -> RuleTable.set(rules, "copy-dais", "30"))
                .isInstanceOf(UnknownName.class)
                .hasMessageContaining("Did you mean \"copy-days\"?");
        assertThat(kept).isEmpty();
    }
}
