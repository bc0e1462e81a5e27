// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.firmware.Channel;
import exordium.core.firststart.SetUpAt;
import exordium.core.storage.judgement.Reliability;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import exordium.jobs.bench.HouseRules;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class HouseRulesTest {
    @TempDir
    Path folder;

    @Test
    void rulesHaveTheirDefaultsAndKeepWhatWasSet() throws IOException {
        House house = House.empty(folder);
        HouseRules rules = house.bench.rules();
        assertThat(rules.realDrives()).isFalse();
        assertThat(rules.nightChart()).isFalse();
        assertThat(rules.textSize()).isEqualTo(100);
        assertThat(rules.copyRule()).isEqualTo(CopyRule.USUAL);
        assertThat(rules.smallestLabel()).isEqualTo(16);
        assertThat(rules.storageRules()).isEqualTo(StorageRules.USUAL);
        assertThat(rules.firstTried()).isEqualTo(FirstTried.CARD);
        assertThat(rules.channel()).isEqualTo(Channel.DEFAULT);
        assertThat(rules.wayBack()).isEqualTo(WayBack.COPY);
        assertThat(rules.setUpAt()).isEqualTo(SetUpAt.WRITING);
        assertThat(rules.freeTail()).isEqualTo(1);
        rules.realDrives(true);
        rules.nightChart(true);
        rules.textSize(500);
        rules.copyRule(new CopyRule(14, 60, false));
        rules.smallestLabel(32);
        rules.pcie(3);
        rules.workspaceName("Gannet Point");
        rules.reliability(Reliability.COPIES);
        rules.firstTried(FirstTried.DRIVE);
        rules.channel(Channel.LATEST);
        rules.wayBack(WayBack.IMAGE);
        rules.setUpAt(SetUpAt.BOARD);
        rules.freeTail(5);
        HouseRules again = house.bench.rules();
        assertThat(again.storageRules()).isEqualTo(new StorageRules(StorageNeed.leastOf(32), 3, Reliability.COPIES));
        assertThat(again.firstTried()).isEqualTo(FirstTried.DRIVE);
        assertThat(again.channel()).isEqualTo(Channel.LATEST);
        assertThat(again.wayBack()).isEqualTo(WayBack.IMAGE);
        assertThat(again.setUpAt()).isEqualTo(SetUpAt.BOARD);
        assertThat(again.freeTail()).isEqualTo(5);
        assertThat(again.realDrives()).isTrue();
        assertThat(again.nightChart()).isTrue();
        assertThat(again.textSize()).isEqualTo(150);
        assertThat(again.copyRule()).isEqualTo(new CopyRule(14, 60, false));
        assertThat(again.smallestLabel()).isEqualTo(32);
        assertThat(again.pcie()).isEqualTo(3);
        assertThat(again.workspaceName()).isEqualTo("Gannet Point");
    }

    /** A page that asks for one rule at a time costs one statement all the same. */
    @Test
    void rulesAreReadTogether() throws IOException {
        House house = House.empty(folder);
        long before = house.workspace.statements();
        HouseRules rules = house.bench.rules();
        rules.realDrives();
        rules.copyRule();
        rules.storageRules();
        assertThat(house.workspace.statements() - before).isEqualTo(1);
    }

    /** The window keeps what is decided in its turn; what is decided counts at once. */
    @Test
    void whatIsDecidedCountsBeforeItIsKept() {
        List<String> kept = new ArrayList<>();
        HouseRules rules = new HouseRules(Map.of(), (key, value) -> kept.add(key + "=" + value));
        rules.freeTail(5);
        assertThat(rules.freeTail()).isEqualTo(5);
        assertThat(kept).containsExactly("free-tail=5");
    }
}
