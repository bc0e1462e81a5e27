// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import biweekly.Biweekly;
import biweekly.ICalVersion;
import biweekly.ICalendar;
import biweekly.component.VEvent;
import biweekly.property.Uid;
import biweekly.util.DateTimeComponents;
import biweekly.util.ICalDate;
import exordium.core.copies.CopyRule;
import exordium.jobs.bench.OnRecord;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Boards;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;

/** When each board's next copy is due, and the same as an iCalendar file (RFC 5545). */
public final class DueCalendar {
    private DueCalendar() {}

    /** One board's next copy. */
    public record Entry(String board, String name, LocalDate date, boolean overdue, String reason) {}

    /** Of all boards with a medium, the first due first. */
    public static List<Entry> entries(Workbench workbench, DaySheets sheets) throws IOException {
        OnRecord record = OnRecord.of(workbench);
        List<Entry> entries = new ArrayList<>();
        for (Boards.Board board : record.boards()) {
            if (Workbench.mainMedium(workbench.atHand(board), record.media()).isPresent()) {
                CopyRule.Due due = sheets.due(board, record);
                entries.add(new Entry(board.id(), board.name(), due.date(), due.overdue(), due.reason()));
            }
        }
        entries.sort(java.util.Comparator.comparing(Entry::date));
        return entries;
    }

    public static String iCalendar(List<Entry> entries, Instant now) {
        ICalendar calendar = new ICalendar();
        calendar.setVersion(ICalVersion.V2_0);
        for (Entry entry : entries) {
            VEvent event = new VEvent();
            event.setUid(new Uid("copy-" + entry.board() + "@exordium"));
            event.setDateTimeStamp(Date.from(now));
            event.setSummary("Copy of " + entry.name());
            event.setDescription(entry.reason());
            // A day without a time: no zone is needed, and none is asked for.
            event.setDateStart(new ICalDate(
                    new DateTimeComponents(
                            entry.date().getYear(),
                            entry.date().getMonthValue(),
                            entry.date().getDayOfMonth()),
                    false));
            calendar.addEvent(event);
        }
        return Biweekly.write(calendar).go();
    }
}
