// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.access.Known;
import exordium.core.block.TransferWatch;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.storage.media.MediumKind;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.PlayedMachine;
import exordium.desktop.desk.Place;
import exordium.jobs.bench.Workbench;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.workspace.Workspaces;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The window on a workspace of one's own: empty at first, then a board by hand with a real card; worked by clicking and typing. */
class OwnWorkspaceTest extends WindowCase {
    private PlayedMachine machine;

    @Override
    Workbench furnish() throws IOException {
        machine = new PlayedMachine(own.resolve("machine"));
        workbench = DemoHouse.empty(own, DemoHouse.CLOCK, machine.machine());
        return workbench;
    }

    private void begin() {
        ready();
        hand.see("new-board");
    }

    @Test
    void aBoardByHandFromAnImagesFilesWithARealCardThatGoesAway() throws IOException {
        Path image = new DiskBuilder(own).start("ssh", "").build("system.img");
        Path card = machine.plug("sdx", Files.size(image), "OWN-7001");
        Files.copy(image, card, StandardCopyOption.REPLACE_EXISTING);
        begin();

        // Drives are seen from the first moment on, with the reason why each is refused; then they are turned on.
        hand.click("roster-media");
        hand.untilPageSays("sdx");
        hand.untilPageSays("No medium is in the register yet");
        hand.until("the strip says why", () -> house.drives().refusedProperty().get().stream()
                .anyMatch(each -> each.why().contains("are off")));
        Hand.on(() -> house.facts().rules().realDrives(true));
        hand.see("plugged-take-sdx");
        hand.fill("plugged-name-sdx", "Own card");
        Hand.on(() -> hand.<MediumKind>box("plugged-kind-sdx")
                .setValue(workbench.media().kind("stick").orElseThrow()));
        hand.click("plugged-take-sdx");
        hand.until(
                "it is in the register",
                () -> house.facts().countsProperty().get().media() == 1);

        hand.click("roster-sheet");
        hand.click("new-board");
        hand.click("board-describe");
        hand.see("family-id");
        hand.click("family-id");
        hand.type("heron-1");
        hand.fill("family-image", image.toString());
        Hand.on(() -> hand.<String>box("family-like").setValue("plover-4"));
        hand.click("form-deed");
        hand.until("the family is there", () -> hand.page()
                .contains("heron-1 is described. Rehearsed with that image it runs"));
        hand.click("board-name");
        hand.type("attic");
        hand.press(KeyCode.ENTER);
        hand.until("its page is open", () -> hand.page().contains("heron-1, 1 GB"));
        assertThat(hand.page()).contains("by hand").contains("not told");

        // Too small for anything new, as the station says; it is in the board all the same.
        hand.untilPageSays("too few");
        hand.click("board-ports");
        hand.see("port-usb1");
        Hand.on(() -> hand.box("port-usb1").getSelectionModel().select(1));
        hand.click("form-deed");
        hand.until("it is plugged in", () -> house.facts()
                .sheetProperty()
                .get()
                .board("attic")
                .cell(Step.REHEARSAL)
                .pennant()
                .equals(Pennant.SET));
        Hand.on(() -> unplug());
        hand.until(
                "it is seen to be away",
                () -> house.drives().pluggedProperty().get().isEmpty());
        hand.click("stop-rehearsal");
        hand.untilPageSays("Own card");
        hand.click("tell");
        hand.see("told-started");
        Hand.on(() -> hand.<String>box("told-started").setValue("usb1"));
        hand.click("told-root");
        hand.type("sda2");
        // The rest as its terminal showed it.
        hand.fill("told-pasted", "firmware: 2026-09-02\nBOOT_ORDER=0xf41\nsomething else\n");
        hand.until(
                "what is known of it is filled in",
                () -> ((TextField) hand.see("told-order")).getText().equals("0xf41")
                        && ((TextField) hand.see("told-firmware")).getText().equals("2026-09-02"));
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
        hand.untilPageSays("Attic".toLowerCase(java.util.Locale.ROOT));
        assertThat(house.facts()
                        .sheetProperty()
                        .get()
                        .board("attic")
                        .cell(Step.REHEARSAL)
                        .reason())
                .contains("is not here; this is as it was read on");
    }

    /** Tab passes the field that holds several lines; what they tell becomes part of the family. */
    @Test
    void aFamilyIsReadOffItsStartScreen() {
        begin();
        hand.click("new-board");
        hand.click("board-describe");
        hand.see("family-id");
        hand.click("family-id");
        hand.type("heron-2");
        hand.tabTo("family-screen");
        hand.type("boot_targets=usb0 mmc0");
        hand.tabTo("family-like");
        hand.click("form-deed");
        hand.until("the family is there", () -> hand.page().contains("heron-2 is described"));
        hand.until(
                "its order is what the screen showed",
                () -> ((TextField) hand.see("board-order")).getPromptText().contains("usb0 mmc0"));
    }

    private void unplug() {
        try {
            machine.unplug("sdx");
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    void emptyPagesSayWhatWouldStandThereAndBeginIt() {
        begin();
        hand.click("roster-images");
        hand.untilPageSays("No image is on the shelf yet");
        hand.click("empty-begin");
        hand.see("image-file");
        hand.press(KeyCode.ESCAPE);
        hand.click("roster-calendar");
        hand.untilPageSays("Nothing has a date yet");
        hand.click("roster-storage_plan");
        hand.untilPageSays("no board to plan for yet");
        hand.click("empty-begin");
        hand.see("board-name");
        hand.press(KeyCode.ESCAPE);
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.see("go-field");
        hand.type("zzz");
        hand.until("nothing found is said", () -> hand.page().contains("Nothing here goes by \"zzz\""));
        hand.press(KeyCode.ESCAPE);
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.see("go-field");
        hand.type("preferences");
        hand.press(KeyCode.ENTER);
        hand.untilPageSays("House rules");
    }

    @Test
    void aWorkspaceIsNamedTakenAlongAndAnotherOneOpenedInTheSameWindow() throws IOException {
        begin();
        Hand.on(() -> house.navigation().go(Place.Form.NAME_WORKSPACE));
        hand.click("workspace-name");
        hand.type("gannet point");
        hand.press(KeyCode.ENTER);
        hand.until("it is named", () -> stage.getTitle().endsWith("gannet point"));
        hand.click("workspace");
        hand.click("to-export_workspace");
        hand.fill("workspace-file", own.resolve("taken.zip").toString());
        hand.click("form-deed");
        hand.until("it is taken along", () -> Files.exists(own.resolve("taken.zip")));
        hand.until("the job is over", () -> !house.jobs().any());
        try (Workbench again = WorkspaceArchive.importFrom(
                own.resolve("taken.zip"),
                own.resolve("again"),
                DemoHouse.CLOCK,
                workbench.zone(),
                TransferWatch.NONE)) {
            assertThat(again.rules().workspaceName()).isEqualTo("gannet point");
        }
        new Workspaces(own.resolve("state/exordium/workspaces")).opened(own.resolve("again"), "the other");
        try (WindowSeat seat = WindowSeat.take(own.resolve("again"), () -> {}).orElseThrow()) {
            assertThat(seat).isNotNull();
            assertThat(WindowSeat.take(own.resolve("again"), () -> {})).isEmpty();
            hand.click("workspace");
            hand.until(
                    "it is offered",
                    () -> !hand.box("workspace-recent").getItems().isEmpty());
            Hand.on(() -> hand.box("workspace-recent").getSelectionModel().select(0));
            hand.click("form-deed");
            hand.until("it is open elsewhere", () -> hand.page().contains("is open already"));
        }
        javafx.scene.Scene before = stage.getScene();
        hand.click("workspace");
        hand.fill("workspace-folder", own.resolve("again").toString());
        hand.click("form-deed");
        hand.until("the window shows the other", () -> stage.getScene() != before);
    }

    @Test
    void aSecondWindowCallsTheFirstToTheFront() throws IOException {
        java.util.concurrent.CountDownLatch called = new java.util.concurrent.CountDownLatch(1);
        try (WindowSeat first = WindowSeat.take(own, called::countDown).orElseThrow()) {
            assertThat(first).isNotNull();
            assertThat(WindowSeat.take(own, () -> {})).isEmpty();
            assertThat(WindowSeat.callToFront(own)).isTrue();
            assertThat(called.getCount()).isZero();
        }
        assertThat(WindowSeat.callToFront(own)).isFalse();
        Optional<WindowSeat> again = WindowSeat.take(own, () -> {});
        assertThat(again).isPresent();
        again.get().close();
    }
}
