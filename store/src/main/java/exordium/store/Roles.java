// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.media.KnownDrives;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;

/** What each board is for, and which drives are known to work with which family. */
public final class Roles {
    private final Jdbi jdbi;
    private final ObjectMapper json = new ObjectMapper();

    Roles(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    public Optional<Role> of(String board) {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT role FROM board_role WHERE board = :board")
                        .bind("board", board)
                        .mapTo(String.class)
                        .findOne())
                .map(this::read);
    }

    /** By board; boards nobody said it of are not among them. */
    public Map<String, Role> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT board, role FROM board_role")
                .reduceResultSet(new HashMap<String, Role>(), (known, row, context) -> {
                    known.put(row.getString("board"), read(row.getString("role")));
                    return known;
                }));
    }

    public void put(String board, Role role) {
        String text;
        try {
            text = json.writeValueAsString(role);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
        jdbi.useHandle(handle -> handle.createUpdate(
                        "INSERT INTO board_role (board, role) VALUES (:board, :role) ON CONFLICT (board) DO UPDATE SET role = excluded.role")
                .bind("board", board)
                .bind("role", text)
                .execute());
    }

    private Role read(String text) {
        try {
            return json.readValue(text, Role.class);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a role in the register cannot be read: " + text, e);
        }
    }

    public KnownDrives known() {
        return new KnownDrives(jdbi.withHandle(handle -> handle.createQuery(
                        "SELECT name, profile, works, note FROM known_drive ORDER BY name, profile")
                .map((row, context) -> new KnownDrives.Known(
                        row.getString("name"),
                        row.getString("profile"),
                        row.getBoolean("works"),
                        row.getString("note")))
                .list()));
    }

    public void known(KnownDrives.Known seen) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO known_drive (name, profile, works, note) VALUES (:name, :profile, :works, :note)
                        ON CONFLICT (name, profile) DO UPDATE SET works = excluded.works, note = excluded.note
                        """)
                .bind("name", seen.name())
                .bind("profile", seen.profile())
                .bind("works", seen.works())
                .bind("note", seen.note())
                .execute());
    }
}
