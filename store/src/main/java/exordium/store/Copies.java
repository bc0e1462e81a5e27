// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.mapper.reflect.JdbiConstructor;

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
        @JdbiConstructor
        public Copy {}

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
                .mapTo(Copy.class)
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
                .bindMethods(copy)
                .execute());
    }

    /** It was taken out of the vault. */
    public void remove(long id) {
        jdbi.useHandle(handle -> handle.createUpdate("DELETE FROM copy WHERE id = :id")
                .bind("id", id)
                .execute());
    }
}
