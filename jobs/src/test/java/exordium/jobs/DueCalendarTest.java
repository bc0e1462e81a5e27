// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import biweekly.Biweekly;
import biweekly.component.VEvent;
import biweekly.component.VTodo;
import biweekly.util.com.google.ical.compat.javautil.DateIterator;
import exordium.jobs.copies.schedule.CopyYear;
import exordium.jobs.paper.DueCalendar;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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
                            "tide-clock",
                            "Tide clock",
                            LocalDate.parse("2026-12-12"),
                            false,
                            "House rule 30 days.",
                            LocalDate.parse("2026-12-12"),
                            0,
                            30,
                            Optional.of(LocalDate.parse("2026-12-13")))),
                    House.NOW);
            assertThat(calendar)
                    .contains("DTSTART;VALUE=DATE:20261212")
                    .contains("DTSTAMP:20261124T090000Z")
                    .contains("SUMMARY:Copy of Tide clock")
                    .contains("BEGIN:VALARM")
                    .contains("TRIGGER;RELATED=START:PT9H");
            // Read back and spun out by a general library: ten years of it, over every change of the clocks.
            VEvent event = Biweekly.parse(calendar).first().getEvents().get(0);
            DateIterator days = event.getDateIterator(TimeZone.getDefault());
            LocalDate expected = LocalDate.parse("2026-12-12");
            while (expected.isBefore(LocalDate.parse("2036-12-31"))) {
                assertThat(LocalDate.ofInstant(days.next().toInstant(), ZoneId.of(zone)))
                        .isEqualTo(expected);
                expected = expected.plusDays(30);
            }
            VTodo drill = Biweekly.parse(calendar).first().getTodos().get(0);
            assertThat(drill.getSummary().getValue()).isEqualTo("Try a restore of Tide clock");
            DateIterator years = drill.getDateIterator(TimeZone.getDefault());
            for (int year = 2026; year < 2037; year++) {
                assertThat(LocalDate.ofInstant(years.next().toInstant(), ZoneId.of(zone)))
                        .isEqualTo(year + "-12-13");
            }
        } finally {
            TimeZone.setDefault(before);
        }
    }

    /**
     * The due dates of the demo's boards over a year, each copied on its day, as docs/handbook/copy-year.md has them; worked out
     * with a calendar: 30 days apart, 90 where lightly used.
     */
    @Test
    void theYearOfTheDemoIsAsTheHandbookHasIt() throws IOException {
        House house = House.demo(folder);
        LocalDate today = house.bench.today();
        StringBuilder table = new StringBuilder();
        for (CopyYear.Line line : CopyYear.of(house.bench, house.sheets)) {
            List<String> days = new ArrayList<>();
            LocalDate day =
                    line.due().date().isBefore(today) ? today : line.due().date();
            while (!day.isAfter(today.plusYears(1))) {
                days.add(day.toString().substring(5));
                day = day.plusDays(line.allowed());
            }
            table.append("| ")
                    .append(line.name())
                    .append(" | ")
                    .append(line.allowed())
                    .append(" | ")
                    .append(String.join(" ", days))
                    .append(" |\n");
        }
        Path page = Path.of("..", "docs", "handbook", "copy-year.md");
        assertThat(Files.readString(page)).contains(table.toString());
    }
}
