// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.paper.DueCalendar;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.workspace.WorkspaceExport;
import exordium.store.Judged;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.ZoneOffset;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a copy would read is worked out once, and again as soon as its medium may have changed. */
class CopySourceTest {
    private static final String BOARD = "tide-clock";
    private static final String MEDIUM = "tide-clock-card";

    @TempDir
    Path folder;

    private House house;

    @BeforeEach
    void aHouse() throws IOException {
        house = House.demo(folder);
    }

    /** As a command of its own would: nothing is remembered but what is kept. */
    private long seconds() throws IOException {
        return DueCalendar.entries(house.bench, new DaySheets(house.bench, new BenchReader(house.bench))).stream()
                .filter(each -> each.board().equals(BOARD))
                .findFirst()
                .orElseThrow()
                .seconds();
    }

    private Judged.Extent kept() {
        assertThat(house.workspace.judged().all()).containsKey(MEDIUM);
        return house.workspace.judged().all().get(MEDIUM);
    }

    @Test
    void whatWasWorkedOutCountsAsLongAsTheMediumIsTheSame() throws IOException {
        assertThat(house.workspace.judged().all()).isEmpty();
        long first = seconds();
        Judged.Extent worked = kept();
        assertThat(worked.used().bytes()).isPositive();
        // What is kept is gone by: another figure under the same stamp gives another time.
        house.workspace
                .judged()
                .put(
                        MEDIUM,
                        new Judged.Extent(
                                worked.stamp(),
                                worked.least(),
                                ByteSize.of(worked.used().bytes() * 10)));
        assertThat(seconds()).isGreaterThan(first * 5);
        // Another stamp, and it is worked out anew.
        Path drive = house.bench.driveFile(MEDIUM + ".img");
        Files.setLastModifiedTime(
                drive, FileTime.fromMillis(Files.getLastModifiedTime(drive).toMillis() + 2000));
        assertThat(seconds()).isEqualTo(first);
        assertThat(kept().used()).isEqualTo(worked.used());
        assertThat(kept().stamp()).isNotEqualTo(worked.stamp());
    }

    @Test
    void whatIsWorkedOutHereIsNotTakenFromOthers() throws IOException {
        seconds();
        Path file = folder.resolve("all.zip");
        WorkspaceExport.write(house.bench, file, TransferWatch.NONE);
        try (Workbench there = WorkspaceArchive.importFrom(
                file, folder.resolve("there"), House.CLOCK, ZoneOffset.UTC, TransferWatch.NONE)) {
            assertThat(there.workspace().media().all()).isNotEmpty();
            assertThat(there.workspace().judged().all()).isEmpty();
        }
    }
}
