// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import exordium.core.finding.Step;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.writing.Difference;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Workbench;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType1Font;
import org.apache.pdfbox.pdmodel.font.Standard14Fonts;

/** The report of a write as a file for others: a page of PDF with everything needed to trust it, or JSON. */
public final class ReportSheet {
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);
    private static final float MARGIN = 56;
    private static final float LINE = 15;
    private static final int ACROSS = 92;
    private static final int MOST_PLACES = 20;

    private ReportSheet() {}

    /** Both forms, side by side in the workspace's folder of reports; says where. */
    public static Path save(Workbench workbench, WriteReport report) throws IOException {
        Workspace workspace = workbench.workspace();
        Instant now = workspace.clock().instant();
        Path folder = Files.createDirectories(workspace.folder().resolve("reports"));
        String name = STAMP.format(now) + "-" + report.target().replaceAll("[^A-Za-z0-9._-]", "_");
        Path pdf = folder.resolve(name + ".pdf");
        pdf(report, now, pdf);
        json(report, folder.resolve(name + ".json"));
        workspace
                .log()
                .add(
                        Optional.empty(),
                        Step.IMAGE,
                        "report-saved",
                        "The report on " + report.target() + " is in " + pdf + ", and beside it as JSON.",
                        Optional.empty());
        return pdf;
    }

    static void json(WriteReport report, Path file) throws IOException {
        new ObjectMapper()
                .registerModule(new Jdk8Module())
                .enable(SerializationFeature.INDENT_OUTPUT)
                .writeValue(file.toFile(), report);
    }

    /** Name and value of each line of the page. */
    record Line(String name, String value) {}

    static List<Line> lines(WriteReport report, Instant now) {
        List<Line> lines = new ArrayList<>();
        lines.add(new Line("Verdict", report.verdict().code()));
        lines.add(new Line("", report.sentence()));
        lines.add(new Line("Date", now.toString()));
        lines.add(new Line("Image", report.image()));
        report.imageSha256().ifPresent(sum -> lines.add(new Line("SHA-256", sum)));
        lines.add(new Line("Target", report.target()));
        lines.add(new Line("Mode", report.mode().code()));
        lines.add(new Line("Image holds", ByteSize.of(report.plannedBytes()).exact()));
        lines.add(new Line(
                "Written",
                ByteSize.of(report.writtenBytes()).exact() + " at "
                        + report.writeRate().said()));
        if (report.skippedBytes() > 0) {
            lines.add(new Line("Not written", ByteSize.of(report.skippedBytes()).exact()));
        }
        report.verification().ifPresent(proof -> {
            lines.add(new Line(
                    "Read back",
                    ByteSize.of(proof.checkedBytes()).exact() + " at "
                            + report.readRate().said()
                            + (proof.pastCache() ? ", past the page cache" : ", not past the page cache")));
            lines.add(new Line(
                    "Places that differ", String.valueOf(proof.differences().size())));
            for (Difference each :
                    proof.differences().stream().limit(MOST_PLACES).toList()) {
                lines.add(new Line("", "byte " + each.offset() + ", " + each.bytes() + " bytes"));
            }
        });
        lines.add(new Line("In all", Span.said(Duration.ofMillis(Math.round(report.seconds() * 1000)))));
        return lines;
    }

    static void pdf(WriteReport report, Instant now, Path file) throws IOException {
        try (PDDocument document = new PDDocument()) {
            PDFont bold = new PDType1Font(Standard14Fonts.FontName.HELVETICA_BOLD);
            PDFont plain = new PDType1Font(Standard14Fonts.FontName.HELVETICA);
            PDPage page = new PDPage(PDRectangle.A4);
            document.addPage(page);
            try (PDPageContentStream ink = new PDPageContentStream(document, page)) {
                float y = PDRectangle.A4.getHeight() - MARGIN - 20;
                LabelSheet.words(ink, bold, 18, MARGIN, y, "Report of a write");
                y -= 2 * LINE;
                for (Line line : lines(report, now)) {
                    LabelSheet.words(ink, bold, 10, MARGIN, y, line.name());
                    for (String part : wrapped(line.value())) {
                        LabelSheet.words(ink, plain, 10, MARGIN + 110, y, part);
                        y -= LINE;
                    }
                }
            }
            document.getDocumentInformation().setTitle("Report of a write to " + report.target());
            document.save(file.toFile());
        }
    }

    private static List<String> wrapped(String text) {
        List<String> parts = new ArrayList<>();
        StringBuilder part = new StringBuilder();
        for (String word : text.split(" ")) {
            if (part.length() + word.length() > ACROSS - 16 && part.length() > 0) {
                parts.add(part.toString());
                part.setLength(0);
            }
            part.append(part.length() == 0 ? "" : " ").append(word);
        }
        parts.add(part.toString());
        return parts;
    }
}
