// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.DiskBuilder;
import exordium.desktop.draw.bench.NetworkPicture;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.network.NetworkJob;
import exordium.jobs.network.NetworkKit;
import exordium.jobs.shelf.Intake;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import javafx.scene.control.CheckBox;
import org.junit.jupiter.api.Test;

/** A network start in the window: from the empty page over its plan to a kit, a fault that is played, and what is seen of it. */
class NetworkWindowTest extends WindowCase {

    @Override
    Workbench furnish() throws IOException {
        workbench = DemoHouse.empty(own, Clock.systemUTC());
        Path image = new DiskBuilder(own).build("system.img");
        new BoardRegister(workbench).add(board());
        new Intake(workbench).image(image, Optional.empty(), exordium.core.block.TransferWatch.NONE);
        return workbench;
    }

    /** One whose serial and hardware address are known. */
    private static BoardRegister.Description board() {
        return new BoardRegister.Description(
                Optional.of("attic"),
                Optional.empty(),
                Optional.of("plover-4"),
                Optional.of("1 GB"),
                Optional.empty(),
                Optional.empty(),
                Optional.of("0000abcd"),
                Optional.of("02:00:5e:10:00:07"),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    private String picture() {
        return stage.getScene().getRoot().lookupAll(".figure-drawing").stream()
                .filter(NetworkPicture.class::isInstance)
                .map(node -> node.getAccessibleText())
                .findFirst()
                .orElse("");
    }

    @Test
    void aKitIsPlannedMadeAndTried() throws IOException {
        ready();
        hand.click("roster-network");
        hand.click("empty-begin");
        hand.fill("network-address", "rubbish");
        hand.click("form-deed");
        hand.until(
                "it is said what is wrong",
                () -> !house.reading().problemProperty().get().isEmpty());
        hand.fill("network-address", "192.168.40.2");
        Hand.on(() -> ((CheckBox) stage.getScene().lookup("#network-board-attic")).setSelected(true));
        hand.click("form-deed");
        hand.until(
                "the kit is made",
                () -> picture().contains("attic") && picture().contains("comes up"));
        NetworkKit kit = NetworkKit.of(workbench);
        assertThat(kit.plan().clients()).hasSize(1);
        assertThat(Files.readString(kit.folder().resolve("STEPS.txt"))).contains("192.168.40.2");

        new NetworkJob(workbench, kit).play("no-export", Optional.empty());
        Hand.on(() -> house.facts().refresh());
        hand.until("the fault is seen", () -> picture().contains("does not come up"));
        new NetworkJob(workbench, kit).play("none", Optional.empty());
    }
}
