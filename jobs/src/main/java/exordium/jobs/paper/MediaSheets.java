// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.finding.OverBound;
import exordium.core.finding.PlainText;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.InputFile;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.MediaRegister;
import exordium.store.Media;
import java.io.IOException;
import java.io.Reader;
import java.io.StringReader;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.DuplicateHeaderMode;

/** The register of media on paper and in files: a PDF sheet of labels, CSV (RFC 4180) out and in. */
public final class MediaSheets {
    private static final long LARGEST = 16L << 20;
    private static final int LONGEST_CELL = 10_000;
    private static final String[] COLUMNS = {
        "id",
        "label",
        "name",
        "kind",
        "serial",
        "bytes",
        "place",
        "state",
        "note",
        "since",
        "ratedWrites",
        "written",
        "diskId",
        "holds"
    };

    private final Workbench workbench;
    private final MediaRegister register;

    public MediaSheets(Workbench workbench) {
        this.workbench = workbench;
        this.register = new MediaRegister(workbench);
    }

    /** Labels everything that has none, then prints them all. @return how many */
    public int labels(Path file) throws IOException {
        register.labelAll();
        List<LabelSheet.Label> labels = new ArrayList<>();
        for (MediaRegister.Entry entry : register.all()) {
            if (entry.details().state() != Media.State.RETIRED) {
                labels.add(new LabelSheet.Label(
                        entry.details().label(),
                        entry.medium().name() + ", " + entry.medium().size().said(),
                        entry.medium().id()));
            }
        }
        LabelSheet.write(labels, file);
        return labels.size();
    }

    public String csv() throws IOException {
        StringWriter text = new StringWriter();
        CSVFormat format = CSVFormat.RFC4180.builder().setHeader(COLUMNS).get();
        try (CSVPrinter printer = new CSVPrinter(text, format)) {
            for (MediaRegister.Entry entry : register.all()) {
                Media.Medium medium = entry.medium();
                Media.Details details = entry.details();
                printer.printRecord(
                        medium.id(),
                        PlainText.cell(details.label()),
                        PlainText.cell(medium.name()),
                        medium.kind(),
                        PlainText.cell(medium.serial()),
                        medium.size().bytes(),
                        PlainText.cell(medium.place()),
                        details.state().code(),
                        PlainText.cell(details.note()),
                        details.since().map(LocalDate::toString).orElse(""),
                        medium.ratedWrites()
                                .map(rated -> String.valueOf(rated.bytes()))
                                .orElse(""),
                        medium.written().bytes(),
                        details.diskId().orElse(""),
                        PlainText.cell(details.holds()));
            }
        }
        return text.toString();
    }

    /** What reading a file came to. */
    public record TakenIn(int changed, List<String> unknown) {}

    /**
     * Takes label, place, state, note and since of media that are in the register; the file is checked whole before
     * anything is changed. Ids that are not there are told, and left out.
     */
    public TakenIn takeIn(Path file) throws IOException {
        List<CSVRecord> records = records(file);
        Map<String, Media.Listed> known = new HashMap<>();
        workbench
                .workspace()
                .media()
                .listed()
                .forEach(each -> known.put(each.medium().id(), each));
        List<Row> rows = new ArrayList<>();
        List<String> unknown = new ArrayList<>();
        for (CSVRecord record : records) {
            String id = value(record, "id", "");
            Media.Listed medium = known.get(id);
            if (medium == null) {
                unknown.add(id);
            } else {
                rows.add(row(medium, record));
            }
        }
        // All of it or nothing, also where the power goes.
        workbench.workspace().inTransaction(() -> {
            for (Row row : rows) {
                workbench.workspace().media().put(row.medium().id(), row.details());
                workbench.workspace().media().place(row.medium().id(), row.place());
            }
            return null;
        });
        return new TakenIn(rows.size(), List.copyOf(unknown));
    }

    private static List<CSVRecord> records(Path file) throws IOException {
        String name = String.valueOf(file.getFileName());
        try (Reader reader = new StringReader(InputFile.text(name, InputFile.read(file, LARGEST)));
                CSVParser parser = CSVFormat.RFC4180
                        .builder()
                        .setHeader()
                        .setSkipHeaderRecord(true)
                        .setDuplicateHeaderMode(DuplicateHeaderMode.DISALLOW)
                        .get()
                        .parse(reader)) {
            if (!parser.getHeaderNames().contains("id")) {
                throw new UnreadableInput(file.getFileName() + " has no column named id in its first line.");
            }
            List<CSVRecord> records = new ArrayList<>();
            for (CSVRecord record : parser) {
                for (String cell : record) {
                    requireShort(file, parser.getCurrentLineNumber(), cell);
                }
                records.add(record);
            }
            return records;
        } catch (IllegalArgumentException e) {
            throw new UnreadableInput(
                    file.getFileName()
                            + " is no table that can be taken in: a column stands in it twice or has no name.",
                    e);
        } catch (UncheckedIOException e) {
            throw new UnreadableInput(name + " is no CSV file as RFC 4180 has it.", e);
        }
    }

    private static void requireShort(Path file, long line, String cell) throws OverBound {
        if (cell.length() > LONGEST_CELL) {
            throw new OverBound(
                    file.getFileName() + ", line " + line + ": a cell has more than " + LONGEST_CELL
                            + " characters; nothing was taken in.",
                    LONGEST_CELL);
        }
    }

    private record Row(Media.Medium medium, Media.Details details, String place) {}

    private static Row row(Media.Listed listed, CSVRecord record) throws UnreadableInput {
        Media.Medium medium = listed.medium();
        Media.Details was = listed.details();
        Optional<LocalDate> since = was.since();
        String date = value(record, "since", since.map(LocalDate::toString).orElse(""));
        try {
            since = date.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(date));
        } catch (DateTimeParseException e) {
            throw new UnreadableInput(
                    "The row of " + medium.id() + ": \"" + date + "\" is no date such as 2026-09-02.", e);
        }
        return new Row(
                medium,
                new Media.Details(
                        value(record, "label", was.label()),
                        Media.State.of(value(record, "state", was.state().code())),
                        value(record, "note", was.note()),
                        since,
                        was.diskId(),
                        was.holds(),
                        was.lookedAt()),
                value(record, "place", medium.place()));
    }

    private static String value(CSVRecord record, String column, String otherwise) {
        return record.isMapped(column) && record.isSet(column) ? PlainText.ofCell(record.get(column)) : otherwise;
    }
}
