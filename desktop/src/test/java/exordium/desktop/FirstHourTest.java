// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.LoopCard;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/**
 * From an empty workspace to a proven card, set up for remote login, in a board of a family described from its image, rehearsed: what that
 * takes of its user is counted, each click, each field and each key that acts, and must not grow.
 */
class FirstHourTest extends WindowCase {
    /** Before a drive was taken in with the write to it, and the port it goes into offered there, it was 41. */
    private static final int MOST = 22;

    private LoopCard card;
    private int acts;

    @Override
    Workbench furnish() throws IOException {
        card = new LoopCard(own, 200 * DiskBuilder.MIB);
        return DemoHouse.empty(own, Clock.systemUTC());
    }

    @Override
    void closed() {
        card.close();
    }

    private void click(String id) {
        acts++;
        hand.click(id);
    }

    private void fill(String id, String text) {
        acts++;
        hand.fill(id, text);
    }

    private void press(KeyCode key) {
        acts++;
        hand.press(key);
    }

    private List<String> kinds() {
        return workbench.records().log().stream().map(each -> each.kind()).toList();
    }

    @Test
    void anEmptyWorkspaceToARehearsedBoardInFewActs() throws IOException {
        Needs.here(card.isThere(), "no loop devices here");
        Path image = new DiskBuilder(own).id("0c4d0c50").build("system.img");
        ready();
        // An image of one's own.
        click("first-image");
        fill("image-file", image.toString());
        click("form-deed");
        hand.until(
                "it is on the shelf", () -> house.facts().countsProperty().get().images() == 1);
        // A board of a family described from it.
        click("roster-sheet");
        click("new-board");
        click("board-describe");
        fill("family-id", "heron-1");
        fill("family-image", image.toString());
        acts++;
        Hand.on(() -> hand.<String>box("family-like").setValue("plover-4"));
        click("form-deed");
        hand.until("the family is there", () -> hand.page().contains("heron-1 is described."));
        acts++;
        hand.click("board-name");
        hand.type("attic");
        press(KeyCode.ENTER);
        hand.until("its page is open", () -> hand.page().contains("heron-1, 1 GB"));
        // The card, written and proven there.
        click("stop-image");
        hand.until(
                "the drives are there",
                () -> Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                        .anyMatch(each -> each.description().id().equals(card.name()))));
        acts++;
        Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                .filter(each -> each.description().id().equals(card.name()))
                .findFirst()
                .ifPresent(hand.<Targets.Target>box("target")::setValue));
        click("allow-real-drives");
        hand.until(
                "it is taken in with the write", () -> hand.see("newcomer-name").isVisible());
        hand.until(
                "and has a name",
                () -> !((TextField) hand.see("newcomer-name")).getText().isEmpty());
        acts++;
        hand.click("confirm");
        hand.type(card.name());
        hand.until("it may be written", () -> !hand.see("write").isDisabled());
        press(KeyCode.ENTER);
        hand.until(
                "it is written and read back", () -> hand.text("report-verdict").equals("verified"));
        assertThat(GeneralTools.exitOf(
                        "cmp",
                        "-n",
                        String.valueOf(Files.size(image)),
                        image.toString(),
                        card.backing().toString()))
                .isZero();
        // Into the board, and set up while it is here.
        click("next-port-card");
        hand.see("login");
        hand.until("its card was looked through", () -> hand.page().contains("remote login is off"));
        acts++;
        Hand.on(() -> ((CheckBox) hand.see("login")).fire());
        hand.until("it may be set up", () -> !hand.see("apply").isDisabled());
        click("apply");
        hand.until("the edit is made", () -> kinds().contains("first-start-edited"));
        click("stop-rehearsal");
        hand.until("it is rehearsed", () -> {
            Pennant start = house.facts()
                    .sheetProperty()
                    .get()
                    .board("attic")
                    .cell(Step.REHEARSAL)
                    .pennant();
            return start == Pennant.PROVEN || start == Pennant.SET;
        });
        System.out.println("acts of the first hour: " + acts);
        assertThat(acts).isLessThanOrEqualTo(MOST);
    }
}
