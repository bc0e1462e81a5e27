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

/** The report of a write as a file for others: a page of PDF with everything needed to trust it, or JSON. */
public final class ReportSheet {
    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);
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

    static List<LinedSheet.Line> lines(WriteReport report, Instant now) {
        List<LinedSheet.Line> lines = new ArrayList<>();
        lines.add(new LinedSheet.Line("Verdict", report.verdict().code()));
        lines.add(new LinedSheet.Line("", report.sentence()));
        lines.add(new LinedSheet.Line("Date", now.toString()));
        lines.add(new LinedSheet.Line("Image", report.image()));
        report.imageSha256().ifPresent(sum -> lines.add(new LinedSheet.Line("SHA-256", sum)));
        lines.add(new LinedSheet.Line("Target", report.target()));
        lines.add(new LinedSheet.Line("Mode", report.mode().code()));
        lines.add(new LinedSheet.Line(
                "Image holds", ByteSize.of(report.plannedBytes()).exact()));
        lines.add(new LinedSheet.Line(
                "Written",
                ByteSize.of(report.writtenBytes()).exact() + " at "
                        + report.writeRate().said()));
        if (report.skippedBytes() > 0) {
            lines.add(new LinedSheet.Line(
                    "Not written", ByteSize.of(report.skippedBytes()).exact()));
        }
        report.verification().ifPresent(proof -> {
            lines.add(new LinedSheet.Line(
                    "Read back",
                    ByteSize.of(proof.checkedBytes()).exact() + " at "
                            + report.readRate().said()
                            + (proof.pastCache() ? ", past the page cache" : ", not past the page cache")));
            lines.add(new LinedSheet.Line(
                    "Places that differ", String.valueOf(proof.differences().size())));
            for (Difference each :
                    proof.differences().stream().limit(MOST_PLACES).toList()) {
                lines.add(new LinedSheet.Line("", "byte " + each.offset() + ", " + each.bytes() + " bytes"));
            }
        });
        lines.add(new LinedSheet.Line("In all", Span.said(Duration.ofMillis(Math.round(report.seconds() * 1000)))));
        return lines;
    }

    static void pdf(WriteReport report, Instant now, Path file) throws IOException {
        LinedSheet.save("Report of a write", "Report of a write to " + report.target(), lines(report, now), file);
    }
}
