// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.copies.care.CopyCare;
import exordium.core.copies.care.QuietTimes;
import java.util.HashMap;
import java.util.Map;
import org.jdbi.v3.core.Jdbi;

/** What a copy of each board asks of the people around it. */
public final class Care {
    private final Jdbi jdbi;

    Care(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /** By board; boards of which nothing was said are not among them. */
    public Map<String, CopyCare> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM copy_care")
                .reduceResultSet(new HashMap<String, CopyCare>(), (known, row, context) -> {
                    known.put(
                            row.getString("board"),
                            new CopyCare(
                                    row.getString("stop_first"),
                                    row.getString("services"),
                                    QuietTimes.kept(row.getString("quiet"))));
                    return known;
                }));
    }

    public void put(String board, CopyCare care) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO copy_care (board, stop_first, services, quiet) VALUES (:board, :stop, :services, :quiet)
                        ON CONFLICT (board) DO UPDATE SET stop_first = excluded.stop_first, services = excluded.services,
                                                          quiet = excluded.quiet
                        """)
                .bind("board", board)
                .bind("stop", care.stopFirst())
                .bind("services", care.services())
                .bind("quiet", care.quiet().text())
                .execute());
    }
}
