// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.paper;

import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.MediaRegister;
import exordium.store.Media;
import java.io.IOException;
import java.io.Reader;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;

/** The register of media on paper and in files: a PDF sheet of labels, CSV (RFC 4180) out and in. */
public final class MediaSheets {
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
                        details.label(),
                        medium.name(),
                        medium.kind(),
                        medium.serial(),
                        medium.size().bytes(),
                        medium.place(),
                        details.state().code(),
                        details.note(),
                        details.since().map(LocalDate::toString).orElse(""),
                        medium.ratedWrites()
                                .map(rated -> String.valueOf(rated.bytes()))
                                .orElse(""),
                        medium.written().bytes(),
                        details.diskId().orElse(""),
                        details.holds());
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
        List<CSVRecord> records;
        try (Reader reader = Files.newBufferedReader(file);
                CSVParser parser = CSVFormat.RFC4180
                        .builder()
                        .setHeader()
                        .setSkipHeaderRecord(true)
                        .get()
                        .parse(reader)) {
            if (!parser.getHeaderNames().contains("id")) {
                throw new UnreadableInput(file.getFileName() + " has no column named id in its first line.");
            }
            records = parser.getRecords();
        } catch (IllegalArgumentException | java.io.UncheckedIOException e) {
            throw new UnreadableInput(file.getFileName() + " is no CSV file as RFC 4180 has it.", e);
        }
        List<Row> rows = new ArrayList<>();
        List<String> unknown = new ArrayList<>();
        for (CSVRecord record : records) {
            Optional<Media.Medium> medium = workbench.workspace().media().all().stream()
                    .filter(each -> each.id().equals(record.get("id")))
                    .findFirst();
            if (medium.isPresent()) {
                rows.add(row(medium.get(), record));
            } else {
                unknown.add(record.get("id"));
            }
        }
        for (Row row : rows) {
            workbench.workspace().media().put(row.medium().id(), row.details());
            workbench.workspace().media().place(row.medium().id(), row.place());
        }
        return new TakenIn(rows.size(), List.copyOf(unknown));
    }

    private record Row(Media.Medium medium, Media.Details details, String place) {}

    private Row row(Media.Medium medium, CSVRecord record) throws UnreadableInput {
        Media.Details was = workbench.workspace().media().details(medium.id());
        Optional<LocalDate> since = was.since();
        String date = value(record, "since", since.map(LocalDate::toString).orElse(""));
        try {
            since = date.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(date));
        } catch (DateTimeParseException e) {
            throw new UnreadableInput(
                    "Line " + record.getParser().getCurrentLineNumber() + ": \"" + date
                            + "\" is no date such as 2026-09-02.",
                    e);
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
        return record.isMapped(column) && record.isSet(column) ? record.get(column) : otherwise;
    }
}
