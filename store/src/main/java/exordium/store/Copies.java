// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;

/** Proven copies; one that was not proven is never put down. */
public final class Copies {
    private final Jdbi jdbi;

    Copies(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /** One copy; file: relative to the vault, before: the change it was made before, such as "firmware". */
    public record Copy(
            long id,
            String board,
            Optional<String> medium,
            Instant proven,
            String file,
            long source,
            long bytes,
            String sha256,
            Optional<String> before) {
        public Copy(
                long id,
                String board,
                Optional<String> medium,
                Instant proven,
                String file,
                long source,
                long bytes,
                String sha256) {
            this(id, board, medium, proven, file, source, bytes, sha256, Optional.empty());
        }
    }

    /** Oldest first. */
    public List<Copy> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM copy ORDER BY proven, id")
                .map((row, context) -> new Copy(
                        row.getLong("id"),
                        row.getString("board"),
                        Optional.ofNullable(row.getString("medium")),
                        Instant.parse(row.getString("proven")),
                        row.getString("file"),
                        row.getLong("source"),
                        row.getLong("bytes"),
                        row.getString("sha256"),
                        Optional.ofNullable(row.getString("before"))))
                .list());
    }

    public List<Copy> of(String board) {
        return all().stream().filter(copy -> copy.board().equals(board)).toList();
    }

    public void add(Copy copy) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO copy (board, medium, proven, file, source, bytes, sha256, before)
                        VALUES (:board, :medium, :proven, :file, :source, :bytes, :sha256, :before)
                        """)
                .bind("board", copy.board())
                .bind("medium", copy.medium().orElse(null))
                .bind("proven", copy.proven().toString())
                .bind("file", copy.file())
                .bind("source", copy.source())
                .bind("bytes", copy.bytes())
                .bind("sha256", copy.sha256())
                .bind("before", copy.before().orElse(null))
                .execute());
    }

    /** It was taken out of the vault. */
    public void remove(long id) {
        jdbi.useHandle(handle -> handle.createUpdate("DELETE FROM copy WHERE id = :id")
                .bind("id", id)
                .execute());
    }
}
