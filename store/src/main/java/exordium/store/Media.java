// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.quantity.ByteSize;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;

/** The register of media. */
public final class Media {
    private final Jdbi jdbi;

    Media(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /**
     * One medium.
     *
     * @param file its bytes, relative to the workspace's drives folder
     * @param ratedWrites what its maker rates it for; empty where nobody says
     * @param written by its hosts so far, as far as known
     */
    public record Medium(
            String id,
            String name,
            String kind,
            String serial,
            ByteSize size,
            String file,
            Optional<ByteSize> ratedWrites,
            ByteSize written,
            String place) {

        public double worn() {
            return ratedWrites
                    .map(rated -> (double) written.bytes() / rated.bytes())
                    .orElse(0.0);
        }
    }

    public List<Medium> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM medium ORDER BY rowid")
                .map((row, context) -> medium(row))
                .list());
    }

    public Optional<Medium> byFile(String file) {
        return all().stream().filter(medium -> medium.file().equals(file)).findFirst();
    }

    public void add(Medium medium) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO medium (id, name, kind, serial, bytes, file, rated_writes, written, place)
                        VALUES (:id, :name, :kind, :serial, :bytes, :file, :rated, :written, :place)
                        """)
                .bind("id", medium.id())
                .bind("name", medium.name())
                .bind("kind", medium.kind())
                .bind("serial", medium.serial())
                .bind("bytes", medium.size().bytes())
                .bind("file", medium.file())
                .bind("rated", medium.ratedWrites().map(ByteSize::bytes).orElse(null))
                .bind("written", medium.written().bytes())
                .bind("place", medium.place())
                .execute());
    }

    /** Counts bytes written by this program. */
    public void addWritten(String id, ByteSize more) {
        jdbi.useHandle(handle -> handle.createUpdate("UPDATE medium SET written = written + :more WHERE id = :id")
                .bind("more", more.bytes())
                .bind("id", id)
                .execute());
    }

    private static Medium medium(ResultSet row) throws SQLException {
        long rated = row.getLong("rated_writes");
        return new Medium(
                row.getString("id"),
                row.getString("name"),
                row.getString("kind"),
                row.getString("serial"),
                ByteSize.of(row.getLong("bytes")),
                row.getString("file"),
                rated == 0 ? Optional.empty() : Optional.of(ByteSize.of(rated)),
                ByteSize.of(row.getLong("written")),
                row.getString("place"));
    }
}
