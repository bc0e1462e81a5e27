// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.access.Known;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.storage.media.MediumKind;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.LoopCard;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import javafx.scene.control.CheckBox;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/**
 * The whole way of a card of one's own, by clicking and typing: a loop device of this test's own is written, read back, set up, taken
 * out, rehearsed from what was read, told as started, and its copy stands in the calendar. What was written is compared by cmp(1) and
 * read by mtools.
 */
class OwnCardTest extends WindowCase {
    private LoopCard card;

    @Override
    Workbench furnish() throws IOException {
        card = new LoopCard(own, 200 * DiskBuilder.MIB);
        workbench = DemoHouse.empty(own, Clock.systemUTC());
        return workbench;
    }

    @Override
    void closed() {
        card.close();
    }

    private String loop() {
        return card.name();
    }

    private boolean isAway(Media.Medium medium) {
        try {
            return !workbench.targets().isHere(medium);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private Pennant pennant(Step step) {
        return house.facts().sheetProperty().get().board("attic").cell(step).pennant();
    }

    private List<String> kinds() {
        return workbench.records().log().stream().map(each -> each.kind()).toList();
    }

    @Test
    void aCardIsWrittenSetUpTakenOutRehearsedToldAndItsCopyIsDue() throws IOException {
        Needs.here(card.isThere(), "no loop devices here");
        // An identifier no other test has: its loop devices beside this one must not be taken for this card.
        Path image = new DiskBuilder(own).id("0c4d0c4d").build("system.img");
        ready();

        hand.click("roster-media");
        Hand.on(() -> house.facts().rules().realDrives(true));
        hand.see("plugged-take-" + loop());
        hand.fill("plugged-name-" + loop(), "Own card");
        Hand.on(() -> hand.<MediumKind>box("plugged-kind-" + loop())
                .setValue(workbench.media().kind("card-quick").orElseThrow()));
        hand.click("plugged-take-" + loop());
        hand.until(
                "it is in the register",
                () -> house.facts().countsProperty().get().media() == 1);

        hand.click("roster-images");
        hand.untilPageSays("No image is on the shelf yet");
        hand.click("empty-begin");
        hand.fill("image-file", image.toString());
        hand.click("form-deed");
        hand.until(
                "it is on the shelf", () -> house.facts().countsProperty().get().images() == 1);

        hand.click("roster-sheet");
        hand.click("new-board");
        hand.click("board-describe");
        hand.fill("family-id", "heron-1");
        hand.fill("family-image", image.toString());
        Hand.on(() -> hand.<String>box("family-like").setValue("plover-4"));
        hand.click("form-deed");
        hand.until("the family is there", () -> hand.page().contains("heron-1 is described."));
        hand.click("board-name");
        hand.type("attic");
        hand.press(KeyCode.ENTER);
        hand.until("its page is open", () -> hand.page().contains("heron-1, 1 GB"));
        hand.click("board-ports");
        hand.see("port-card");
        Hand.on(() -> hand.box("port-card").getSelectionModel().select(1));
        hand.click("form-deed");
        hand.until("it is plugged in", () -> kinds().contains("drive-plugged"));

        hand.click("stop-image");
        hand.untilPageSays("What will happen");
        hand.click("confirm");
        hand.type(loop());
        hand.until("it may be written", () -> !hand.see("write").isDisabled());
        hand.click("write");
        hand.until(
                "it is written and read back", () -> hand.text("report-verdict").equals("verified"));
        assertThat(card.holds(image)).isTrue();

        hand.click("stop-first-start");
        hand.see("login");
        hand.until("its card was looked through", () -> hand.page().contains("remote login is off"));
        Hand.on(() -> ((CheckBox) hand.see("login")).fire());
        hand.until("it may be set up", () -> !hand.see("apply").isDisabled());
        hand.click("apply");
        hand.until("the edit is made", () -> kinds().contains("first-start-edited"));
        hand.until("the job is over", () -> !house.jobs().any());
        assertThat(GeneralTools.run("mdir", "-b", "-i", card.backing() + "@@" + 4 * DiskBuilder.MIB, "::"))
                .containsIgnoringCase("::/ssh");

        // Plugged in and known: the drawer says whose it is, and copies it at one press.
        Media.Medium medium = workbench.records().media().get(0);
        hand.click("roster-media");
        hand.untilPageSays("of attic");
        hand.click("plugged-copy-" + medium.id());
        hand.untilKept("it is copied", () -> kinds().contains("copy-proven"));
        hand.until("the copy is over", () -> !house.jobs().any());
        hand.until("it says where it goes back to", () -> hand.page().contains("It goes back into"));
        hand.until("it is not due any more", () -> !hand.page().contains("copy due since"));
        hand.click("roster-attic");
        hand.until("its page is open again", () -> hand.page().contains("heron-1, 1 GB"));

        String was = loop();
        card.close();
        hand.until("it is seen to be away", () -> house.drives().pluggedProperty().get().stream()
                .noneMatch(each -> each.id().equals(was)));
        hand.until("the register has it away", () -> isAway(medium));
        hand.click("stop-rehearsal");
        hand.untilPageSays("Own card");
        hand.until("it is rehearsed from what was read", () -> pennant(Step.REHEARSAL) == Pennant.SET);
        hand.click("tell");
        hand.see("told-started");
        Hand.on(() -> hand.<String>box("told-started").setValue("card"));
        hand.fill("told-root", "mmcblk0p2");
        hand.fill("told-firmware", "2026-09-02");
        hand.fill("told-order", "0xf41");
        hand.click("form-deed");
        hand.until(
                "what was told is known",
                () -> house.facts()
                                .sheetProperty()
                                .get()
                                .board("attic")
                                .cell(Step.ORDER)
                                .by()
                        == Known.By.TOLD);
        hand.click("roster-calendar");
        hand.untilPageSays("attic");
    }
}
