// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.access.CarrierKind;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Step;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.desktop.desk.Place;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.shelf.Intake;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/**
 * The First start station on a board of one's own: what is typed stands on the drive, is taken back, edited by hand, explained,
 * and several cards come of one image. The drives are looked at with mtools and debugfs.
 */
class FirstStartWindowTest extends WindowCase {
    private static final long FAT = 4 * DiskBuilder.MIB;

    @Override
    Workbench furnish() throws IOException {
        workbench = DemoHouse.empty(own);
        Path image = new DiskBuilder(own)
                .start("config.txt", "enable_uart=1\n")
                .root("etc/hostname", "marsh\n")
                .root("etc/ssh/ssh_host_ed25519_key", "secret\n")
                .build("marsh.img");
        new Intake(workbench).image(image, TransferWatch.NONE);
        for (String name : List.of("clock", "door", "lamp")) {
            drive(name, image);
        }
        new BoardRegister(workbench).add(BoardRegister.Description.of("Clock", "plover-4", "4 GB"));
        Media.Medium card = workbench.workspace().media().byFile("clock.img").orElseThrow();
        new BoardJobs(workbench, new BenchReader(workbench))
                .plug(workbench.board("clock"), "card", card, CarrierKind.ANNOUNCING);
        return workbench;
    }

    private void drive(String name, Path image) throws IOException {
        ByteSize size = ByteSize.of(96 * DiskBuilder.MIB);
        Path file = workbench.drives().resolve(name + ".img");
        VirtualDrive.create(workbench.reader(), file, DriveDescription.plain(name, "sd", size));
        if (name.equals("clock")) {
            Files.copy(image, file, StandardCopyOption.REPLACE_EXISTING);
            GeneralTools.run("truncate", "-s", String.valueOf(size.bytes()), file.toString());
        }
        workbench
                .workspace()
                .media()
                .add(new Media.Medium(
                        name, name, "card-quick", "", size, name + ".img", Optional.empty(), ByteSize.ZERO, "drawer"));
    }

    private void begin() {
        ready();
        Hand.on(() -> house.navigation().go(new Place.Station("clock", Step.FIRST_START)));
        hand.see("host-name");
    }

    private String start(String drive, String file) {
        return GeneralTools.said("mtype", "-i", workbench.driveFile(drive + ".img") + "@@" + FAT, "::" + file);
    }

    private String root(String drive, String request) {
        return GeneralTools.said(
                "debugfs", "-R", request, workbench.driveFile(drive + ".img") + "?offset=" + 44 * DiskBuilder.MIB);
    }

    private List<String> kinds() {
        return workbench.workspace().log().all().stream()
                .map(each -> each.kind())
                .toList();
    }

    private void choose(String view) {
        Hand.on(() -> ((ToggleButton) hand.see(view)).fire());
    }

    @Test
    void whatIsTypedIsPutOnTheMediumAndTakenBack() throws IOException {
        begin();
        hand.tabTo("host-name");
        hand.type("tide-clock");
        hand.until(
                "what was typed is there",
                () -> ((TextField) hand.see("host-name")).getText().equals("tide-clock"));
        hand.untilPageSays("/etc/hostname");
        hand.tabTo("login");
        hand.press(KeyCode.SPACE);
        hand.until(
                "it may be put on it",
                () -> ((Button) hand.see("apply")).getText().equals("Put this on clock"));
        hand.tabTo("apply");
        hand.press(KeyCode.SPACE);
        hand.untilKept("it is set up", () -> kinds().contains("first-start-edited"));
        assertThat(root("clock", "cat /etc/hostname")).contains("tide-clock");
        assertThat(start("clock", "ssh")).doesNotContain("not found");
        hand.until("it can be taken back", () -> hand.see("undo").isVisible());
        hand.tabTo("undo");
        hand.press(KeyCode.SPACE);
        hand.untilKept("it is taken back", () -> kinds().contains("first-start-undone"));
        assertThat(root("clock", "cat /etc/hostname")).contains("marsh");
        assertThat(start("clock", "ssh")).contains("not found");
    }

    @Test
    void aFileIsEditedByHandAndMendedAtItsLine() throws IOException {
        begin();
        choose("first-start-files");
        hand.until(
                "the settings are open",
                () -> ((TextArea) hand.see("file-text")).getText().equals("enable_uart=1\n"));
        Hand.on(() -> ((TextArea) hand.see("file-text")).setText("enable_uart=1\n[all\n"));
        hand.untilPageSays("is not closed");
        Hand.on(() -> Hand.all(stage.getScene().getRoot()).stream()
                .filter(node -> node instanceof Button button && "Close it".equals(button.getText()))
                .map(Button.class::cast)
                .findFirst()
                .orElseThrow()
                .fire());
        hand.untilPageSays("Nothing is wrong with config.txt.");
        Hand.on(() -> ((Button) hand.see("save-file")).fire());
        hand.untilKept("it is on the medium", () -> kinds().contains("first-start-edited"));
        assertThat(start("clock", "config.txt")).isEqualTo("enable_uart=1\n[all]\n");
    }

    @Test
    void whatIsSeenIsExplainedAndItsMendIsWanted() {
        begin();
        choose("first-start-trouble");
        hand.untilPageSays("Remote login is off");
        Hand.on(() -> ((Button) hand.see("mend-1")).fire());
        hand.until(
                "the mend is wanted",
                () -> ((Button) hand.see("apply")).getText().startsWith("Put this on"));
        choose("first-start-reach");
        hand.untilPageSays("It will not be reached");
        Hand.on(() -> ((Button) hand.see("reach-sheet")).fire());
        hand.untilKept(
                "the sheet is there",
                () -> Files.isRegularFile(workbench.folder().resolve("reports/first-start-clock.pdf")));
    }

    @Test
    void severalCardsComeOfOneImageEachItsOwn() throws IOException {
        begin();
        choose("first-start-batch");
        hand.see("batch-begin");
        for (int i = 1; i <= 2; i++) {
            String name = i == 1 ? "door" : "lamp";
            String number = String.valueOf(i);
            Hand.on(() -> {
                @SuppressWarnings("unchecked")
                ComboBox<exordium.jobs.bench.Targets.Target> box =
                        (ComboBox<exordium.jobs.bench.Targets.Target>) hand.see("batch-target-" + number);
                box.setValue(box.getItems().stream()
                        .filter(each -> each.description().id().startsWith(name))
                        .findFirst()
                        .orElseThrow());
                ((TextField) hand.see("batch-host-name-" + number)).setText("board-" + name);
                ((TextField) hand.see("batch-typed-" + number))
                        .setText(box.getValue().description().id());
            });
        }
        hand.until("it may begin", () -> !hand.see("batch-begin").isDisabled());
        Hand.on(() -> ((Button) hand.see("batch-begin")).fire());
        hand.untilKept(
                "both are set up",
                () -> kinds().stream().filter("first-start-edited"::equals).count() == 2);
        hand.until(
                "both are told ready",
                () -> Hand.all(stage.getScene().getRoot()).stream()
                                .filter(node -> node instanceof Label label
                                        && label.getText() != null
                                        && label.getText().startsWith("ready, disk"))
                                .count()
                        == 2);
        assertThat(root("door", "cat /etc/hostname")).contains("board-door");
        assertThat(root("lamp", "cat /etc/hostname")).contains("board-lamp");
        assertThat(root("lamp", "ls /etc/ssh")).doesNotContain("ssh_host_");
        assertThat(start("door", "cmdline.txt")).isNotEqualTo(start("lamp", "cmdline.txt"));
    }
}
