// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.Machine;
import exordium.core.block.MachineDrives;
import exordium.core.block.PlainMachine;
import exordium.desktop.desk.Place;
import javafx.scene.control.CheckBox;
import org.junit.jupiter.api.Test;

/** Every page of the window on a system of which nothing is known but what Java tells. */
class PagesElsewhereTest extends PagesTest {
    @Override
    Machine machine() {
        return new PlainMachine();
    }

    /** What stays of pages is counted on this machine. */
    @Override
    int visits() {
        return 1;
    }

    @Test
    void drivesOfTheMachineAreNotReachedAndThatIsSaid() {
        begin();
        go(Place.Shelf.RULES);
        assertThat(hand.see("rule-real-drives").isDisabled()).isTrue();
        assertThat(((CheckBox) hand.see("rule-real-drives")).isSelected()).isFalse();
        hand.untilPageSays(MachineDrives.NOT_REACHED.text());
        go(Place.Shelf.MEDIA);
        hand.untilPageSays(MachineDrives.NOT_REACHED.text());
    }
}
