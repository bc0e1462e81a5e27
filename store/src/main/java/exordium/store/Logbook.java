// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.finding.Step;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jdbi.v3.core.Jdbi;

/** What was done and found, oldest first. Entries are added and never changed; the database refuses anything else. */
public final class Logbook {
    private final Jdbi jdbi;
    private final Clock clock;

    Logbook(Jdbi jdbi, Clock clock) {
        this.jdbi = jdbi;
        this.clock = clock;
    }

    /** One entry; kind: a stable code, such as write-verified. */
    public record Entry(
            long id,
            Instant at,
            Optional<String> board,
            String step,
            String kind,
            String text,
            Optional<String> details) {}

    public void add(Optional<String> board, Step step, String kind, String text, Optional<String> details) {
        addPast(clock.instant(), board, step, kind, text, details);
    }

    /** Puts down something of the past; for demo history and for what is found out later. */
    public void addPast(
            Instant at, Optional<String> board, Step step, String kind, String text, Optional<String> details) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO logbook (at, board, step, kind, text, details)
                        VALUES (:at, :board, :step, :kind, :text, :details)
                        """)
                .bind("at", at)
                .bind("board", board)
                .bind("step", step.code())
                .bind("kind", kind)
                .bind("text", text)
                .bind("details", details)
                .execute());
    }

    public List<Entry> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM logbook ORDER BY at, id")
                .mapTo(Entry.class)
                .list());
    }

    /** All of one kind, oldest first. */
    public List<Entry> of(String kind) {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM logbook WHERE kind = :kind ORDER BY at, id")
                .bind("kind", kind)
                .mapTo(Entry.class)
                .list());
    }

    /** The newest of a board, newest first. */
    public List<Entry> newestOf(String board, int most) {
        return jdbi.withHandle(handle -> handle.createQuery(
                        "SELECT * FROM logbook WHERE board = :board ORDER BY at DESC, id DESC LIMIT :most")
                .bind("board", board)
                .bind("most", most)
                .mapTo(Entry.class)
                .list());
    }

    public Optional<Entry> last() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM logbook ORDER BY at DESC, id DESC LIMIT 1")
                .mapTo(Entry.class)
                .findOne());
    }

    /** The boards of which something of this kind was ever put down. */
    public Set<String> boardsWith(String kind) {
        return jdbi.withHandle(handle -> handle.createQuery(
                        "SELECT DISTINCT board FROM logbook WHERE kind = :kind AND board IS NOT NULL")
                .bind("kind", kind)
                .mapTo(String.class)
                .set());
    }
}
