// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.passage.Wish;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.LoopCard;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Workbench;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Progress;
import exordium.jobs.shelf.Intake;
import exordium.store.Passages;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/**
 * From a wish to the proof by clicking and typing, on a workspace with nothing but a board and an image: a card of this test's own is
 * taken in where the ways stand, and the job card is gone through step by step. Read by mtools.
 */
class PassageWindowTest extends WindowCase {
    private LoopCard card;
    private Optional<LoopCard> failing = Optional.empty();

    @Override
    Workbench furnish() throws IOException {
        card = new LoopCard(own, 200 * DiskBuilder.MIB);
        workbench = DemoHouse.empty(own, Clock.systemUTC());
        Path image = new DiskBuilder(own).id("0c4d0c5a").build("system.img");
        new Intake(workbench).image(image, TransferWatch.NONE);
        return workbench;
    }

    @Override
    void closed() {
        card.close();
        failing.ifPresent(LoopCard::close);
    }

    /** A board by hand, as the form has it where nothing is chosen but the family. */
    private void board() {
        ready();
        hand.click("new-board");
        hand.see("board-profile");
        Hand.on(() -> hand.<String>box("board-profile").setValue("plover-4"));
        hand.click("board-name");
        hand.type("Attic");
        hand.press(KeyCode.ENTER);
        hand.until("its page is open", () -> hand.page().contains("plover-4, 1 GB"));
    }

    private void wish(Wish.Kind kind) {
        hand.see("wishes");
        Hand.on(() -> ((ListView<?>) hand.see("wishes")).getSelectionModel().select(kind.ordinal()));
    }

    private void takeIn(LoopCard each, String name) {
        hand.see("plugged-take-" + each.name());
        hand.fill("plugged-name-" + each.name(), name);
        hand.click("plugged-take-" + each.name());
        hand.untilKept(name + " is in the register", () -> workbench.records().media().stream()
                .anyMatch(medium -> medium.name().equals(name)));
    }

    private PassageJob.Shown passage() {
        try {
            return house.passages().show(Optional.of("attic")).get(0);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** Presses what stands at the next step, with what it wants typed; waits until it is over. */
    private void step(String id, String typed, String seen) {
        hand.see("step-" + id);
        if (!typed.isEmpty()) {
            hand.click("passage-confirm");
            hand.type(typed);
        }
        if (!seen.isEmpty()) {
            hand.fill("saw-startDevice", seen);
        }
        hand.click("passage-do");
        hand.until("the step is over", () -> !house.jobs().any());
    }

    @Test
    void aNewBoardRunsFromACardThatWasInNoRegister() {
        Needs.here(card.isThere(), "no loop devices here");
        board();
        hand.click("board-passage");
        wish(Wish.Kind.NEW_BOARD);
        hand.click("plugged-allow-" + card.name());
        takeIn(card, "Attic card");
        hand.until("a way leads over it", () -> hand.page().contains("Plug Attic card"));
        hand.click("passage-begin");
        hand.untilPageSays("Job card, under way");

        step("write-attic-card", card.name(), "");
        hand.see("step-set-up-attic-card");
        assertThat(GeneralTools.run("mdir", "-b", "-i", card.backing() + "@@" + 4 * DiskBuilder.MIB, "::"))
                .containsIgnoringCase("::/cmdline.txt");
        step("set-up-attic-card", "", "");
        hand.see("step-plug-attic-card");
        assertThat(GeneralTools.run("mdir", "-b", "-i", card.backing() + "@@" + 4 * DiskBuilder.MIB, "::"))
                .containsIgnoringCase("::/ssh");
        step("plug-attic-card", "", "");
        step("power-on", "", "");
        hand.click("roster-sheet");
        hand.click("go-on-attic");
        step("look", "", "card");
        hand.untilPageSays("Job card, done");
        assertThat(passage().state()).isEqualTo(Passages.State.DONE);
        assertThat(hand.cutTexts()).isEmpty();
    }

    /** The card takes a part of what is written and fails then: the way goes on over another one, and says why. */
    @Test
    void whatFailsHalfWayGoesOnOverAnotherCard() throws IOException {
        Needs.here(card.isThere(), "no loop devices here");
        LoopCard bad = LoopCard.failing(own, 200 * DiskBuilder.MIB, 5 * DiskBuilder.MIB);
        failing = Optional.of(bad);
        board();
        Hand.on(() -> house.facts().rules().realDrives(true));
        hand.click("roster-passages");
        hand.see("passage-board");
        Hand.on(() -> hand.box("passage-board").getSelectionModel().select(0));
        hand.click("passage-wish");
        wish(Wish.Kind.NEW_BOARD);
        takeIn(bad, "A card");
        hand.until("a way leads over it", () -> hand.page().contains("Plug A card"));
        hand.tabTo("passage-begin");
        hand.press(KeyCode.SPACE);
        hand.untilPageSays("Job card, under way");
        step("write-a-card", bad.name(), "");
        hand.untilPageSays("Planned anew");
        assertThat(passage().state()).isEqualTo(Passages.State.UNDER_WAY);

        hand.click("passage-view-0");
        takeIn(card, "B card");
        hand.click("passage-view-1");
        hand.click("passage-anew");
        hand.untilPageSays("Plug B card");
        step("write-b-card", card.name(), "");
        step("set-up-b-card", "", "");
        step("plug-b-card", "", "");
        step("power-on", "", "");
        step("look", "", "card");
        hand.untilPageSays("Job card, done");
        assertThat(passage().steps())
                .filteredOn(each -> each.progress() == Progress.FALLEN)
                .singleElement()
                .satisfies(each -> assertThat(each.step().id()).isEqualTo("write-a-card"));
        assertThat(GeneralTools.run("mdir", "-b", "-i", card.backing() + "@@" + 4 * DiskBuilder.MIB, "::"))
                .containsIgnoringCase("::/ssh");
    }
}
