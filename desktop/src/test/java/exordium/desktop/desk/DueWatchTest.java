// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.copies.schedule.CopyRule;
import exordium.core.finding.Step;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.PlayedMachine;
import exordium.desktop.DemoHouse;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.schedule.DueRun;
import exordium.jobs.copies.schedule.Reminder;
import exordium.store.Boards;
import exordium.store.Logbook;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Copies that come by themselves while the window is open, one after the other; this test is the interface thread. */
class DueWatchTest {
    private static final Set<String> HERE = Set.of("door-counter", "engine-room-sound");

    @TempDir
    Path folder;

    @TempDir
    Path root;

    private final ConcurrentLinkedQueue<Runnable> posted = new ConcurrentLinkedQueue<>();
    private final List<String> reminded = new ArrayList<>();
    private Workbench workbench;
    private House house;
    private DueWatch watch;

    @BeforeEach
    void open() throws IOException {
        workbench = DemoHouse.open(folder);
        house = new House(workbench, posted::add, new PlayedMachine(root).drives(), workbench.rules());
        watch = new DueWatch(house, new Reminder((title, words) -> reminded.add(title + ": " + words)));
        // Every board is due; two small media are here, and keep no pace, so that the test does not wait.
        workbench.rules().copyRule(new CopyRule(1, 1, false));
        for (DueRun.DueBoard each : due()) {
            Path drive = workbench.driveFile(each.medium().file());
            if (HERE.contains(each.board().id())) {
                Path description = drive.resolveSibling(drive.getFileName() + ".drive.yaml");
                Files.writeString(
                        description,
                        Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
            } else {
                Files.deleteIfExists(drive);
            }
        }
        // Restores are tried by themselves as well; all of these were.
        for (Boards.Board board : workbench.records().boards()) {
            workbench
                    .workspace()
                    .log()
                    .add(Optional.of(board.id()), Step.COPIES, "drill-passed", "tried", Optional.empty());
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
        // What is away is nobody's to copy here; it was said once.
        assertThat(reminded)
                .singleElement()
                .asString()
                .contains("copies are due")
                .contains("bring ");
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
        for (String board : HERE) {
            GeneralTools.run("rm", "-r", vault.resolve(board).toString());
            Files.writeString(vault.resolve(board), "in the way");
        }
        for (int i = 0; i < 6; i++) {
            watch.look();
            settle();
        }
        long failed = workbench.records().log().stream()
                .filter(entry ->
                        entry.kind().startsWith("copy-") && !entry.kind().equals("copy-proven"))
                .count();
        assertThat(failed).isLessThanOrEqualTo(HERE.size());
        assertThat(copied()).isEmpty();
        assertThat(due()).anyMatch(DueRun.DueBoard::here);
    }
}
