// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.finding.Step;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.layout.PartitionTable;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.multiboot.StartSets;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.strip.LayoutPicture;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.multiboot.SetsJob;
import exordium.store.Images;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** Start sets and drives with several systems in the window. */
class SeveralSystemsTest extends WindowCase {
    private static final String BOARD = "wave-tank";
    private static final String DRIVE = "spare-ssd-240.img";

    @Override
    Workbench furnish() throws IOException {
        return DemoHouse.open(own);
    }

    private StartSets sets() throws IOException {
        return new SetsJob(workbench, new BenchReader(workbench)).of(BOARD);
    }

    private String order() throws IOException {
        return workbench
                .board(BOARD)
                .board()
                .chip()
                .config()
                .value("BOOT_ORDER")
                .orElse("");
    }

    @Test
    void aSetIsTriedOnceFallsBackAndAnotherIsKept() throws IOException {
        ready();
        Hand.on(() -> house.navigation().go(new Place.Station(BOARD, Step.ORDER)));
        hand.click("order-view-1");
        hand.click("set-once-old-spare");
        hand.untilKept("it is staged for one start", () -> sets().fallback().isPresent());
        hand.until("the way back is offered", () -> stage.getScene().lookup("#set-back") != null);
        hand.click("restart");
        hand.untilKept("it runs by that order", () -> order().equals("0xf461"));
        hand.untilKept(
                "what was before is staged again", () -> sets().fallback().isEmpty());
        hand.until("nothing is tried any more", () -> stage.getScene().lookup("#set-back") == null);
        hand.click("restart");
        hand.untilKept("it is as it was", () -> order().equals("0xf416"));

        // In a low window the form is below its room; wherever the keys go, it is seen.
        double tall = stage.getHeight();
        Hand.on(() -> {
            stage.setWidth(stage.getWidth());
            stage.setHeight(600);
        });
        hand.until("the form is out of sight", () -> foot("#set-port-usb2") > top("#restart"));
        hand.tabTo("set-port-usb2");
        hand.press(KeyCode.SHIFT);
        hand.until("it is in its room", () -> foot("#set-port-usb2") <= top("#restart"));
        Hand.on(() -> stage.setHeight(tall));
        hand.fill("set-name", "Night watch");
        hand.click("set-keep");
        hand.untilKept("it is among the sets", () -> sets().sets().stream()
                .anyMatch(
                        each -> each.name().equals("night-watch") && each.said().equals("Night watch")));
        hand.click("set-forget-night-watch");
        hand.untilKept("it is forgotten", () -> sets().sets().size() == 3);
    }

    @Test
    void aFirmwareCardIsMadeOfTheArchiveThatIsPublished() throws IOException {
        ready();
        Path archive = own.resolve("uefi.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive))) {
            for (String name : List.of("uefi-7/DUNLIN.fd", "uefi-7/Readme.md")) {
                zip.putNextEntry(new ZipEntry(name));
                zip.write('x');
            }
        }
        Hand.on(() -> house.navigation().go(new Place.Station("rescue-map-table", Step.FIRMWARE)));
        hand.click("firmware-view-1");
        hand.fill("firmware-archive", archive.toString());
        hand.click("firmware-look");
        this.<Targets.Target>choose(
                "firmware-card-target", each -> each.description().id().equals("spare-card-16.img"));
        hand.fill("firmware-card-confirm", "spare-card-16.img");
        hand.click("make-firmware-card");
        hand.untilKept(
                "it is made and read back",
                () -> workbench.records().lastWords().contains("spare-card-16.img")
                        && !house.jobs().any());
        try (FileDevice device = FileDevice.forReading(workbench.driveFile("spare-card-16.img"))) {
            assertThat(Inspector.inspect(device)
                            .partitions()
                            .get(0)
                            .fileSystem()
                            .label())
                    .isEqualTo("FIRMWARE");
        }
    }

    private double foot(String id) {
        Node node = stage.getScene().lookup(id);
        return node.localToScene(node.getBoundsInLocal()).getMaxY();
    }

    private double top(String id) {
        return stage.getScene().lookup(id).localToScene(0, 0).getY();
    }

    private <T> void choose(String id, java.util.function.Predicate<T> which) {
        Hand.on(() -> {
            @SuppressWarnings("unchecked")
            ComboBox<T> box = (ComboBox<T>) hand.see(id);
            box.getItems().stream().filter(which).findFirst().ifPresent(box::setValue);
        });
    }

    @Test
    void twoSystemsAreDrawnToScaleAndWrittenOnlyToTheDriveThatIsNamed() throws IOException {
        ready();
        Hand.on(() -> house.navigation().go(Place.Shelf.IMAGES));
        hand.click("open-form-1");
        hand.until("the form is open", () -> stage.getScene().lookup("#layout-drive") != null);
        this.<Targets.Target>choose(
                "layout-drive", each -> each.description().id().equals(DRIVE));
        for (int i = 0; i < 2; i++) {
            this.<Images.Image>choose("layout-image-" + i, each -> each.id().startsWith("fenix"));
            hand.fill("layout-size-" + i, "1 GB");
        }
        hand.fill("layout-data", "a lot");
        hand.click("form-deed");
        hand.until(
                "it is said that this is no size",
                () -> !house.reading().problemProperty().get().isEmpty());
        hand.fill("layout-data", "");
        hand.until("it is drawn", () -> stage.getScene().getRoot().lookupAll(".figure-drawing").stream()
                .anyMatch(each -> each instanceof LayoutPicture
                        && each.getAccessibleText().contains("everyday 1.00 GB, trial 1.00 GB")));
        hand.fill("layout-confirm", "another.img");
        hand.click("form-deed");
        hand.until(
                "it is not its name",
                () -> house.reading().problemProperty().get().contains(DRIVE));
        hand.fill("layout-confirm", DRIVE);
        hand.click("form-deed");
        hand.until("it is begun", () -> stage.getScene().lookup("#layout-drive") == null);
        hand.untilKept(
                "it is written and each starts",
                () -> workbench.records().lastWords().contains(DRIVE)
                        && !house.jobs().any());
        try (FileDevice device = FileDevice.forReading(workbench.driveFile(DRIVE))) {
            DriveInspection inspection = Inspector.inspect(device);
            assertThat(inspection.partitions()).hasSize(3);
            assertThat(inspection.table().kind()).isEqualTo(PartitionTable.TableKind.MBR);
        }
        assertThat(house.reading().problemProperty().get()).contains("everyday starts by the menu");
    }

    @Test
    void systemsByEntriesLeaveAStoreOfThem() throws IOException {
        ready();
        Hand.on(() -> house.navigation().go(Place.Form.SEVERAL_SYSTEMS));
        hand.until("the form is open", () -> stage.getScene().lookup("#layout-drive") != null);
        this.<BoardProfile>choose("layout-family", each -> each.id().equals("dunlin-u"));
        this.<LayoutPlan.Choose>choose("layout-choose", LayoutPlan.Choose.ENTRIES::equals);
        this.<Targets.Target>choose(
                "layout-drive", each -> each.description().id().equals(DRIVE));
        for (int i = 0; i < 2; i++) {
            this.<Images.Image>choose("layout-image-" + i, each -> each.id().startsWith("dunlin"));
            hand.fill("layout-size-" + i, "1 GB");
        }
        hand.fill("layout-confirm", DRIVE);
        hand.click("form-deed");
        hand.untilKept(
                "they are written and each starts",
                () -> house.reading().problemProperty().get().contains("everyday starts by its entry"));
        Path store = workbench.folder().resolve("files").resolve(DRIVE + "-variables.fd");
        EfiVariables kept = EfiStore.parse(Files.readAllBytes(store));
        assertThat(kept.order())
                .extracting(number -> kept.entries().get(number).title())
                .containsExactly("everyday", "trial");
    }
}
