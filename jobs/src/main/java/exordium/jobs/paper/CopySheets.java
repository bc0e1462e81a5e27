// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.copies.care.CopyCare;
import exordium.core.finding.NotPossible;
import exordium.core.quantity.Span;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.schedule.Homecoming;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Copies;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Pages to print: the one in the envelope of a spare, and the round to the boards whose copies come. */
public final class CopySheets {
    private static final String CARE =
            "Power off before plugging cards, drives or cables; touch earth first; power goes in last. Ladders and roofs: not alone.";

    private CopySheets() {}

    /** For whoever stands before a dead board with the spare in the hand. @throws NotPossible when there is no copy of it */
    public static Path spare(Workbench workbench, DaySheets sheets, String board, Path file) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        List<Copies.Copy> copies = workbench.records().copiesOf(board);
        Media.Medium medium = workbench
                .mainMedium(at)
                .orElseThrow(() -> new NotPossible(at.register().name() + " has no medium a spare could stand for."));
        if (copies.isEmpty()) {
            throw new NotPossible(
                    "There is no copy of " + at.register().name() + " a spare could have been made from.");
        }
        LocalDate day = LocalDate.ofInstant(copies.get(copies.size() - 1).proven(), workbench.zone());
        Optional<Homecoming> home = Homecoming.of(workbench, sheets, medium);
        List<LinedSheet.Line> lines = new ArrayList<>();
        lines.add(new LinedSheet.Line(
                "Board", at.register().name() + ", " + at.profile().title()));
        lines.add(new LinedSheet.Line("Place", at.register().place()));
        lines.add(new LinedSheet.Line("Goes into", home.map(Homecoming::port).orElse("")));
        lines.add(new LinedSheet.Line("Holds", "the copy of " + day + " of " + medium.name()));
        lines.add(new LinedSheet.Line(
                "Lost",
                "Everything written since " + day + "; " + Span.days(ChronoUnit.DAYS.between(day, workbench.today()))
                        + " on " + workbench.today() + "."));
        int step = 1;
        for (String words : List.of(
                "Switch the board off and take its power out.",
                "Take the old medium out and mark it; never put both into one board, they have the same identifiers.",
                "Put this one in, square and the right way round.",
                "Power in. Wait until it is up, and look that what it shows is right.",
                "Write down the day, and have a new spare made.")) {
            lines.add(new LinedSheet.Line(step == 1 ? "Steps" : "", step + ". " + words));
            step++;
        }
        lines.add(new LinedSheet.Line("Care", CARE));
        String title = "Spare of " + at.register().name();
        LinedSheet.save(title, title, lines, file);
        return file;
    }

    private static String asked(CopyCare care, LocalDate evening) {
        return (care.stopFirst().isEmpty() ? "" : " Stop first: " + care.stopFirst() + ".")
                + (care.services().isEmpty() ? "" : " Not there meanwhile: " + care.services() + ".")
                + care.quiet()
                        .begin(evening)
                        .map(hour -> " Not before " + hour + ".")
                        .orElse("");
    }

    /** Which boards are opened on which evening of the next weeks, in which order, and what to bring. */
    public static Path round(Workbench workbench, DaySheets sheets, int days, Path file) throws IOException {
        List<DueCalendar.Entry> entries = new ArrayList<>(DueCalendar.entries(workbench, sheets));
        entries.removeIf(each -> each.planned().isAfter(workbench.today().plusDays(days)));
        entries.sort(java.util.Comparator.comparing(DueCalendar.Entry::planned).thenComparing(DueCalendar.Entry::name));
        List<LinedSheet.Line> lines = new ArrayList<>();
        Map<String, CopyCare> care = workbench.workspace().care().all();
        String evening = "";
        for (DueCalendar.Entry each : entries) {
            Workbench.BoardAtHand at = workbench.board(each.board());
            Media.Medium medium = workbench.mainMedium(at).orElseThrow();
            String port = Homecoming.of(workbench, sheets, medium)
                    .map(Homecoming::port)
                    .orElse("");
            String when = each.planned().toString();
            lines.add(new LinedSheet.Line(
                    when.equals(evening) ? "" : when,
                    each.name() + ", " + at.register().place() + ": " + medium.name() + " out of " + port + ", about "
                            + Span.said(Duration.ofSeconds(each.seconds())) + " to copy"
                            + (at.register().slotReachable() ? "." : "; the box has to be opened.")
                            + asked(care.getOrDefault(each.board(), CopyCare.NONE), each.planned())));
            evening = when;
        }
        if (lines.isEmpty()) {
            lines.add(new LinedSheet.Line("", "No copy comes in the next " + Span.days(days) + "."));
        }
        lines.add(new LinedSheet.Line(
                "Bring", "a reader or adapter for each kind, the labels, a wrist strap, this page"));
        lines.add(new LinedSheet.Line("Before", "Stop what writes on the board, and switch it off."));
        lines.add(new LinedSheet.Line("Care", CARE));
        LinedSheet.save("Round of copies", "Round of copies from " + workbench.today(), lines, file);
        return file;
    }
}
