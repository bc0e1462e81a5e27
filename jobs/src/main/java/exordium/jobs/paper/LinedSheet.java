// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType1Font;
import org.apache.pdfbox.pdmodel.font.Standard14Fonts;

/** Pages of PDF with names on the left and what belongs to them on the right. */
final class LinedSheet {
    private static final float MARGIN = 56;
    private static final float LINE = 15;
    private static final int ACROSS = 76;
    private static final int MOST_PAGES = 200;

    private LinedSheet() {}

    /**
     * Name and value of a line; a value without a name goes on with what stands above it.
     *
     * @param box whether an empty box stands before it, and seen: whether room is left to write down what is seen
     */
    record Line(String name, String value, boolean box, boolean seen) {
        Line(String name, String value) {
            this(name, value, false, false);
        }
    }

    /** Where title: on the page; about: of the document. As many pages as it takes. */
    static void save(String title, String about, List<Line> lines, Path file) throws IOException {
        try (PDDocument document = new PDDocument()) {
            PDFont bold = new PDType1Font(Standard14Fonts.FontName.HELVETICA_BOLD);
            PDFont plain = new PDType1Font(Standard14Fonts.FontName.HELVETICA);
            int next = 0;
            do {
                PDPage page = new PDPage(PDRectangle.A4);
                document.addPage(page);
                try (PDPageContentStream ink = new PDPageContentStream(document, page)) {
                    float y = PDRectangle.A4.getHeight() - MARGIN - 20;
                    LabelSheet.words(
                            ink,
                            bold,
                            18,
                            MARGIN,
                            y,
                            next == 0 ? title : title + ", page " + document.getNumberOfPages());
                    y -= 2 * LINE;
                    while (next < lines.size() && y - height(lines.get(next)) > MARGIN) {
                        y = line(ink, bold, plain, lines.get(next), y);
                        next++;
                    }
                }
            } while (next < lines.size() && document.getNumberOfPages() < MOST_PAGES);
            document.getDocumentInformation().setTitle(about);
            document.save(file.toFile());
        }
    }

    private static float height(Line line) {
        return LINE * (wrapped(line.value()).size() + (line.seen() ? 2 : 0));
    }

    private static float line(PDPageContentStream ink, PDFont bold, PDFont plain, Line line, float top)
            throws IOException {
        float y = top;
        if (line.box()) {
            ink.addRect(MARGIN - 16, y - 1, 9, 9);
            ink.stroke();
        }
        LabelSheet.words(ink, bold, 10, MARGIN, y, line.name());
        for (String part : wrapped(line.value())) {
            LabelSheet.words(ink, plain, 10, MARGIN + 110, y, part);
            y -= LINE;
        }
        if (line.seen()) {
            LabelSheet.words(ink, plain, 10, MARGIN + 110, y, "Seen:");
            ink.moveTo(MARGIN + 142, y - 2);
            ink.lineTo(PDRectangle.A4.getWidth() - MARGIN, y - 2);
            ink.stroke();
            y -= 2 * LINE;
        }
        return y;
    }

    private static List<String> wrapped(String text) {
        List<String> parts = new ArrayList<>();
        StringBuilder part = new StringBuilder();
        for (String word : text.split(" ")) {
            if (part.length() + word.length() > ACROSS && part.length() > 0) {
                parts.add(part.toString());
                part.setLength(0);
            }
            part.append(part.length() == 0 ? "" : " ").append(word);
        }
        parts.add(part.toString());
        return parts;
    }
}
