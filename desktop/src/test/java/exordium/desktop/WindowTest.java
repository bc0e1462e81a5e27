// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Step;
import exordium.core.writing.Verdict;
import exordium.desktop.board.image.ImageSource;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.chart.JobBar;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.OpenedSource;
import exordium.store.Logbook;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.TreeSet;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The real window, worked by clicking and typing. */
class WindowTest extends WindowCase {

    @Override
    Workbench furnish() throws IOException {
        return DemoHouse.open(own);
    }

    private void begin() {
        ready();
        hand.see("roster-wave-tank");
    }

    private String cell(String board, Step step) {
        return hand.see("cell-" + board + "-" + step.code()).getAccessibleText();
    }

    private List<String> kinds(String board) {
        return workbench.workspace().log().all().stream()
                .filter(entry -> entry.at().equals(DemoHouse.CLOCK.instant())
                        && entry.board().filter(board::equals).isPresent())
                .map(Logbook.Entry::kind)
                .toList();
    }

    @SuppressWarnings("unchecked")
    private <T> ComboBox<T> box(String id) {
        return (ComboBox<T>) hand.see(id);
    }

    /** The whole way of one board: bare storage, image, restart, copy; each step read off the screen and the logbook. */
    @Test
    void fromBareStorageToAProvenCopy() {
        begin();
        assertThat(cell("store-room-spare", Step.IMAGE)).contains("unknown");
        hand.click("roster-store-room-spare");

        hand.click("candidate-spare-card-32");
        hand.untilPageSays("Plug Tidewell 32 in: Card slot");
        hand.click("plug");
        hand.untilPageSays("29.7 GiB");

        hand.click("stop-image");
        ComboBox<ImageSource> image = box("image");
        ComboBox<Targets.Target> target = box("target");
        assertThat(image.getValue().title()).isEqualTo("marshlinux 2026.10");
        hand.until(
                "the target is what was plugged in",
                () -> target.getValue() != null
                        && target.getValue().description().id().equals("spare-card-32.img"));
        hand.untilPageSays("What will happen");
        assertThat(hand.see("write").isDisabled()).isTrue();
        hand.click("confirm");
        hand.type("spare-card-16.img");
        assertThat(hand.see("write").isDisabled()).isTrue();
        hand.until("the wrong name is said", () -> hand.page().contains("is not its name"));
        Hand.on(() -> ((TextField) hand.see("confirm")).clear());
        hand.type("spare-card-32.img");
        hand.until("it may be written", () -> !hand.see("write").isDisabled());
        hand.click("write");
        hand.until("the strip names the job", () -> hand.text("strip-title").startsWith("Writing marshlinux"));
        TreeSet<Integer> shares = new TreeSet<>();
        hand.until("the strip fills", () -> {
            Node bar = stage.getScene().getRoot().lookup(".strip").lookupAll("*").stream()
                    .filter(JobBar.class::isInstance)
                    .findFirst()
                    .orElse(null);
            if (bar != null) {
                shares.add(Integer.parseInt(bar.getAccessibleText().replaceAll("\\D.*", "")));
            }
            return shares.size() > 3;
        });
        hand.until("the time left is said", () -> hand.text("strip-figures").contains("left"));
        assertThat(hand.text("report-verdict")).isEqualTo("verified");
        assertThat(house.jobs().writtenProperty().get().reports().get(0).verdict())
                .isEqualTo(Verdict.VERIFIED);

        hand.press(KeyCode.CONTROL, KeyCode.L);
        hand.untilPageSays("marshlinux-2026.10-lite.img.xz to Tidewell 32: Every byte");
        hand.press(KeyCode.CONTROL, KeyCode.D);
        hand.until(
                "the cell is proven", () -> cell("store-room-spare", Step.IMAGE).contains("Image: proven"));
        assertThat(cell("store-room-spare", Step.REHEARSAL)).contains("proven");

        hand.click("cell-store-room-spare-copies");
        hand.click("copy");
        hand.until(
                "the copy is in the register",
                () -> workbench.workspace().copies().of("store-room-spare").size() == 1);
        hand.untilPageSays("stays: the newest");
        assertThat(kinds("store-room-spare")).containsExactly("drive-plugged", "write-verified", "copy-proven");
    }

    @Test
    void aStoppedWriteSaysThatTheTargetIsNotToBeUsed() {
        begin();
        hand.click("roster-store-room-spare");
        hand.click("stop-image");
        hand.untilPageSays("holds marshlinux 2025.11");
        hand.click("confirm");
        hand.type(((TextField) hand.see("confirm")).getPromptText());
        hand.press(KeyCode.ENTER);
        hand.until(
                "bytes move",
                () -> house.jobs().any()
                        && house.jobs().running().get(0).meter().moment().done().bytes() > 0);
        hand.click("strip-stop");
        assertThat(hand.text("report-verdict")).isEqualTo("cancelled");
        hand.untilPageSays("not to be used");
        assertThat(workbench.workspace().log().last().orElseThrow().kind()).isEqualTo("write-cancelled");
    }

    @Test
    void anUpdateIsStagedRestartedAndSeenAndLostBySwitchingOff() {
        begin();
        hand.click("cell-ticket-desk-firmware");
        hand.click("stage-firmware");
        hand.untilPageSays("Switching off loses what is staged.");
        hand.click("switch-off");
        hand.untilPageSays("Nothing is staged.");
        hand.click("stage-firmware");
        hand.untilPageSays("Switching off loses what is staged.");
        hand.click("restart");
        hand.until("it runs", () -> hand.page().contains("2026-09-02 runs already"));
        assertThat(kinds("ticket-desk"))
                .containsExactly(
                        "firmware-staged",
                        "staged-lost",
                        "start-seen",
                        "firmware-staged",
                        "firmware-updated",
                        "start-seen");
    }

    /** The film loop mended with the keyboard alone. */
    @Test
    void theKeyboardAloneMendsTheFilmLoop() {
        begin();
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.see("go-field");
        hand.type("film order");
        hand.until(
                "what was typed is there",
                () -> ((TextField) hand.see("go-field")).getText().equals("film order"));
        hand.holdLong(KeyCode.ENTER);
        hand.untilPageSays("never: no source");
        hand.tabTo("add-nvme");
        hand.press(KeyCode.SPACE);
        hand.until("the rung is there", () -> hand.text("order-value").contains("0xf641"));
        hand.press(KeyCode.ALT, KeyCode.UP);
        hand.press(KeyCode.ALT, KeyCode.UP);
        hand.until("NVMe is first", () -> hand.text("order-value").contains("0xf416"));
        hand.tabTo("stage-order");
        hand.press(KeyCode.SPACE);
        hand.untilPageSays("staged: takes effect at the next restart");
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        hand.tabTo("restart");
        hand.press(KeyCode.SPACE);
        hand.untilPageSays("Never: no root.");
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.tabTo("root-by-id");
        hand.press(KeyCode.SPACE);
        hand.tabTo("apply");
        hand.press(KeyCode.SPACE);
        hand.until("the edit is made", () -> kinds("film-loop").contains("first-start-edited"));
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        hand.until("it runs", () -> hand.text("outcome").startsWith("Running after"));
        assertThat(kinds("film-loop"))
                .containsExactly("order-staged", "order-changed", "start-failed", "first-start-edited");
    }

    @Test
    void keysChartAndTextSize() {
        begin();
        hand.press(KeyCode.F1);
        hand.untilPageSays("shape first, colour second");
        hand.press(KeyCode.ESCAPE);
        hand.until("the sheet is gone", () -> stage.getScene().getRoot().lookup("#keys-close") == null);
        hand.press(KeyCode.CONTROL, KeyCode.N);
        hand.until(
                "it is night", () -> stage.getScene().getRoot().getStyleClass().contains("night"));
        hand.untilKept("the night is kept", () -> workbench.rules().nightChart());
        hand.press(KeyCode.CONTROL, KeyCode.N);
        hand.until(
                "it is day", () -> !stage.getScene().getRoot().getStyleClass().contains("night"));
        hand.press(KeyCode.CONTROL, KeyCode.EQUALS);
        hand.untilKept("larger text is kept", () -> workbench.rules().textSize() == 110);
        hand.press(KeyCode.CONTROL, KeyCode.DIGIT0);
        hand.untilKept("usual text is kept", () -> workbench.rules().textSize() == 100);
    }

    @Test
    void aNewBoardIsPutInTheRegister() {
        begin();
        hand.click("new-board");
        hand.see("board-name");
        hand.click("form-deed");
        hand.until("the missing name is said", () -> hand.text("form-problem").contains("name"));
        hand.click("board-name");
        hand.type("lamp room");
        hand.press(KeyCode.TAB);
        hand.type("loft");
        Hand.on(() -> this.<String>box("board-profile").setValue("plover-5"));
        hand.click("form-deed");
        hand.until("its page is open", () -> hand.page().contains("Saltmarsh plover-5, 4 GB"));
        assertThat(workbench.workspace().boards().all()).extracting("id").contains("lamp-room");
        hand.see("roster-lamp-room");
    }

    @Test
    void houseRulesCountAtOnce() {
        begin();
        hand.click("roster-rules");
        hand.see("rule-copy-days");
        Hand.on(() -> this.<Integer>box("rule-copy-days").setValue(60));
        hand.click("rule-real-drives");
        hand.untilKept("the switch is kept", () -> workbench.rules().realDrives());
        hand.press(KeyCode.CONTROL, KeyCode.D);
        hand.until("no copy is due", () -> cell("ticket-desk", Step.COPIES).contains("Copies: proven"));
    }

    /** Moving a slider moves the picture, and what was set is kept with the board. */
    @Test
    void theRoleIsMovedWithTheKeysAndKept() {
        begin();
        hand.click("cell-wave-tank-storage");
        hand.see("role-daily");
        Hand.on(() -> hand.see("role-years").requestFocus());
        hand.press(KeyCode.RIGHT);
        hand.press(KeyCode.RIGHT);
        hand.until(
                "the years are shown",
                () -> hand.page().contains("7 years") || hand.page().contains("6 years"));
        hand.click("role-quick");
        hand.click("storage-shops");
        hand.untilPageSays("short NVMe 256");
        for (String view : List.of("view-price", "view-beside", "view-working", "view-scale")) {
            hand.click(view);
        }
        hand.until("it is kept", () -> workbench
                .workspace()
                .roles()
                .of("wave-tank")
                .filter(role -> role.quickStart())
                .isPresent());
        hand.press(KeyCode.CONTROL, KeyCode.D);
        hand.click("cell-wave-tank-storage");
        hand.until("it is still so", () -> ((javafx.scene.control.CheckBox) hand.see("role-quick")).isSelected());
    }

    @Test
    void aMediumIsLabelledLentAndBack() {
        begin();
        hand.click("roster-media");
        hand.click("medium-spare-ssd-240");
        Hand.on(() -> ((TextField) hand.see("medium-label")).setText("Blue"));
        hand.click("set-label");
        hand.until("it is called so", () -> workbench
                .workspace()
                .media()
                .details("spare-ssd-240")
                .label()
                .equals("Blue"));
        Hand.on(() -> ((TextField) hand.see("medium-note")).setText("the harbour"));
        hand.untilPageSays("Kelpline 240  Blue");
        Hand.on(() -> assertThat(((TextField) hand.see("medium-note")).getText())
                .as("typed while the drawer was read anew")
                .isEqualTo("the harbour"));
        hand.click("lend");
        hand.untilPageSays("lent to the harbour");
        hand.click("back");
        hand.until("it is here", () -> stage.getScene().getRoot().lookup("#lend") != null);
        hand.click("media-labels");
        hand.until(
                "the sheet is there",
                () -> Files.exists(workbench.workspace().folder().resolve("labels.pdf")));
        hand.click("roster-storage_plan");
        hand.untilPageSays("gets Kelpline 240 from the drawer");
    }

    /** At 1280x800 nothing is cut off in any view; texts that may be long say the rest on hover. */
    @Test
    void anImageIsLaidOpenAndAFileCopiedOutByTheKeyboard() {
        begin();
        Hand.on(() -> house.navigation().go(Place.Shelf.IMAGES));
        hand.see("shelf-list");
        hand.tabTo("shelf-list");
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.ENTER);
        hand.until(
                "the files are listed",
                () -> ((ListView<?>) hand.see("inside-files")).getItems().size() > 3);
        hand.until(
                "a text is shown",
                () -> ((TextArea) hand.see("inside-text")).getText().contains("root="));
        hand.click("inside-copy");
        hand.until(
                "it is copied",
                () -> ((TextArea) hand.see("inside-text")).getText().startsWith("It is in"));
        assertThat(house.workbench().folder().resolve("files")).isNotEmptyDirectory();
        hand.press(KeyCode.ESCAPE);
        Hand.on(() -> house.navigation().go(Place.Shelf.MEDIA));
        hand.click("medium-tide-clock-card");
        hand.click("medium-inside");
        hand.until(
                "the drive's files are listed",
                () -> ((ListView<?>) hand.see("inside-files")).getItems().size() > 3);
        ComboBox<OpenedSource.Subject> beside = box("inside-beside");
        hand.until(
                "there is something to hold it against", () -> beside.getItems().size() > 10);
        Hand.on(() -> beside.setValue(beside.getItems().get(0)));
        hand.until(
                "what differs is told",
                () -> ((TextArea) hand.see("inside-text")).getText().contains("pieces of 64 KiB"));
        hand.press(KeyCode.ESCAPE);
    }

    @Test
    void ofAnArchiveWithSeveralImagesOneIsChosen() throws IOException {
        Path archive = house.workbench().folder().resolve("both.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive))) {
            for (String name : List.of("lite.img", "full.img")) {
                zip.putNextEntry(new ZipEntry(name));
                zip.write(new byte[8192]);
            }
        }
        begin();
        Hand.on(() -> house.navigation().go(Place.Form.SHELVE_IMAGE));
        hand.see("image-file");
        assertThat(stage.getScene().getRoot().lookup("#image-which").isVisible())
                .isFalse();
        Hand.on(() -> ((TextField) hand.see("image-file")).setText(archive.toString()));
        hand.click("form-deed");
        hand.until("the choice is offered", () -> hand.text("form-problem").contains("holds 2 images"));
        Hand.on(() -> this.<String>box("image-which").setValue("full.img"));
        hand.click("form-deed");
        hand.until(
                "it is on the shelf",
                () -> Files.exists(house.workbench().images().resolve("full.img")));
    }

    @Test
    void aDriveIsPutThroughOnlyWhenItIsNamed() {
        begin();
        Hand.on(() -> house.navigation().go(Place.Shelf.MEDIA));
        hand.click("medium-spare-card-16");
        hand.see("prove-quick");
        assertThat(hand.see("prove-quick").isDisabled()).isTrue();
        hand.click("drive-confirm");
        hand.type("spare-card-16.img");
        hand.click("grow-drive");
        hand.until("it is told", () -> hand.text("drive-told").contains("Partition 2 grows"));
        hand.click("clear-drive");
        hand.until("it is cleared", () -> hand.text("drive-told").contains("is cleared"));
    }

    private void everyButtonHasWords(String where) {
        Hand.on(() -> {
            for (Node node : Hand.all(stage.getScene().getRoot())) {
                if (node instanceof Button button && button.isFocusTraversable()) {
                    assertThat(says(button.getText()) || says(button.getAccessibleText()))
                            .as(where + " " + button.getId() + " " + button.getStyleClass())
                            .isTrue();
                }
            }
        });
    }

    @Test
    void nothingIsCutOffAnywhereAndEveryControlHasWords() {
        begin();
        for (String board : List.of(
                "film-loop", "mast-webcam", "door-counter", "store-room-spare", "engine-room-sound", "slipway-lamp")) {
            for (Step step : Step.values()) {
                Hand.on(() -> house.navigation().go(new Place.Station(board, step)));
                hand.until("the station is open", () -> {
                    Node stop = stage.getScene().getRoot().lookup("#stop-" + step.code());
                    Node name = stage.getScene().getRoot().lookup(".title");
                    return stop != null
                            && stop.getStyleClass().contains("here")
                            && hand.see("station-" + step.code()).isVisible()
                            && name instanceof Labeled title
                            && title.getText()
                                    .equals(house.facts()
                                            .sheetProperty()
                                            .get()
                                            .board(board)
                                            .name());
                });
                assertThat(hand.cutTexts()).as(board + " " + step).isEmpty();
                everyButtonHasWords(board + " " + step);
            }
        }
        for (Place.Shelf shelf : Place.Shelf.values()) {
            Hand.on(() -> house.navigation().go(shelf));
            hand.untilPageSays(shelf.title());
            assertThat(hand.cutTexts()).as(shelf.title()).isEmpty();
            everyButtonHasWords(shelf.title());
        }
        Hand.on(() -> house.navigation().go(new Place.Sheet()));
        hand.see("row-tide-clock");
        assertThat(hand.cutTexts()).as("day sheet").isEmpty();
        for (Place.Form form : Place.Form.values()) {
            formIsWhole(form);
        }
        for (Place.BoardForm.FormKind kind : Place.BoardForm.FormKind.values()) {
            formIsWhole(new Place.BoardForm("slipway-lamp", kind));
        }
    }

    /** Nothing of a form is cut off, and each of its buttons says what it does. */
    private void formIsWhole(Place form) {
        Hand.on(() -> house.navigation().go(form));
        hand.see("form-cancel");
        hand.isWhole(".overlay", form.toString());
        hand.click("form-cancel");
        hand.until("it is left", () -> stage.getScene().getRoot().lookup(".overlay") == null);
    }

    /** Every control that can be reached says what it is to those who hear the window. */
    private static boolean says(String text) {
        return text != null && !text.isBlank();
    }
}
