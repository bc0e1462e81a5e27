// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.LoopCard;
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
import javafx.scene.control.TextField;
import org.junit.jupiter.api.Test;

/**
 * A card that is in no register, written where its board is: it is taken in with the write, the port it goes into is the next step, and its
 * first start is set up while it is still in this machine. A loop device of this test's own; compared by cmp(1), read by mtools.
 */
class NewCardTest extends WindowCase {
    private LoopCard card;
    private Path image;

    @Override
    Workbench furnish() throws IOException {
        card = new LoopCard(own, 200 * DiskBuilder.MIB);
        workbench = DemoHouse.empty(own, Clock.systemUTC());
        image = new DiskBuilder(own).id("0c4d0c4e").build("system.img");
        new Intake(workbench).image(image, TransferWatch.NONE);
        new BoardRegister(workbench).add(BoardRegister.Description.of("Attic", "plover-4", "4 GB"));
        return workbench;
    }

    @Override
    void closed() {
        card.close();
    }

    private List<String> kinds() {
        return workbench.records().log().stream().map(each -> each.kind()).toList();
    }

    @Test
    void aNewCardIsTakenInWrittenPluggedAndSetUp() throws IOException {
        Needs.here(card.isThere(), "no loop devices here");
        ready();
        hand.click("roster-attic");
        hand.click("stop-image");
        // A house rule refuses it, and is changed at the place.
        hand.see("target");
        hand.until(
                "the drives are there",
                () -> Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                        .anyMatch(each -> each.description().id().equals(card.name()))));
        Hand.on(() -> hand.<Targets.Target>box("target").getItems().stream()
                .filter(each -> each.description().id().equals(card.name()))
                .findFirst()
                .ifPresent(hand.<Targets.Target>box("target")::setValue));
        hand.click("allow-real-drives");
        hand.until("the card is offered", () -> hand.see("newcomer-name").isVisible());
        hand.until(
                "and is named",
                () -> !((TextField) hand.see("newcomer-name")).getText().isEmpty());
        hand.fill("newcomer-name", "Attic card");
        hand.click("confirm");
        hand.type(card.name());
        hand.until("it may be written", () -> !hand.see("write").isDisabled());
        hand.click("write");
        hand.until(
                "it is written and read back", () -> hand.text("report-verdict").equals("verified"));
        assertThat(card.holds(image)).isTrue();
        Media.Medium medium = workbench.records().media().get(0);
        assertThat(medium.name()).isEqualTo("Attic card");
        // What is in use was written, and no more.
        assertThat(medium.written().bytes()).isBetween(1L, Files.size(image));
        assertThat(workbench.workspace().operations().lastWrites()).containsKey(medium.id());
        hand.click("next-port-card");
        hand.see("login");
        hand.until("its card was looked through", () -> hand.page().contains("remote login is off"));
        assertThat(workbench.board("attic").board().attached())
                .singleElement()
                .satisfies(plug -> assertThat(plug.drive()).isEqualTo(medium.file()));
        Hand.on(() -> ((CheckBox) hand.see("login")).fire());
        hand.until("it may be set up", () -> !hand.see("apply").isDisabled());
        hand.click("apply");
        hand.until("the edit is made", () -> kinds().contains("first-start-edited"));
        hand.until("the job is over", () -> !house.jobs().any());
        assertThat(GeneralTools.run("mdir", "-b", "-i", card.backing() + "@@" + 4 * DiskBuilder.MIB, "::"))
                .containsIgnoringCase("::/ssh");
    }
}
