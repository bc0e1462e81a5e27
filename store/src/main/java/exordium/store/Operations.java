// SPDX-License-Identifier: Apache-2.0
package exordium.store;

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
 * Every deed that was begun on a medium, writes of images among them ({@link Writes}). A row is put down before the first byte
 * moves and is closed with what came of it; a row whose process is gone is found at the next opening.
 */
public final class Operations {
    public static final String RUNNING = "running";
    public static final String DONE = "done";
    public static final String STOPPED = "stopped";
    public static final String FAILED = "failed";
    public static final String INTERRUPTED = "interrupted";

    private final Jdbi jdbi;
    private final Clock clock;

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

    /** One deed with what came of it. */
    public record Operation(
            long id, Action deed, Instant started, Optional<Instant> ended, String ending, String words) {}

    /** Where words: what is being done, for whoever has to wait for it. */
    public long begin(Action deed, String words) {
        return begin(deed, words, Optional.empty());
    }

    /** Where image: the one a write writes. */
    long begin(Action deed, String words, Optional<String> image) {
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
    public void end(long id, String ending, boolean touched, String words) {
        end(id, ending, touched, words, Optional.empty());
    }

    /** Where report: a write's own, as it is kept. */
    void end(long id, String ending, boolean touched, String words, Optional<String> report) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "UPDATE operation SET ended = :ended, ending = :ending, touches = :touched,"
                                + " words = :words, report = :report WHERE id = :id")
                .bind("ended", clock.instant().toString())
                .bind("ending", ending)
                .bind("touched", touched)
                .bind("words", words)
                .bind("report", report.orElse(null))
                .bind("id", id)
                .execute());
    }

    /** All but writes, oldest first. */
    public List<Operation> all() {
        return jdbi.withHandle(
                handle -> handle.createQuery("SELECT * FROM operation WHERE kind <> 'write' ORDER BY started, id")
                        .map((row, context) -> operation(row))
                        .list());
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
        return jdbi.withHandle(handle -> handle.createQuery(
                        """
                        SELECT * FROM operation WHERE kind <> 'write' AND touches = 1 AND medium IS NOT NULL
                        ORDER BY started, id
                        """)
                .map((row, context) -> operation(row))
                .collect(Collectors.toMap(
                        each -> each.deed().medium().orElseThrow(), each -> each, (first, last) -> last)));
    }

    /** Closes the rows whose process is gone; gives them to be told. */
    public List<Operation> closeInterrupted() {
        List<Operation> gone = ofProcess("SELECT * FROM operation WHERE ending = 'running' AND kind <> 'write'", false);
        return gone.stream().filter(each -> closeInterrupted(each.id())).toList();
    }

    /** True for the one process of several that closed it. */
    boolean closeInterrupted(long id) {
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
                row.getString("ending"),
                row.getString("words"));
    }
}
