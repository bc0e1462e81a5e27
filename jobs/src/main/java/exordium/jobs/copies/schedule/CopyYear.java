// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.schedule;

import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.schedule.DrillRule;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Boards;
import exordium.store.Copies;
import exordium.store.Logbook;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** The copies and drills of all boards along the year, and what comes next; the first due first. */
public final class CopyYear {
    private static final String DRILL = "drill-passed";

    private CopyYear() {}

    /** One board's line; allowed: days a copy covers; nextDrill: when a restore of it is to be tried. */
    public record Line(
            String board,
            String name,
            List<LocalDate> copies,
            List<LocalDate> drills,
            CopyRule.Due due,
            int allowed,
            Optional<LocalDate> nextDrill) {}

    public static List<Line> of(Workbench workbench, DaySheets sheets) throws IOException {
        return of(workbench, sheets, RegisterSnapshot.of(workbench));
    }

    /** The same by what was read together. */
    public static List<Line> of(Workbench workbench, DaySheets sheets, RegisterSnapshot record) throws IOException {
        Map<String, List<LocalDate>> copies = new TreeMap<>();
        for (Copies.Copy copy : workbench.records().copies()) {
            if (copy.board() != null) {
                copies.computeIfAbsent(copy.board(), name -> new ArrayList<>()).add(day(workbench, copy.proven()));
            }
        }
        Map<String, List<LocalDate>> drills = drills(workbench);
        List<Line> lines = new ArrayList<>();
        for (Boards.Board board : record.boards()) {
            if (Workbench.mainMedium(workbench.atHand(board), record.media()).isPresent()) {
                CopyRule.Due due = sheets.due(board, record);
                lines.add(new Line(
                        board.id(),
                        board.name(),
                        copies.getOrDefault(board.id(), List.of()),
                        drills.getOrDefault(board.id(), List.of()),
                        due,
                        due.allowed(),
                        DrillRule.next(
                                drills.getOrDefault(board.id(), List.of()),
                                copies.getOrDefault(board.id(), List.of()))));
            }
        }
        lines.sort(Comparator.comparing(line -> line.due().date()));
        return lines;
    }

    /** Boards of which a restore is to be tried by today, and which have a copy to try it with. */
    public static List<String> drillsDue(Workbench workbench, DaySheets sheets) throws IOException {
        return of(workbench, sheets).stream()
                .filter(line -> line.nextDrill()
                        .filter(day -> !day.isAfter(workbench.today()))
                        .isPresent())
                .map(Line::board)
                .toList();
    }

    /** By board, the days on which a copy of it was put back and started. */
    public static Map<String, List<LocalDate>> drills(Workbench workbench) {
        Map<String, List<LocalDate>> drills = new TreeMap<>();
        for (Logbook.Entry entry : workbench.records().log()) {
            if (entry.kind().equals(DRILL)) {
                entry.board().ifPresent(board -> drills.computeIfAbsent(board, name -> new ArrayList<>())
                        .add(day(workbench, entry.at())));
            }
        }
        return drills;
    }

    private static LocalDate day(Workbench workbench, Instant at) {
        return LocalDate.ofInstant(at, workbench.zone());
    }
}
