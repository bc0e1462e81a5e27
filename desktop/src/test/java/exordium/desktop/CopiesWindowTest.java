// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.copies.schedule.Retention;
import exordium.core.filesystem.FileEntry;
import exordium.core.finding.Step;
import exordium.desktop.board.image.ImageSource;
import exordium.desktop.desk.Place;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.care.CareJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.control.Button;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The copies of a board in the window: a restore tried, a file taken out of one, and those that no rule keeps taken out. */
class CopiesWindowTest extends WindowCase {
    private static final String BOARD = "door-counter";

    @Override
    Workbench furnish() throws IOException {
        workbench = DemoHouse.open(own);
        // Quicker than any eMMC: long enough to see its soundings, short enough for a test.
        Path description = workbench.driveFile(BOARD + "-emmc.img.drive.yaml");
        Files.writeString(description, Files.readString(description).replace("readRate: 5.0E7", "readRate: 4.0E8"));
        assertThat(Files.readString(description)).contains("4.0E8");
        return workbench;
    }

    /** What is wrong with a folder is one sentence; what moving takes is said before it is done; afterwards the rules show the place. */
    @Test
    void theVaultIsTakenToAnotherFolder() throws IOException {
        ready();
        Hand.on(() -> house.navigation().go(Place.Shelf.RULES));
        hand.until("the place is shown", () -> hand.text("vault-where").equals("in the workspace"));
        hand.click("rule-vault");
        hand.until("where it lies is said", () -> hand.text("vault-words").contains("Now it lies in"));
        hand.fill("vault-folder", own.resolve("no/such").toString());
        hand.click("form-deed");
        hand.until("why not is said", () -> hand.text("form-problem").contains("There is no folder"));
        Path share = own.resolve("share");
        hand.fill("vault-folder", share.toString());
        hand.click("form-deed");
        hand.until("what it takes is said", () -> hand.text("vault-words").contains("are copied to " + share));
        assertThat(share).doesNotExist();
        int copies = workbench.workspace().copies().all().size();
        hand.click("form-deed");
        hand.untilKept("it lies there", () -> workbench.vault().equals(share));
        hand.until("the rules show it", () -> hand.text("vault-where").equals(share.toString()));
        assertThat(workbench.workspace().copies().all())
                .hasSize(copies)
                .allMatch(each -> Files.isRegularFile(share.resolve(each.file())));
    }

    @Test
    void copiesAreTriedLookedIntoAndTakenOut() throws IOException {
        ready();
        Hand.on(() -> house.navigation().go(new Place.Station(BOARD, Step.COPIES)));
        hand.until("its copies are there", () -> stage.getScene().lookup("#drill") != null);
        hand.click("drill");
        hand.untilKept("the restore was tried", () -> workbench.workspace().log().all().stream()
                .anyMatch(entry -> entry.kind().equals("drill-passed")));

        hand.until("the drill is over", () -> !house.jobs().any());
        hand.click("copy");
        hand.until("its soundings are shown", () -> stage.getScene().lookup("#copy-soundings") != null);
        hand.untilKept(
                "it is copied", () -> workbench.workspace().copies().of(BOARD).size() == 2);
        long made = workbench.workspace().copies().of(BOARD).get(1).id();
        hand.until(
                "it is among the generations",
                () -> stage.getScene().lookup("#copy-soundings") == null
                        && stage.getScene().lookup("#put-back-" + made) != null);

        hand.click("copies-view-1");
        hand.until("the copy is open", () -> shows("etc"));
        hand.tabTo("files-path");
        hand.fill("files-path", "/etc/");
        hand.press(KeyCode.ENTER);
        hand.until("the folder is open", () -> shows("hostname"));
        Hand.on(() -> entries().getItems().stream()
                .filter(entry -> entry.name().equals("hostname"))
                .findFirst()
                .ifPresent(entry -> entries().getSelectionModel().select(entry)));
        Path out = own.resolve("hostname");
        hand.fill("files-to", out.toString());
        hand.click("files-out");
        hand.untilKept(
                "the file is there",
                () -> Files.exists(out) && Files.readString(out).contains("gannet-point"));

        // A rule that keeps one, and a second copy: the first goes, when it is asked for twice.
        Hand.on(() -> {
            workbench.rules().retention(new Retention(1, 0, 0, 0));
            house.facts().refresh();
        });
        Hand.on(() -> house.navigation().go(new Place.Station("ticket-desk", Step.COPIES)));
        hand.until("what goes can be taken out", () -> stage.getScene().lookup("#prune") != null);
        int before = workbench.workspace().copies().of("ticket-desk").size();
        hand.click("prune");
        hand.until(
                "it asks once more",
                () -> ((Button) stage.getScene().lookup("#prune")).getText().contains("for good"));
        assertThat(workbench.workspace().copies().of("ticket-desk")).hasSize(before);
        hand.click("prune");
        hand.untilKept(
                "only the newest is kept",
                () -> workbench.workspace().copies().of("ticket-desk").size() == 1);
    }

    @Test
    @SuppressWarnings("unchecked")
    void whatChangedIsSaidWhatACopyAsksForIsKeptAndItGoesBack() {
        ready();
        Hand.on(() -> house.navigation().go(new Place.Station("tide-clock", Step.COPIES)));
        hand.until("its copies are there", () -> stage.getScene().lookup("#put-back-1") != null);

        hand.click("copies-view-2");
        hand.see("changes-since");
        Hand.on(() -> hand.box("changes-since").getSelectionModel().select(1));
        hand.click("compare");
        hand.until("it is compared", () -> hand.page().contains("1 gone"));
        assertThat(((ListView<String>) stage.getScene().lookup("#changes-files")).getItems())
                .singleElement()
                .asString()
                .contains("keeper.txt");

        hand.click("copies-view-3");
        hand.fill("care-quiet", "whenever");
        hand.click("care-keep");
        hand.until(
                "it is refused in a sentence",
                () -> house.reading().problemProperty().get().contains("whenever"));
        hand.fill("care-quiet", "sun 10:00-12:00");
        hand.fill("care-stop", "the clock's motor");
        hand.click("care-keep");
        hand.untilKept(
                "it is kept",
                () -> new CareJob(workbench).of("tide-clock").stopFirst().equals("the clock's motor"));
        hand.until("it is said beside", () -> hand.page().contains("Stop first: the clock's motor"));

        hand.click("copies-view-0");
        hand.until("its copies are there again", () -> stage.getScene().lookup("#put-back-1") != null);
        hand.click("put-back-1");
        hand.until(
                "the oldest copy is chosen at the image station",
                () -> stage.getScene().lookup("#image") != null
                        && hand.<ImageSource>box("image").getValue() != null
                        && hand.<ImageSource>box("image").getValue().title().equals("copy of 2026-09-11"));
        assertThat(stage.getScene().lookup("#own-identity")).isNotNull();
    }

    private boolean shows(String name) {
        return entries() != null
                && entries().getItems().stream().anyMatch(entry -> entry.name().equals(name));
    }

    @SuppressWarnings("unchecked")
    private ListView<FileEntry> entries() {
        return (ListView<FileEntry>) stage.getScene().lookup("#files-entries");
    }
}
