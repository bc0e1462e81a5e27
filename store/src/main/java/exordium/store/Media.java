// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.finding.BadArgument;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.mapper.Nested;
import org.jdbi.v3.core.mapper.reflect.ColumnName;

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
            @ColumnName("bytes") ByteSize size,
            String file,
            Optional<ByteSize> ratedWrites,
            ByteSize written,
            String place) {
        /** Nobody rates a medium for nothing. */
        public Medium {
            ratedWrites = ratedWrites.filter(rated -> rated.bytes() > 0);
        }

        public double worn() {
            return ratedWrites
                    .map(rated -> (double) written.bytes() / rated.bytes())
                    .orElse(0.0);
        }
    }

    /** Where a medium is by its owner's word. */
    public enum State implements Coded {
        HERE,
        LENT,
        RETIRED;

        /** @throws UnreadableInput naming those there are */
        public static State of(String code) throws UnreadableInput {
            for (State state : values()) {
                if (state.code().equals(code)) {
                    return state;
                }
            }
            throw new BadArgument("\"" + code + "\" is no state of a medium; there are here, lent and retired.", code);
        }
    }

    /**
     * What else is known of a medium.
     *
     * @param label the short name printed on it
     * @param note whom it is lent to, why it was retired
     * @param since when it came into the house
     * @param diskId the identifier of its partition table when it was last looked into
     * @param holds what was found on it then
     */
    public record Details(
            String label,
            State state,
            String note,
            Optional<LocalDate> since,
            Optional<String> diskId,
            String holds,
            Optional<Instant> lookedAt) {}

    public List<Medium> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM medium ORDER BY rowid")
                .mapTo(Medium.class)
                .list());
    }

    public Optional<Medium> byFile(String file) {
        return all().stream().filter(medium -> medium.file().equals(file)).findFirst();
    }

    /**
     * The only medium whose disk identifier this is; of two alike neither is meant, and without an identifier none. A drive of another
     * size is another one, whatever was written to both; so is one that tells a serial, where the medium has another.
     *
     * @param size empty for a mere file, which may be a part of what was on it
     */
    public Optional<Medium> byDiskId(Optional<String> identifier, String serial, Optional<ByteSize> size) {
        List<Medium> same =
                alike(identifier, serial, size).stream().map(Listed::medium).toList();
        return same.size() == 1 ? Optional.of(same.get(0)) : Optional.empty();
    }

    /** All that a drive could be which tells these. */
    public List<Listed> alike(Optional<String> identifier, String serial, Optional<ByteSize> size) {
        return listed().stream()
                .filter(each ->
                        identifier.isPresent() && each.details().diskId().equals(identifier))
                .filter(each -> serial.isEmpty() || each.medium().serial().isEmpty())
                .filter(each -> size.isEmpty() || each.medium().size().equals(size.get()))
                .toList();
    }

    /** Drives without a serial are many; they are none of those in the register. */
    public Optional<Medium> bySerial(String serial) {
        return all().stream()
                .filter(medium -> !serial.isEmpty() && medium.serial().equals(serial))
                .findFirst();
    }

    public void add(Medium medium) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO medium (id, name, kind, serial, bytes, file, rated_writes, written, place)
                        VALUES (:id, :name, :kind, :serial, :size, :file, :ratedWrites, :written, :place)
                        """)
                .bindMethods(medium)
                .execute());
    }

    /** Counts bytes written by this program. */
    public void addWritten(String id, ByteSize more) {
        jdbi.useHandle(handle -> handle.createUpdate("UPDATE medium SET written = written + :more WHERE id = :id")
                .bind("more", more)
                .bind("id", id)
                .execute());
    }

    /** A medium with what else is known of it. */
    public record Listed(@Nested Medium medium, @Nested Details details) {}

    /** All of them, each with its details. */
    public List<Listed> listed() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM medium ORDER BY rowid")
                .mapTo(Listed.class)
                .list());
    }

    /** @throws UnreadableInput when there is none of that id or label */
    public Medium require(String idOrLabel) throws UnreadableInput {
        List<Listed> all = listed();
        List<String> known = all.stream().map(each -> each.medium().id()).toList();
        return all.stream()
                .filter(each -> each.medium().id().equals(idOrLabel)
                        || each.details().label().equals(idOrLabel))
                .map(Listed::medium)
                .findFirst()
                .orElseThrow(() ->
                        new UnknownName("There is no medium \"" + idOrLabel + "\" in the register.", idOrLabel, known));
    }

    public Details details(String id) {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM medium WHERE id = :id")
                .bind("id", id)
                .mapTo(Details.class)
                .one());
    }

    public void put(String id, Details details) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        UPDATE medium SET label = :label, state = :state, note = :note, since = :since,
                               disk_id = :diskId, holds = :holds, looked_at = :lookedAt
                        WHERE id = :id
                        """)
                .bindMethods(details)
                .bind("id", id)
                .execute());
    }

    public void place(String id, String place) {
        jdbi.useHandle(handle -> handle.createUpdate("UPDATE medium SET place = :place WHERE id = :id")
                .bind("place", place)
                .bind("id", id)
                .execute());
    }

    /** Gives everything known of one entry to another that is the same thing; both bytes written count. */
    public void merge(String from, String into) {
        jdbi.useTransaction(handle -> {
            for (String table : List.of("operation", "copy", "measurement", "fault", "health")) {
                handle.createUpdate("UPDATE " + table + " SET medium = :into WHERE medium = :from")
                        .bind("into", into)
                        .bind("from", from)
                        .execute();
            }
            handle.createUpdate(
                            "UPDATE medium SET written = written + (SELECT written FROM medium WHERE id = :from) WHERE id = :into")
                    .bind("into", into)
                    .bind("from", from)
                    .execute();
            handle.createUpdate("UPDATE medium SET written = 0, state = 'retired', note = :note WHERE id = :from")
                    .bind("note", "is the same as " + into)
                    .bind("from", from)
                    .execute();
        });
    }
}
