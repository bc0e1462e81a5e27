// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.PlayedMachine;
import exordium.desktop.DemoHouse;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.DueRun;
import exordium.jobs.copies.Reminder;
import exordium.store.Logbook;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Copies that come by themselves while the window is open, one after the other; this test is the interface thread. */
class DueWatchTest {
    @TempDir
    Path folder;

    @TempDir
    Path root;

    private final ConcurrentLinkedQueue<Runnable> posted = new ConcurrentLinkedQueue<>();
    private final List<String> reminded = new ArrayList<>();
    private Workbench workbench;
    private Desk house;
    private DueWatch watch;

    @BeforeEach
    void open() throws IOException {
        workbench = DemoHouse.open(folder);
        house = new Desk(workbench, posted::add, new PlayedMachine(root).drives(), workbench.rules());
        watch = new DueWatch(house, new Reminder((title, words) -> reminded.add(title + ": " + words)));
        // Drives of the demo keep a card's pace; the copies of this test are quick.
        for (DueRun.DueBoard each : due()) {
            Path description = workbench.driveFile(each.medium().file() + ".drive.yaml");
            if (Files.exists(description)) {
                Files.writeString(
                        description,
                        Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
            }
        }
    }

    @AfterEach
    void close() {
        watch.close();
        house.close();
    }

    private List<DueRun.DueBoard> due() throws IOException {
        return new DueRun(workbench, house.sheets()).due();
    }

    /** Does what was posted until nothing runs any more. */
    private void settle() throws InterruptedException {
        do {
            for (Runnable next = posted.poll(); next != null; next = posted.poll()) {
                next.run();
            }
            Thread.sleep(5);
        } while (house.jobs().any() || !posted.isEmpty());
    }

    private List<String> copied() {
        return workbench.records().log().stream()
                .filter(entry ->
                        entry.kind().equals("copy-proven") && entry.at().equals(DemoHouse.CLOCK.instant()))
                .map(Logbook.Entry::text)
                .toList();
    }

    @Test
    void dueCopiesComeOneAfterTheOtherAndWhatIsAwayIsReminded() throws Exception {
        long here = due().stream().filter(DueRun.DueBoard::here).count();
        assertThat(here).isGreaterThan(1);
        watch.look();
        settle();
        assertThat(copied()).as("the demo's rule: nothing comes by itself").isEmpty();
        assertThat(reminded).isEmpty();

        house.facts().rules().dueRuns(true);
        house.facts().rules().reminders(true);
        for (int i = 0; i < here; i++) {
            watch.look();
            settle();
            assertThat(copied()).hasSize(i + 1);
        }
        assertThat(due()).noneMatch(DueRun.DueBoard::here);
        // The card that sits in the slipway's box is nobody's to copy; it was said once.
        assertThat(reminded).singleElement().asString().contains("Slipway lamp").contains("bring Brack 32");
        watch.look();
        settle();
        assertThat(copied()).hasSize((int) here);
        assertThat(reminded).hasSize(1);
    }

    @Test
    void whatFailedIsNotTriedAgainOnTheSameDay() throws Exception {
        house.facts().rules().dueRuns(true);
        Path vault = workbench.vault();
        Files.createDirectories(vault);
        // No folder can be made where a file stands.
        for (DueRun.DueBoard each : due()) {
            Path own = vault.resolve(each.board().id());
            if (!Files.exists(own)) {
                Files.writeString(own, "in the way");
            }
        }
        for (int i = 0; i < 6; i++) {
            watch.look();
            settle();
        }
        long failed = workbench.records().log().stream()
                .filter(entry ->
                        entry.kind().startsWith("copy-") && !entry.kind().equals("copy-proven"))
                .count();
        assertThat(failed).isLessThanOrEqualTo(due().size());
        assertThat(due()).anyMatch(DueRun.DueBoard::here);
    }
}
