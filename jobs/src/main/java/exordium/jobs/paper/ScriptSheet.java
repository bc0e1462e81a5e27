// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.reading.BoardScript;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** What to ask a board in which nothing can be pasted, on a page: the commands, with a line for each answer. */
public final class ScriptSheet {
    private ScriptSheet() {}

    public static Path save(Path file) throws IOException {
        List<LinedSheet.Line> lines = new ArrayList<>();
        lines.add(new LinedSheet.Line(
                "At the board", "Log in, and type these one after the other; they read, and change nothing."));
        int number = 1;
        for (String each : BoardScript.commands()) {
            lines.add(new LinedSheet.Line(String.valueOf(number++), each));
            lines.add(new LinedSheet.Line("", "______________________________________________________"));
        }
        lines.add(new LinedSheet.Line("Then", "Tell what it showed: its firmware, its order, which device holds /."));
        LinedSheet.save("What to ask a board", "What to ask a board", lines, file);
        return file;
    }
}
