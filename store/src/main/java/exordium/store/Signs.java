// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.health.HealthReading;
import exordium.core.health.MediumHealth;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;

/** What media showed along their life: rates that were measured, what went wrong, what they told of themselves. */
public final class Signs {
    private static final String EVERYTHING =
            """
            SELECT 'pace' AS sign, id, medium, at, kind AS text, rate AS first, NULL AS second, NULL AS errors, NULL AS written,
                   0 AS failing, 0 AS unclean, 0 AS file_errors, 0 AS mounts, '' AS signs FROM measurement
            UNION ALL
            SELECT 'fault', id, medium, at, text, NULL, NULL, NULL, NULL, 0, 0, 0, 0, '' FROM fault
            UNION ALL
            SELECT 'told', id, medium, at, source, life_used, spare_left, errors, written, failing, unclean, file_errors, mounts,
                   signs FROM health
            ORDER BY at, id
            """;

    private final Jdbi jdbi;

    Signs(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /** Of one medium, each list oldest first. */
    public record History(
            List<HealthReading> readings, List<MediumHealth.Pace> paces, List<MediumHealth.Fault> faults) {
        public static final History NONE = new History(List.of(), List.of(), List.of());

        private static History empty() {
            return new History(new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
        }
    }

    /** By medium; in one statement, for one medium as for a hundred. */
    public Map<String, History> all() {
        return jdbi.withHandle(handle -> handle.createQuery(EVERYTHING)
                .reduceResultSet(new HashMap<String, History>(), (known, row, context) -> {
                    take(row, known.computeIfAbsent(row.getString("medium"), id -> History.empty()));
                    return known;
                }));
    }

    public History of(String medium) {
        return all().getOrDefault(medium, History.NONE);
    }

    private static void take(ResultSet row, History known) throws SQLException {
        Instant at = Instant.parse(row.getString("at"));
        String text = row.getString("text");
        switch (row.getString("sign")) {
            case "pace" -> known.paces().add(new MediumHealth.Pace(at, text, new ByteRate(row.getDouble("first"))));
            case "fault" -> known.faults().add(new MediumHealth.Fault(at, text));
            default ->
                known.readings()
                        .add(new HealthReading(
                                at,
                                text,
                                number(row, "first"),
                                number(row, "second"),
                                number(row, "errors").map(Double::longValue),
                                number(row, "written").map(bytes -> ByteSize.of(bytes.longValue())),
                                row.getBoolean("failing"),
                                row.getBoolean("unclean"),
                                row.getLong("file_errors"),
                                row.getLong("mounts"),
                                row.getString("signs").lines().toList()));
        }
    }

    private static Optional<Double> number(ResultSet row, String column) throws SQLException {
        double value = row.getDouble(column);
        return row.wasNull() ? Optional.empty() : Optional.of(value);
    }

    public void measured(String medium, Instant at, String kind, ByteRate rate) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "INSERT INTO measurement (medium, at, kind, rate) VALUES (:medium, :at, :kind, :rate)")
                .bind("medium", medium)
                .bind("at", at.toString())
                .bind("kind", kind)
                .bind("rate", rate.bytesPerSecond())
                .execute());
    }

    public void fault(String medium, Instant at, String text) {
        jdbi.useHandle(
                handle -> handle.createUpdate("INSERT INTO fault (medium, at, text) VALUES (:medium, :at, :text)")
                        .bind("medium", medium)
                        .bind("at", at.toString())
                        .bind("text", text)
                        .execute());
    }

    public void told(String medium, HealthReading reading) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO health (medium, at, source, life_used, spare_left, errors, written, failing, unclean,
                                            file_errors, mounts, signs)
                        VALUES (:medium, :at, :source, :life, :spare, :errors, :written, :failing, :unclean,
                                :fileErrors, :mounts, :signs)
                        """)
                .bind("medium", medium)
                .bind("at", reading.at().toString())
                .bind("source", reading.source())
                .bind("life", reading.lifeUsed().orElse(null))
                .bind("spare", reading.spareLeft().orElse(null))
                .bind("errors", reading.mediaErrors().orElse(null))
                .bind("written", reading.written().map(ByteSize::bytes).orElse(null))
                .bind("failing", reading.failing())
                .bind("unclean", reading.unclean())
                .bind("fileErrors", reading.fileSystemErrors())
                .bind("mounts", reading.mounts())
                .bind("signs", String.join("\n", reading.signs()))
                .execute());
    }
}
