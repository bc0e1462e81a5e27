// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.jobs.paper.DueCalendar;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.TimeZone;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DueCalendarTest {
    @TempDir
    Path folder;

    @Test
    void whatIsDueFirstComesFirst() throws IOException {
        House house = House.demo(folder);
        List<DueCalendar.Entry> entries = DueCalendar.entries(house.bench, house.sheets);
        assertThat(entries).hasSize(10).isSortedAccordingTo((a, b) -> a.date().compareTo(b.date()));
        assertThat(entries.get(0).board()).isEqualTo("ticket-desk");
        assertThat(entries.get(0).overdue()).isTrue();
    }

    /** A day is the same day wherever the machine stands (RFC 5545, 3.3.4: DATE has no zone). */
    @ParameterizedTest
    @ValueSource(strings = {"UTC", "Pacific/Auckland", "America/Los_Angeles"})
    void theDayDoesNotMoveWithTheZone(String zone) {
        TimeZone before = TimeZone.getDefault();
        try {
            TimeZone.setDefault(TimeZone.getTimeZone(zone));
            String calendar = DueCalendar.iCalendar(
                    List.of(new DueCalendar.Entry(
                            "tide-clock", "Tide clock", LocalDate.parse("2026-12-12"), false, "House rule 30 days.")),
                    House.NOW);
            assertThat(calendar)
                    .contains("DTSTART;VALUE=DATE:20261212")
                    .contains("DTSTAMP:20261124T090000Z")
                    .contains("SUMMARY:Copy of Tide clock");
        } finally {
            TimeZone.setDefault(before);
        }
    }
}
