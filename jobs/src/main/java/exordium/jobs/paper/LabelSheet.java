// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType1Font;
import org.apache.pdfbox.pdmodel.font.Standard14Fonts;

/** Labels for media on A4 sheets, three across and eight down: the short name, what it is, and its register id as a QR code. */
public final class LabelSheet {
    static final int ACROSS = 3;
    static final int DOWN = 8;
    private static final float MARGIN = 24;
    private static final int QR_MODULES = 29;

    private LabelSheet() {}

    /** One label. */
    record Label(String name, String what, String id) {}

    static void write(List<Label> labels, Path file) throws IOException {
        try (PDDocument document = new PDDocument()) {
            PDFont bold = new PDType1Font(Standard14Fonts.FontName.HELVETICA_BOLD);
            PDFont plain = new PDType1Font(Standard14Fonts.FontName.HELVETICA);
            for (int from = 0; from < labels.size(); from += ACROSS * DOWN) {
                PDPage page = new PDPage(PDRectangle.A4);
                document.addPage(page);
                try (PDPageContentStream ink = new PDPageContentStream(document, page)) {
                    for (int i = from; i < Math.min(labels.size(), from + ACROSS * DOWN); i++) {
                        label(ink, labels.get(i), i - from, bold, plain);
                    }
                }
            }
            document.getDocumentInformation().setTitle("Labels for media");
            document.save(file.toFile());
        }
    }

    private static void label(PDPageContentStream ink, Label label, int place, PDFont bold, PDFont plain)
            throws IOException {
        float wide = (PDRectangle.A4.getWidth() - 2 * MARGIN) / ACROSS;
        float tall = (PDRectangle.A4.getHeight() - 2 * MARGIN) / DOWN;
        float x = MARGIN + place % ACROSS * wide;
        float y = PDRectangle.A4.getHeight() - MARGIN - (place / ACROSS + 1) * tall;
        ink.setLineWidth(0.3f);
        ink.addRect(x + 2, y + 2, wide - 4, tall - 4);
        ink.stroke();
        float side = tall - 26;
        qr(ink, label.id(), x + 10, y + 13, side);
        float left = x + 18 + side;
        words(ink, bold, 20, left, y + tall - 38, label.name());
        words(ink, plain, 8, left, y + tall - 54, label.what());
        words(ink, plain, 7, left, y + 16, label.id());
    }

    static void words(PDPageContentStream ink, PDFont font, float size, float x, float y, String text)
            throws IOException {
        ink.beginText();
        ink.setFont(font, size);
        ink.newLineAtOffset(x, y);
        // The standard typefaces of PDF know Latin letters only.
        ink.showText(text.replaceAll("[^\\x20-\\x7E\\xA0-\\xFF]", "?"));
        ink.endText();
    }

    private static void qr(PDPageContentStream ink, String id, float x, float y, float side) throws IOException {
        BitMatrix matrix;
        try {
            matrix = new QRCodeWriter().encode(id, BarcodeFormat.QR_CODE, QR_MODULES, QR_MODULES);
        } catch (WriterException e) {
            throw new IOException("no QR code for " + id, e);
        }
        float module = side / matrix.getHeight();
        for (int row = 0; row < matrix.getHeight(); row++) {
            for (int column = 0; column < matrix.getWidth(); column++) {
                if (matrix.get(column, row)) {
                    ink.addRect(x + column * module, y + side - (row + 1) * module, module, module);
                }
            }
        }
        ink.fill();
    }
}
