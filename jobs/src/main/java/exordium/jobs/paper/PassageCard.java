// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.passage.BeforeClosing;
import exordium.core.passage.Deed;
import exordium.jobs.bench.Workbench;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The job card of a passage for the bench: each step with a box, and a line for what is seen. */
public final class PassageCard {
    private PassageCard() {}

    /** Puts it into the workspace's folder of reports; says where. */
    public static Path keep(Workbench workbench, PassageJob.Shown passage) throws IOException {
        Path folder = Files.createDirectories(workbench.folder().resolve("reports"));
        String name = "passage-" + passage.board() + "-" + passage.wish().kind().code() + "-"
                + LocalDate.ofInstant(passage.begun(), workbench.zone()) + ".pdf";
        Path file = save(workbench, passage, folder.resolve(name));
        workbench
                .workspace()
                .log()
                .add(
                        Optional.of(passage.board()),
                        exordium.core.finding.Step.REHEARSAL,
                        "passage-card",
                        "The job card of "
                                + workbench.board(passage.board()).register().name() + " is in " + file + ".",
                        Optional.empty());
        return file;
    }

    /** Puts it into a file. */
    public static Path save(Workbench workbench, PassageJob.Shown passage, Path file) throws IOException {
        Workbench.BoardAtHand at = workbench.board(passage.board());
        List<LinedSheet.Line> lines = new ArrayList<>();
        lines.add(new LinedSheet.Line(
                "Board",
                at.register().name() + ", " + at.profile().title() + ", "
                        + at.register().place()));
        lines.add(new LinedSheet.Line(
                "Wish", passage.wish().title() + ", about " + Math.round(passage.minutesLeft()) + " min left"));
        if (!passage.changed().isEmpty()) {
            lines.add(new LinedSheet.Line("Changed", passage.changed()));
        }
        lines.add(new LinedSheet.Line("", ""));
        for (PassageJob.Standing each : passage.steps()) {
            boolean done = each.progress() == Progress.DONE;
            boolean fallen = each.progress() == Progress.FALLEN;
            String place = each.step().deed().place() == Deed.Place.PC ? "At the PC" : "At the board";
            String text =
                    each.step().text() + (done ? " Done. " + each.said() : fallen ? " Fallen: " + each.said() : "");
            lines.add(new LinedSheet.Line(
                    place + ", " + each.step().cost().wholeMinutes() + " min", text, !done && !fallen, false));
            if (!done && !fallen) {
                each.step().caution().ifPresent(caution -> lines.add(new LinedSheet.Line("", caution)));
                lines.add(new LinedSheet.Line(
                        "", "It shows in this: " + each.step().proves() + ".", false, true));
            }
        }
        lines.add(new LinedSheet.Line("", ""));
        String before = BeforeClosing.TITLE;
        for (String check : BeforeClosing.CHECKS) {
            lines.add(new LinedSheet.Line(before, check, true, false));
            before = "";
        }
        lines.add(new LinedSheet.Line("Care", BeforeClosing.CARE));
        String title = "Job card of " + at.register().name();
        LinedSheet.save(title, title, lines, file);
        return file;
    }
}
