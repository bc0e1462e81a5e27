// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import com.github.difflib.text.DiffRow;
import com.github.difflib.text.DiffRowGenerator;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.quantity.Coded;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A file as it is looked at: before its edit, after it, or both with the edits marked, each line with what is found at it.
 *
 * @param fate what becomes of the file, in a word or two
 */
public record MarkedFile(String file, String fate, List<Line> lines) {
    private static final int MOST = 2000;

    /** Which side is looked at. */
    public enum Side implements Coded {
        CHANGES,
        BEFORE,
        AFTER
    }

    /** What an edit does to a line. */
    public enum Mark {
        SAME,
        ADDED,
        REMOVED
    }

    /** Where number: of the line on its own side, from 1. */
    public record Line(int number, Mark mark, String text, List<LineFinding> found) {}

    public static MarkedFile of(FileEdit edit, Side side, String kernelLine, BoardProfile board) {
        List<String> before = lines(edit.before());
        List<String> after = lines(edit.after());
        List<LineFinding> foundBefore = found(edit.file(), edit.before(), kernelLine, board);
        List<LineFinding> foundAfter = found(edit.file(), edit.after(), kernelLine, board);
        return new MarkedFile(
                edit.file(),
                fate(edit),
                switch (side) {
                    case BEFORE -> plain(before, foundBefore);
                    case AFTER -> plain(after, foundAfter);
                    case CHANGES -> both(before, after, foundBefore, foundAfter);
                });
    }

    /** The lines that changed, each with a few around it; nothing is said of what they mean. */
    public static MarkedFile changed(FileEdit edit, int around) {
        List<Line> all = both(lines(edit.before()), lines(edit.after()), List.of(), List.of());
        List<Line> near = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            boolean close = all.subList(Math.max(0, i - around), Math.min(all.size(), i + around + 1)).stream()
                    .anyMatch(line -> line.mark() != Mark.SAME);
            if (close) {
                near.add(all.get(i));
            }
        }
        return new MarkedFile(edit.file(), fate(edit), near);
    }

    private static String fate(FileEdit edit) {
        if (edit.nothing()) {
            return "as it is";
        }
        if (edit.after().isEmpty()) {
            return "taken out";
        }
        boolean link = edit.after().get().link();
        if (edit.before().isEmpty()) {
            return link ? "a new link" : edit.after().get().bytes().length == 0 ? "new and empty" : "new";
        }
        return edit.after().get().bytes().length == 0 ? "emptied" : "changed";
    }

    private static List<String> lines(Optional<FileBody> body) {
        return body.map(each -> (each.link() ? "link to " : "") + each.text())
                .map(text -> text.lines()
                        .limit(MOST)
                        .map(line -> line.replace("\t", "    ").replaceAll("\\p{Cntrl}", "?"))
                        .toList())
                .orElse(List.of());
    }

    private static List<LineFinding> found(
            String file, Optional<FileBody> body, String kernelLine, BoardProfile board) {
        return body.map(each -> StartFilesLint.file(file, each.bytes(), kernelLine, board))
                .orElse(List.of());
    }

    private static List<LineFinding> at(int number, List<LineFinding> found) {
        return found.stream().filter(each -> each.line() == number).toList();
    }

    private static List<Line> plain(List<String> lines, List<LineFinding> found) {
        List<Line> all = new ArrayList<>();
        for (String line : lines) {
            int number = all.size() + 1;
            all.add(new Line(number, Mark.SAME, line, at(number, found)));
        }
        return all;
    }

    private static List<Line> both(
            List<String> before, List<String> after, List<LineFinding> foundBefore, List<LineFinding> foundAfter) {
        List<DiffRow> rows = DiffRowGenerator.create()
                .reportLinesUnchanged(true)
                .lineNormalizer(line -> line)
                .build()
                .generateDiffRows(before, after);
        List<Line> all = new ArrayList<>();
        int old = 0;
        int now = 0;
        for (DiffRow row : rows) {
            boolean goes = row.getTag() == DiffRow.Tag.DELETE || row.getTag() == DiffRow.Tag.CHANGE;
            boolean comes = row.getTag() == DiffRow.Tag.INSERT || row.getTag() == DiffRow.Tag.CHANGE;
            if (goes && old < before.size()) {
                all.add(new Line(++old, Mark.REMOVED, row.getOldLine(), at(old, foundBefore)));
            }
            if (comes && now < after.size()) {
                all.add(new Line(++now, Mark.ADDED, row.getNewLine(), at(now, foundAfter)));
            }
            if (!goes && !comes) {
                old++;
                all.add(new Line(++now, Mark.SAME, row.getNewLine(), at(now, foundAfter)));
            }
        }
        return all;
    }
}
