// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import exordium.core.quantity.Coded;
import exordium.core.writing.Ending;
import exordium.core.writing.WriteReport;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jdbi.v3.core.Jdbi;

/**
 * Every deed that was begun, writes of images among them. A row is put down before the first byte moves and is closed with what
 * came of it; a row whose process is gone is found at the next opening.
 */
public final class Operations {
    /** The kind of those that write an image. */
    public static final String WRITE = "write";
    /** Something goes into a port of a board. */
    public static final String PLUG = "plug";
    /** And comes out of it. */
    public static final String UNPLUG = "unplug";

    private final Jdbi jdbi;
    private final Clock clock;
    private static final ObjectMapper JSON = new ObjectMapper().registerModule(new Jdk8Module());

    Operations(Jdbi jdbi, Clock clock) {
        this.jdbi = jdbi;
        this.clock = clock;
    }

    /**
     * What is done to what.
     *
     * @param kind a stable code, such as clear
     * @param key what the target is, whatever it is called
     * @param touches whether it changes what is on the medium
     */
    public record Action(
            String kind, Optional<String> board, Optional<String> medium, String target, String key, boolean touches) {}

    /**
     * One deed with what came of it.
     *
     * @param image what a write writes; empty for every other deed
     */
    public record Operation(
            long id,
            Action deed,
            Instant started,
            Optional<Instant> ended,
            Ending ending,
            String words,
            String image,
            Optional<String> report) {
        public boolean isWrite() {
            return deed.kind().equals(WRITE);
        }

        public boolean runs() {
            return ending == Ending.RUNNING;
        }
    }

    /** Where words: what is being done, for whoever has to wait for it. */
    public long begin(Action deed, String words) {
        return begin(deed, words, Optional.empty());
    }

    /** A write: the deed of putting an image onto a target. */
    public long beginWrite(Optional<String> board, Optional<String> medium, String target, String key, String image) {
        return begin(
                new Action(WRITE, board, medium, target, key, true),
                "Writing " + image + " to " + target,
                Optional.of(image));
    }

    private long begin(Action deed, String words, Optional<String> image) {
        RunningProcess own = RunningProcess.own();
        return jdbi.withHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO operation
                            (kind, started, board, medium, target, target_key, touches, image, process, process_start, words)
                        VALUES (:kind, :started, :board, :medium, :target, :key, :touches, :image, :process, :start, :words)
                        """)
                .bind("kind", deed.kind())
                .bind("started", clock.instant().toString())
                .bind("board", deed.board().orElse(null))
                .bind("medium", deed.medium().orElse(null))
                .bind("target", deed.target())
                .bind("key", deed.key())
                .bind("touches", deed.touches())
                .bind("image", image.orElse(null))
                .bind("words", words)
                .bind("process", own.number())
                .bind("start", own.start())
                .executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class)
                .one());
    }

    /** Where touched: whether it changed anything on the medium after all. */
    public void end(long id, Ending ending, boolean touched, String words) {
        end(id, ending, touched, words, Optional.empty());
    }

    /** Closes a write with what is reported of it. */
    public void end(long id, WriteReport report) {
        end(id, Ending.of(report.verdict()), true, report.sentence(), Optional.of(text(report)));
    }

    private void end(long id, Ending ending, boolean touched, String words, Optional<String> report) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "UPDATE operation SET ended = :ended, ending = :ending, touches = :touched,"
                                + " words = :words, report = :report WHERE id = :id")
                .bind("ended", clock.instant().toString())
                .bind("ending", ending.code())
                .bind("touched", touched)
                .bind("words", words)
                .bind("report", report.orElse(null))
                .bind("id", id)
                .execute());
    }

    private String text(WriteReport report) {
        try {
            return JSON.writeValueAsString(report);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Puts a past write down; for demo history. */
    public void addPast(Instant at, String board, String medium, String target, String image, Ending ending) {
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
                .bind("ending", ending.code())
                .execute());
    }

    /** All but writes, oldest first. */
    public List<Operation> all() {
        return list("SELECT * FROM operation WHERE kind <> 'write' ORDER BY started, id");
    }

    /** Writes alone, oldest first. */
    public List<Operation> writes() {
        return list("SELECT * FROM operation WHERE kind = 'write' ORDER BY started, id");
    }

    private List<Operation> list(String query) {
        return jdbi.withHandle(handle ->
                handle.createQuery(query).map((row, context) -> operation(row)).list());
    }

    /** Those that run at this moment, in whatever process, writes among them. */
    public List<Operation> running() {
        return ofProcess("SELECT * FROM operation WHERE ending = 'running' ORDER BY started, id", true);
    }

    /** The number of the newest row, writes among them; 0 where there is none. */
    public long last() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT coalesce(max(id), 0) FROM operation")
                .mapTo(Long.class)
                .one());
    }

    private List<Operation> ofProcess(String query, boolean alive) {
        return jdbi
                .withHandle(handle -> handle.createQuery(query)
                        .map((row, context) ->
                                new RunningProcess(row.getLong("process"), row.getString("process_start")).alive()
                                                == alive
                                        ? Optional.of(operation(row))
                                        : Optional.<Operation>empty())
                        .list())
                .stream()
                .flatMap(Optional::stream)
                .toList();
    }

    /** By medium, the newest deed beside a write that changed what is on it. */
    public Map<String, Operation> lastTouching() {
        return byMedium(
                """
                SELECT * FROM operation WHERE kind <> 'write' AND touches = 1 AND medium IS NOT NULL ORDER BY started, id
                """);
    }

    /** By medium, the newest write. */
    public Map<String, Operation> lastWrites() {
        return byMedium("SELECT * FROM operation WHERE kind = 'write' AND medium IS NOT NULL ORDER BY started, id");
    }

    /**
     * Each time a medium went into a board or came out of it, the newest last. Rows of before do not say which medium it was.
     */
    public List<Operation> plugs() {
        return list("SELECT * FROM operation WHERE kind IN ('" + PLUG + "', '" + UNPLUG
                + "') AND ending = 'done' ORDER BY started, id");
    }

    private Map<String, Operation> byMedium(String query) {
        return list(query).stream()
                .collect(Collectors.toMap(
                        each -> each.deed().medium().orElseThrow(), each -> each, (first, last) -> last));
    }

    /** Closes the rows whose process is gone; gives this process those it closed, to be told. */
    public List<Operation> closeInterrupted() {
        List<Operation> gone =
                ofProcess("SELECT * FROM operation WHERE ending = 'running' ORDER BY started, id", false);
        return gone.stream().filter(each -> closeInterrupted(each.id())).toList();
    }

    private boolean closeInterrupted(long id) {
        return jdbi.withHandle(handle -> handle.createUpdate(
                                "UPDATE operation SET ending = 'interrupted', ended = :now WHERE id = :id AND ending = 'running'")
                        .bind("now", clock.instant().toString())
                        .bind("id", id)
                        .execute())
                == 1;
    }

    private static Operation operation(ResultSet row) throws SQLException {
        return new Operation(
                row.getLong("id"),
                new Action(
                        row.getString("kind"),
                        Optional.ofNullable(row.getString("board")),
                        Optional.ofNullable(row.getString("medium")),
                        row.getString("target"),
                        row.getString("target_key"),
                        row.getBoolean("touches")),
                Instant.parse(row.getString("started")),
                Optional.ofNullable(row.getString("ended")).map(Instant::parse),
                Coded.of(Ending.class, row.getString("ending")),
                row.getString("words"),
                Optional.ofNullable(row.getString("image")).orElse(""),
                Optional.ofNullable(row.getString("report")));
    }
}
