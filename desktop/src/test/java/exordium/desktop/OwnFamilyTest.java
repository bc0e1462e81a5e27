// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.desktop.desk.Place;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Random;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/**
 * A family of one's own on an empty workspace, by the window: what nobody looked at is listed and said, its maker's releases are looked at and
 * taken, and the recovery card for a board by hand is one of that set. A pasted text is put down whole.
 */
class OwnFamilyTest extends WindowCase {
    @Override
    Workbench furnish() throws IOException {
        workbench = DemoHouse.empty(own, Clock.systemUTC());
        return workbench;
    }

    private BoardProfile family() {
        return workbench.profiles().find("heron-1").orElseThrow();
    }

    private Path published() throws IOException {
        Path folder = Files.createDirectories(own.resolve("published/default"));
        byte[] image = new byte[80_000];
        new Random(3).nextBytes(image);
        Files.write(folder.resolve("chip-2026-10-05.bin"), image);
        Files.write(folder.resolve("recovery.bin"), new byte[9_000]);
        Files.writeString(folder.resolve("notes.md"), "## 2026-10-05\n* Adds NVMe boot\n");
        return folder.getParent();
    }

    @Test
    void fieldsAreSaidReleasesTakenAndAScreenPutDown() throws IOException {
        ready();
        hand.click("new-board");
        hand.click("board-describe");
        hand.fill("family-id", "heron-1");
        Hand.on(() -> hand.<String>box("family-like").setValue("plover-4"));
        hand.click("form-deed");
        hand.until("the family is there", () -> hand.page().contains("heron-1 is described."));
        hand.click("board-name");
        hand.type("attic");
        hand.press(KeyCode.ENTER);
        hand.until("its page is open", () -> hand.page().contains("heron-1, 1 GB"));

        Hand.on(() -> house.navigation().go(new Place.BoardForm("attic", Place.BoardForm.FormKind.FAMILY)));
        hand.until("what is not known is listed", () -> hand.page().contains("as in plover-4, not looked at"));
        Hand.on(() -> hand.<FamilyField>box("family-field").setValue(FamilyField.POWER_BASE_WATTS));
        hand.fill("family-value", "5.5");
        hand.click("form-deed");
        hand.until("it is told", () -> family().power().baseWatts().value() == 5.5);
        hand.click("form-cancel");

        Hand.on(() -> house.navigation().go(Place.Form.ADD_RELEASE));
        hand.fill("release-file", published().toString());
        Hand.on(() -> hand.<BoardProfile>box("release-family").setValue(family()));
        hand.click("form-deed");
        hand.until("it was looked at", () -> hand.page().contains("Recovery set, whole"));
        assertThat(workbench.firmware().of("heron-1")).isEmpty();
        hand.click("form-deed");
        hand.until(
                "it is on the shelf", () -> !workbench.firmware().of("heron-1").isEmpty());
        hand.until(
                "the set's names are told",
                () -> family().firmware().recovery().equals(java.util.Optional.of(List.of("recovery.bin"))));

        Hand.on(() -> house.navigation().go(new Place.BoardForm("attic", Place.BoardForm.FormKind.TOLD)));
        hand.fill(
                "told-pasted", "firmware: 2026-10-05\nBOOT_ORDER=0xf41\nserial: 10000000a3f2c4d5\nwhat else it said\n");
        hand.until("it is read", () -> hand.text("told-found").contains("1 lines belong to nothing known"));
        hand.click("form-deed");
        hand.until("it is put down", () -> workbench.records().log().stream()
                .anyMatch(each -> each.kind().equals("pasted")));
        hand.until("its serial is its own", () -> {
            try {
                return workbench.board("attic").board().serial().equals("a3f2c4d5");
            } catch (IOException e) {
                return false;
            }
        });
    }
}
