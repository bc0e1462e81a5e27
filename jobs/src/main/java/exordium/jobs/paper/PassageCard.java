// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.passage.Deed;
import exordium.jobs.bench.Workbench;
import exordium.jobs.passage.PassageJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The job card of a passage for the bench: each step with a box, and a line for what is seen. */
public final class PassageCard {
    private static final String CARE =
            "Power off before plugging boards, cards, ribbons or carriers; touch earth first; power goes in"
                    + " last. Mains and Power over Ethernet: approved adapters, local codes, fixed wiring by licensed people. Ladders and roofs:"
                    + " not alone.";

    private PassageCard() {}

    /** Puts it into a file. */
    public static Path save(Workbench workbench, PassageJob.Shown passage, Path file) throws IOException {
        Workbench.BoardAtHand at = workbench.board(passage.board());
        List<LinedSheet.Line> lines = new ArrayList<>();
        lines.add(new LinedSheet.Line(
                "Board",
                at.register().name() + ", " + at.profile().title() + ", "
                        + at.register().place()));
        lines.add(new LinedSheet.Line(
                "Wish", passage.wish() + ", about " + Math.round(passage.minutesLeft()) + " min left"));
        if (!passage.changed().isEmpty()) {
            lines.add(new LinedSheet.Line("Changed", passage.changed()));
        }
        lines.add(new LinedSheet.Line("", ""));
        for (PassageJob.Standing each : passage.steps()) {
            boolean done = each.progress().equals("done");
            boolean fallen = each.progress().equals("fallen");
            String place = each.step().deed().place() == Deed.Place.PC ? "At the PC" : "At the board";
            String text =
                    each.step().text() + (done ? " Done. " + each.said() : fallen ? " Fallen: " + each.said() : "");
            lines.add(new LinedSheet.Line(
                    place + ", " + Math.max(1, Math.round(each.step().cost().minutes())) + " min",
                    text,
                    !done && !fallen,
                    false));
            if (!done && !fallen) {
                each.step().caution().ifPresent(caution -> lines.add(new LinedSheet.Line("", caution)));
                lines.add(new LinedSheet.Line(
                        "", "It shows in this: " + each.step().proves() + ".", false, true));
            }
        }
        lines.add(new LinedSheet.Line("", ""));
        String before = "Before the box is closed";
        for (String check : List.of(
                "Every ribbon square in its latch, no sharp bend, nothing under the lid",
                "Drives and cards in to the end, screws even and not tight",
                "What was taken out is labelled with the board and the day",
                "It started once with the box open, from what was meant")) {
            lines.add(new LinedSheet.Line(before, check + ".", true, false));
            before = "";
        }
        lines.add(new LinedSheet.Line("Care", CARE));
        String title = "Job card of " + at.register().name();
        LinedSheet.save(title, title, lines, file);
        return file;
    }
}
