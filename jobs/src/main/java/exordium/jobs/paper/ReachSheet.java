// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.rehearsal.Reach;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** How a board is reached after its first start, on a page to print or to keep on the phone. */
public final class ReachSheet {
    private ReachSheet() {}

    public static Path save(String name, Reach reach, Path file) throws IOException {
        LinedSheet.save("First start of " + name, "First start of " + name, lines(reach), file);
        return file;
    }

    static List<LinedSheet.Line> lines(Reach reach) {
        List<LinedSheet.Line> lines = new ArrayList<>();
        lines.add(new LinedSheet.Line("Reached", reach.reachable() ? "yes" : "no"));
        lines.add(new LinedSheet.Line("", reach.why()));
        lines.add(new LinedSheet.Line("Find it", reach.findBy()));
        reach.connect().ifPresent(line -> lines.add(new LinedSheet.Line("Type", line)));
        lines.add(new LinedSheet.Line("Host key", reach.hostKey()));
        reach.fingerprints().forEach(each -> lines.add(new LinedSheet.Line("", each)));
        String name = "It needs";
        for (String need : reach.needs()) {
            lines.add(new LinedSheet.Line(name, need));
            name = "";
        }
        lines.add(new LinedSheet.Line(
                "Then",
                "Look that it started from the medium you mean, change a password others know, and make a copy."));
        lines.add(
                new LinedSheet.Line(
                        "Care",
                        "Power off before plugging cards or cables; use the supply the board is made for; power goes in last."));
        return lines;
    }
}
