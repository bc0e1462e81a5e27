// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.shelf.Intake;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import javafx.scene.control.CheckBox;
import org.junit.jupiter.api.Test;

/**
 * A card that is in no register, written where its board is: it is taken in with the write, the port it goes into is the next step, and its
 * first start is set up while it is still in this machine. A loop device of this test's own; compared by cmp(1), read by mtools.
 */
class NewCardTest extends WindowCase {
    private Path backing;
    private Path image;
    private String loop = "";

    @Override
    Workbench furnish() throws IOException {
        backing = own.resolve("card");
        DiskBuilder.blank(backing, 200 * DiskBuilder.MIB);
        if (GeneralTools.exitOf("losetup", "-f") == 0) {
            loop = GeneralTools.run("losetup", "-f", "--show", backing.toString())
                    .strip()
                    .substring("/dev/".length());
        }
        workbench = DemoHouse.empty(own, Clock.systemUTC());
        image = new DiskBuilder(own).id("0c4d0c4e").build("system.img");
        new Intake(workbench).image(image, TransferWatch.NONE);
        new BoardRegister(workbench).add(BoardRegister.Description.of("Attic", "plover-4", "4 GB"));
        return workbench;
    }

    @Override
    void closed() {
        if (!loop.isEmpty()) {
            GeneralTools.exitOf("losetup", "-d", "/dev/" + loop);
        }
    }

    private List<String> kinds() {
        return workbench.records().log().stream().map(each -> each.kind()).toList();
    }

    @Test
    void aNewCardIsTakenInWrittenPluggedAndSetUp() throws IOException {
        Needs.here(!loop.isEmpty(), "no loop devices here");
        ready();
        hand.click("roster-attic");
        hand.click("stop-image");
        // A house rule refuses it, and is changed at the place.
        hand.see("target");
        hand.until(
                "the drives are there",
                () -> Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                        .anyMatch(each -> each.description().id().equals(loop))));
        Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                .filter(each -> each.description().id().equals(loop))
                .findFirst()
                .ifPresent(hand.<Targets.Target>box("target")::setValue));
        hand.click("allow-real-drives");
        hand.until("the card is offered", () -> hand.page().contains("taken into the register with this write"));
        hand.fill("newcomer-name", "Attic card");
        hand.click("confirm");
        hand.type(loop);
        hand.until("it may be written", () -> !hand.see("write").isDisabled());
        hand.click("write");
        hand.until(
                "it is written and read back", () -> hand.text("report-verdict").equals("verified"));
        assertThat(GeneralTools.exitOf(
                        "cmp", "-n", String.valueOf(Files.size(image)), image.toString(), backing.toString()))
                .isZero();
        Media.Medium card = workbench.records().media().get(0);
        assertThat(card.name()).isEqualTo("Attic card");
        assertThat(card.written().bytes()).isGreaterThanOrEqualTo(Files.size(image));
        assertThat(workbench.workspace().operations().lastWrites()).containsKey(card.id());
        hand.click("next-port-card");
        hand.see("login");
        hand.until("its card was looked through", () -> hand.page().contains("remote login is off"));
        assertThat(workbench.board("attic").board().attached())
                .singleElement()
                .satisfies(plug -> assertThat(plug.drive()).isEqualTo(card.file()));
        Hand.on(() -> ((CheckBox) hand.see("login")).fire());
        hand.until("it may be set up", () -> !hand.see("apply").isDisabled());
        hand.click("apply");
        hand.until("the edit is made", () -> kinds().contains("first-start-edited"));
        hand.until("the job is over", () -> !house.jobs().any());
        assertThat(GeneralTools.run("mdir", "-b", "-i", backing + "@@" + 4 * DiskBuilder.MIB, "::"))
                .containsIgnoringCase("::/ssh");
    }
}
