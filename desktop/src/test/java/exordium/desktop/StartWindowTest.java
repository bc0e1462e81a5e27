// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Step;
import exordium.desktop.desk.Place;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** Firmware, order and rehearsal in the window: settings and recovery cards, presets, the fuse asked for twice, media moved, a diagnosis. */
class StartWindowTest extends WindowCase {

    @Override
    Workbench furnish() throws IOException {
        return DemoHouse.open(own);
    }

    private void open(String board, Step step, String first) {
        ready();
        Hand.on(() -> house.navigation().go(new Place.Station(board, step)));
        String name = workbench.workspace().boards().all().stream()
                .filter(each -> each.id().equals(board))
                .findFirst()
                .orElseThrow()
                .name();
        // The page before it may have something of the same name.
        hand.until(
                first + " of " + name + " is there",
                () -> stage.getScene().lookup(first) != null
                        && stage.getScene().getRoot().lookup(".title") instanceof Label title
                        && title.getText().equals(name)
                        && stage.getScene().getRoot().lookup("#stop-" + step.code()) != null
                        && stage.getScene()
                                .getRoot()
                                .lookup("#stop-" + step.code())
                                .getStyleClass()
                                .contains("here"));
    }

    private boolean logged(String kind) {
        return workbench.workspace().log().all().stream()
                .anyMatch(entry -> entry.at().equals(DemoHouse.CLOCK.instant())
                        && entry.kind().equals(kind));
    }

    private Workbench.BoardAtHand board(String id) throws IOException {
        return workbench.board(id);
    }

    @Test
    void settingsAreStagedAndACardThatWritesTheChipIsMade() throws IOException {
        open("ticket-desk", Step.FIRMWARE, "#firmware-verdict");
        assertThat(((Label) stage.getScene().lookup("#firmware-verdict")).getText())
                .isEqualTo("Update it to 2026-09-02");
        hand.click("firmware-view-1");
        hand.until("the settings are there", () -> stage.getScene().lookup("#chip-settings") != null);
        hand.fill("chip-settings", "BOOT_ORDER=0xf14");
        hand.click("stage-settings");
        hand.untilKept(
                "the settings are staged",
                () -> board("ticket-desk").stagedOrder().filter("0xf14"::equals).isPresent());

        open("tide-clock", Step.FIRMWARE, "#firmware-view-2");
        hand.click("firmware-view-2");
        hand.until("the card's steps are there", () -> stage.getScene().lookup("#recovery-target") != null);
        Hand.on(() -> {
            @SuppressWarnings("unchecked")
            var target = (javafx.scene.control.ComboBox<exordium.jobs.bench.Targets.Target>)
                    stage.getScene().lookup("#recovery-target");
            target.getItems().stream()
                    .filter(each -> each.description().id().equals("spare-card-32.img"))
                    .forEach(target::setValue);
        });
        hand.fill("recovery-confirm", "spare-card-32.img");
        hand.click("make-recovery");
        hand.untilKept("it is written and proven", () -> logged("write-verified"));
    }

    @Test
    void presetsFillTheLadderAndTheFuseIsAskedForTwice() throws IOException {
        open("wave-tank", Step.ORDER, "#preset-card-first");
        hand.click("preset-card-first");
        hand.until("the card is first", () -> stage.getScene().lookup("#rung-card") != null);
        hand.click("stage-order");
        hand.untilKept(
                "it is staged",
                () -> board("wave-tank").stagedOrder().filter("0xf461"::equals).isPresent());

        open("engine-room-sound", Step.ORDER, "#order-view-2");
        hand.click("order-view-2");
        hand.until("it is asked for", () -> stage.getScene().lookup("#set-fuse") != null);
        assertThat(stage.getScene().lookup("#set-fuse").isDisabled()).isTrue();
        hand.fill("fuse-confirm", "engine-room-sound");
        assertThat(Hand.on(() -> stage.getScene().lookup("#set-fuse").isDisabled()))
                .isTrue();
        hand.fill("fuse-again", "bit 29");
        hand.until(
                "both were typed", () -> !stage.getScene().lookup("#set-fuse").isDisabled());
        hand.click("set-fuse");
        hand.untilKept(
                "the bit is set", () -> board("engine-room-sound").order().equals("3020000a"));
    }

    @Test
    void anInstallOverTheNetworkIsPutOnTheLadder() {
        open("wave-tank", Step.ORDER, "#order-view-2");
        hand.click("order-view-2");
        hand.click("install-order");
        hand.until(
                "its digit is in the order",
                () -> stage.getScene().lookup("#rung-network-install") != null
                        && stage.getScene()
                                .lookup("#order-value")
                                .getAccessibleText()
                                .contains("0xf7416"));
    }

    @Test
    void mediaAreMovedByKeysAndWhatItDidOtherwiseIsRanked() {
        open("wave-tank", Step.REHEARSAL, "#plug-nvme");
        Hand.on(() -> stage.getScene().lookup("#plug-nvme").requestFocus());
        hand.press(KeyCode.ALT, KeyCode.UP);
        hand.until("it is in the card slot", () -> stage.getScene().lookup("#plug-card") != null);
        assertThat(((Label) stage.getScene().lookup("#parting")).getText()).contains("they part");
        assertThat(((Label) stage.getScene().lookup("#outcome")).getText()).startsWith("Never");

        hand.click("rehearsal-view-1");
        hand.until("the first question is asked", () -> stage.getScene().lookup("#answer-kernel-stops") != null);
        hand.click("answer-kernel-stops");
        hand.until("the next one is", () -> stage.getScene().lookup("#answer-no-root") != null);
        hand.click("answer-no-root");
        hand.until("it is as good as sure", () -> stage.getScene().lookup("#question") == null);
        hand.untilPageSays("has a kernel line that is broken");
        hand.click("put-down");
        hand.untilKept("it is in the logbook", () -> logged("diagnosed"));
        // What was said goes on standing there.
        assertThat(stage.getScene().lookup("#diagnosis")).isNotNull();
    }
}
