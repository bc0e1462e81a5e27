// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.quantity.ByteSize;
import java.util.HashMap;
import java.util.Map;
import org.jdbi.v3.core.Jdbi;

/** What was worked out from all of a medium, so that it need not be read through again as long as it is the same. */
public final class Judged {
    private final Jdbi jdbi;

    Judged(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /**
     * What a medium was found to hold.
     *
     * @param stamp of what it was worked out from: another one whenever that may have changed
     * @param least the smallest medium that takes it, and used: bytes in use
     */
    public record Extent(String stamp, ByteSize least, ByteSize used) {}

    /** By medium. */
    public Map<String, Extent> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM judged")
                .reduceResultSet(new HashMap<String, Extent>(), (known, row, context) -> {
                    known.put(
                            row.getString("medium"),
                            new Extent(
                                    row.getString("stamp"),
                                    ByteSize.of(row.getLong("least")),
                                    ByteSize.of(row.getLong("used"))));
                    return known;
                }));
    }

    public void put(String medium, Extent extent) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO judged (medium, stamp, least, used) VALUES (:medium, :stamp, :least, :used)
                        ON CONFLICT (medium) DO UPDATE SET stamp = excluded.stamp, least = excluded.least,
                                                           used = excluded.used
                        """)
                .bind("medium", medium)
                .bind("stamp", extent.stamp())
                .bind("least", extent.least().bytes())
                .bind("used", extent.used().bytes())
                .execute());
    }
}
