// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import biweekly.Biweekly;
import biweekly.ICalVersion;
import biweekly.ICalendar;
import biweekly.component.VAlarm;
import biweekly.component.VEvent;
import biweekly.component.VTodo;
import biweekly.parameter.Related;
import biweekly.property.Trigger;
import biweekly.property.Uid;
import biweekly.util.DateTimeComponents;
import biweekly.util.Frequency;
import biweekly.util.ICalDate;
import biweekly.util.Recurrence;
import exordium.core.copies.care.CopyCare;
import exordium.core.copies.care.EveningPlan;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.schedule.CopySource;
import exordium.jobs.copies.schedule.CopyYear;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Date;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** When each board's next copy is due, and the same as an iCalendar file (RFC 5545). */
public final class DueCalendar {
    private DueCalendar() {}

    /** In the morning: a calendar without hours has no time of its own to ring at. */
    private static final int ALARM_HOUR = 9;

    /**
     * One board's next copy.
     *
     * @param planned the evening it fits into, so that none gets too long
     * @param seconds it takes to read, at the rate its medium was measured at; 0 where that is not known
     * @param everyDays how often by the house's rule and its risk
     * @param drill when a restore of it is to be tried; empty where there is no copy to try it with
     */
    public record Entry(
            String board,
            String name,
            LocalDate date,
            boolean overdue,
            String reason,
            LocalDate planned,
            long seconds,
            int everyDays,
            Optional<LocalDate> drill) {
        Entry on(LocalDate evening) {
            return new Entry(board, name, date, overdue, reason, evening, seconds, everyDays, drill);
        }
    }

    /** Of all boards with a medium, the first due first. */
    public static List<Entry> entries(Workbench workbench, DaySheets sheets) throws IOException {
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        CopySource source = new CopySource(workbench, sheets.benches(), MediaHealth.of(workbench, record));
        Map<String, Boards.Board> boards = new HashMap<>();
        record.boards().forEach(board -> boards.put(board.id(), board));
        List<Entry> entries = new ArrayList<>();
        for (CopyYear.Line line : CopyYear.of(workbench, sheets, record)) {
            Workbench.BoardAtHand at = workbench.atHand(boards.get(line.board()));
            Media.Medium medium = Workbench.mainMedium(at, record.media()).orElseThrow();
            entries.add(new Entry(
                    line.board(),
                    line.name(),
                    line.due().date(),
                    line.due().overdue(),
                    line.due().reason(),
                    line.due().date(),
                    source.of(at, medium).time().toSeconds(),
                    line.allowed(),
                    line.nextDrill()));
        }
        source.keep();
        entries =
                planned(entries, workbench.today(), workbench.workspace().care().all());
        entries.sort(java.util.Comparator.comparing(Entry::date));
        return entries;
    }

    private static List<Entry> planned(List<Entry> entries, LocalDate today, Map<String, CopyCare> care) {
        Map<String, LocalDate> days = EveningPlan.plan(
                entries.stream()
                        .map(each -> new EveningPlan.Task(
                                each.board(),
                                each.date(),
                                Duration.ofSeconds(each.seconds()),
                                care.getOrDefault(each.board(), CopyCare.NONE).quiet()))
                        .toList(),
                today,
                EveningPlan.USUAL);
        return new ArrayList<>(
                entries.stream().map(each -> each.on(days.get(each.board()))).toList());
    }

    public static String iCalendar(List<Entry> entries, Instant now) {
        ICalendar calendar = new ICalendar();
        calendar.setVersion(ICalVersion.V2_0);
        calendar.setProductId("-//Exordium//Copies//EN");
        for (Entry entry : entries) {
            calendar.addEvent(copy(entry, now));
            // A task, not an event: every event of the feed is a copy.
            entry.drill().ifPresent(day -> calendar.addTodo(drill(entry, day, now)));
        }
        return Biweekly.write(calendar).go();
    }

    private static VEvent copy(Entry entry, Instant now) {
        VEvent event = new VEvent();
        event.setUid(new Uid("copy-" + entry.board() + "@exordium"));
        event.setDateTimeStamp(Date.from(now));
        event.setSummary("Copy of " + entry.name());
        event.setDescription(entry.reason());
        event.setDateStart(day(entry.date()));
        event.setRecurrenceRule(new Recurrence.Builder(Frequency.DAILY)
                .interval(entry.everyDays())
                .build());
        event.addAlarm(alarm("Copy of " + entry.name()));
        return event;
    }

    private static VTodo drill(Entry entry, LocalDate day, Instant now) {
        VTodo todo = new VTodo();
        todo.setUid(new Uid("drill-" + entry.board() + "@exordium"));
        todo.setDateTimeStamp(Date.from(now));
        todo.setSummary("Try a restore of " + entry.name());
        todo.setDescription(
                "Proven means that it starts: once a year a copy is put back onto a virtual drive and rehearsed.");
        todo.setDateStart(day(day));
        todo.setRecurrenceRule(new Recurrence.Builder(Frequency.YEARLY).build());
        todo.addAlarm(alarm("Try a restore of " + entry.name()));
        return todo;
    }

    /** A day without a time: no zone is needed, and none is asked for. */
    private static ICalDate day(LocalDate day) {
        return new ICalDate(new DateTimeComponents(day.getYear(), day.getMonthValue(), day.getDayOfMonth()), false);
    }

    private static VAlarm alarm(String words) {
        return VAlarm.display(
                new Trigger(biweekly.util.Duration.builder().hours(ALARM_HOUR).build(), Related.START), words);
    }
}
