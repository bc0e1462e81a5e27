// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.LoopCard;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.function.Predicate;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * From an empty workspace to a proven card, set up for remote login, in a board of a family described from its image, rehearsed: what that
 * takes of its user is counted, each click, each field and each key that acts, and must not grow.
 */
class FirstHourTest extends WindowCase {
    /** Before a drive was taken in with the write to it, and the port it goes into offered there, it was 41. */
    private static final int MOST = 22;

    private LoopCard card;
    private int acts;
    private boolean keys;

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
        if (keys) {
            hand.until(id + " can be pressed", () -> !hand.see(id).isDisabled());
            hand.tabTo(id);
            hand.press(KeyCode.SPACE);
        } else {
            hand.click(id);
        }
    }

    private void fill(String id, String text) {
        acts++;
        if (keys) {
            hand.tabTo(id);
        } else {
            hand.click(id);
        }
        hand.type(text);
    }

    /** Down through a choice until it is there, as with the keys; or out of its list. */
    private <T> void choose(String id, Predicate<T> wanted) {
        acts++;
        hand.see(id);
        if (keys) {
            hand.tabTo(id);
            for (int i = 0; i < 40 && !Hand.on(() -> there(id, wanted)); i++) {
                hand.press(KeyCode.DOWN);
            }
            assertThat(Hand.<Boolean>on(() -> there(id, wanted))).as(id).isTrue();
        } else {
            Hand.on(() -> hand.<T>box(id).getItems().stream()
                    .filter(wanted)
                    .findFirst()
                    .ifPresent(hand.<T>box(id)::setValue));
        }
    }

    private <T> boolean there(String id, Predicate<T> wanted) {
        T value = hand.<T>box(id).getValue();
        return value != null && wanted.test(value);
    }

    private void press(KeyCode key) {
        acts++;
        hand.press(key);
    }

    private List<String> kinds() {
        return workbench.records().log().stream().map(each -> each.kind()).toList();
    }

    /** By mouse and keyboard, and by keyboard alone: Tab goes to what is wanted, and only what acts is counted. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void anEmptyWorkspaceToARehearsedBoardInFewActs(boolean keysAlone) throws IOException {
        keys = keysAlone;
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
        choose("family-like", "plover-4"::equals);
        click("form-deed");
        hand.until("the family is there", () -> hand.page().contains("heron-1 is described."));
        fill("board-name", "attic");
        press(KeyCode.ENTER);
        hand.until("its page is open", () -> hand.page().contains("heron-1, 1 GB"));
        // The card, written and proven there.
        click("stop-image");
        hand.until(
                "the drives are there",
                () -> Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                        .anyMatch(each -> each.description().id().equals(card.name()))));
        this.<Targets.Target>choose("target", each -> each.description().id().equals(card.name()));
        click("allow-real-drives");
        hand.until(
                "it is taken in with the write", () -> hand.see("newcomer-name").isVisible());
        hand.until(
                "and has a name",
                () -> !((TextField) hand.see("newcomer-name")).getText().isEmpty());
        fill("confirm", card.name());
        hand.until("it may be written", () -> !hand.see("write").isDisabled());
        press(KeyCode.ENTER);
        hand.until(
                "it is written and read back", () -> hand.text("report-verdict").equals("verified"));
        assertThat(card.holds(image)).isTrue();
        // Into the board, and set up while it is here.
        click("next-port-card");
        hand.see("login");
        hand.until("its card was looked through", () -> hand.page().contains("remote login is off"));
        click("login");
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
