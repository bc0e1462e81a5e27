// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import exordium.core.finding.Step;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteReport;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Jdbi;

/**
 * Every write that was begun: the rows of {@link Operations} that write an image. A row is put down before the first byte moves
 * and is closed with the report; a row whose process is gone is marked as interrupted the next time the workspace is opened.
 */
public final class Writes {
    public static final String WRITING = Operations.RUNNING;
    static final String INTERRUPTED = Operations.INTERRUPTED;

    private final Jdbi jdbi;
    private final Operations operations;
    private final Logbook log;
    private final ObjectMapper json = new ObjectMapper().registerModule(new Jdk8Module());

    Writes(Jdbi jdbi, Operations operations, Logbook log) {
        this.jdbi = jdbi;
        this.operations = operations;
        this.log = log;
    }

    /**
     * One write.
     *
     * @param target what its owner calls it
     * @param key what it is, whatever it is called; empty in rows of older versions
     * @param ending a verdict's code, "running" or "interrupted"
     */
    public record Write(
            long id,
            Instant started,
            Optional<String> board,
            Optional<String> medium,
            String target,
            String key,
            String image,
            String ending,
            Optional<String> report) {

        /** Whether it ended in a way from which it can go on, as long as its journal is there. */
        public boolean canGoOn() {
            return List.of(INTERRUPTED, Verdict.CANCELLED.code(), Verdict.FAILED.code())
                    .contains(ending);
        }
    }

    public List<Write> all() {
        return jdbi.withHandle(
                handle -> handle.createQuery("SELECT * FROM operation WHERE kind = 'write' ORDER BY started, id")
                        .map((row, context) -> write(row))
                        .list());
    }

    /** The newest on each medium. */
    public Map<String, Write> lastByMedium() {
        return jdbi.withHandle(handle -> handle.createQuery(
                        "SELECT * FROM operation WHERE kind = 'write' AND medium IS NOT NULL ORDER BY started, id")
                .map((row, context) -> write(row))
                .collect(Collectors.toMap(each -> each.medium().orElseThrow(), each -> each, (first, last) -> last)));
    }

    public long begin(Optional<String> board, Optional<String> medium, String target, String key, String image) {
        return operations.begin(
                new Operations.Action("write", board, medium, target, key, true),
                "Writing " + image + " to " + target,
                Optional.of(image));
    }

    public void end(long id, WriteReport report) {
        operations.end(id, report.verdict().code(), true, report.sentence(), Optional.of(text(report)));
    }

    /** Closes a write that never came to a report. */
    public void end(long id, Verdict verdict) {
        operations.end(id, verdict.code(), true, "");
    }

    /** Puts a past write down; for demo history. */
    public void addPast(Instant at, String board, String medium, String target, String image, String ending) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO operation (kind, started, ended, board, medium, target, touches, image, ending)
                        VALUES ('write', :at, :at, :board, :medium, :target, 1, :image, :ending)
                        """)
                .bind("at", at.toString())
                .bind("board", board)
                .bind("medium", medium)
                .bind("target", target)
                .bind("image", image)
                .bind("ending", ending)
                .execute());
    }

    void markInterrupted() {
        record Open(Write write, RunningProcess by) {}
        List<Open> open = jdbi.withHandle(
                handle -> handle.createQuery("SELECT * FROM operation WHERE ending = 'running' AND kind = 'write'")
                        .map((row, context) -> new Open(
                                write(row), new RunningProcess(row.getLong("process"), row.getString("process_start"))))
                        .list());
        for (Open each : open) {
            if (!each.by().alive()) {
                jdbi.useTransaction(handle -> {
                    if (operations.closeInterrupted(each.write().id())) {
                        log.add(
                                each.write().board(),
                                Step.IMAGE,
                                "write-interrupted",
                                "The write of " + each.write().image() + " to "
                                        + each.write().target()
                                        + " was cut off. The target is not to be used until it is written again.",
                                Optional.empty());
                    }
                });
            }
        }
    }

    private String text(WriteReport report) {
        try {
            return json.writeValueAsString(report);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    private static Write write(ResultSet row) throws SQLException {
        return new Write(
                row.getLong("id"),
                Instant.parse(row.getString("started")),
                Optional.ofNullable(row.getString("board")),
                Optional.ofNullable(row.getString("medium")),
                row.getString("target"),
                row.getString("target_key"),
                row.getString("image"),
                row.getString("ending"),
                Optional.ofNullable(row.getString("report")));
    }
}
