// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.finding.NewerThanThis;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import org.flywaydb.core.Flyway;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/**
 * Registers that come from somebody else. Their file is never taken over: rows are put into a database made here, one table after the other,
 * by which everything but rows (triggers, views, spoilt pages) stays behind. What is under way there, and what was undone or may be, is
 * not brought along.
 */
final class ForeignRegisters {
    private static final long LARGEST = 4L << 30;
    private static final int LONGEST_TEXT = 1 << 20;
    private static final int LONGEST_VALUE = 64 << 20;
    private static final long MOST_ROWS = 5_000_000;
    private static final String HISTORY = "flyway_schema_history";
    /** What this program works out by itself it does not take from others. */
    private static final String WORKED_OUT = "judged";

    private final Path incoming;
    private final String name;

    private ForeignRegisters(Path incoming, String name) {
        this.incoming = incoming;
        this.name = name;
    }

    /**
     * Makes a database of this program's own with the rows of another one.
     *
     * @param name how the other one is called to its user
     * @throws UnreadableInput when it is none, or is not laid out as this program lays them out, or holds a row that cannot be
     */
    static void copy(Path incoming, Path fresh, String name) throws IOException {
        new ForeignRegisters(incoming, name).into(fresh);
    }

    private void into(Path fresh) throws IOException {
        if (Files.size(incoming) > LARGEST) {
            throw new OverBound(name + " holds registers of more than " + LARGEST + " bytes.", LARGEST);
        }
        try {
            String version = version();
            SQLiteConfig config = new SQLiteConfig();
            config.enforceForeignKeys(true);
            config.setPragma(SQLiteConfig.Pragma.LIMIT_LENGTH, String.valueOf(LONGEST_VALUE));
            SQLiteDataSource own = new SQLiteDataSource(config);
            own.setUrl("jdbc:sqlite:" + fresh);
            Flyway.configure(ForeignRegisters.class.getClassLoader())
                    .dataSource(own)
                    .locations("classpath:exordium/store/migrations")
                    .target(version)
                    .load()
                    .migrate();
            try (Connection connection = own.getConnection()) {
                copy(connection);
            }
        } catch (SQLException e) {
            throw new UnreadableInput(name + " holds registers that cannot be read, or a row that cannot be.", e);
        }
    }

    private String version() throws SQLException, IOException {
        SQLiteConfig config = new SQLiteConfig();
        config.setReadOnly(true);
        SQLiteDataSource there = new SQLiteDataSource(config);
        there.setUrl("jdbc:sqlite:" + incoming);
        try (Connection connection = there.getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA trusted_schema=OFF");
            statement.execute("PRAGMA cell_size_check=ON");
            requirePlainTable(statement);
            try (ResultSet newest = statement.executeQuery("SELECT max(CAST(version AS INTEGER)) FROM " + HISTORY)) {
                int version = newest.next() ? newest.getInt(1) : 0;
                int known = Integer.parseInt(Workspace.LATEST);
                if (version > known) {
                    throw new NewerThanThis(
                            name + " was made by a newer version of this program (its register has version " + version
                                    + ", this program knows " + known + "); nothing was made of it.",
                            version,
                            known);
                }
                if (version < 1) {
                    throw notOurs();
                }
                return String.valueOf(version);
            }
        }
    }

    /** Whatever else it is, asking it may never end. */
    private void requirePlainTable(Statement statement) throws SQLException, UnreadableInput {
        try (ResultSet history = statement.executeQuery("SELECT count(*) FROM sqlite_master WHERE name = '" + HISTORY
                + "' AND type = 'table'" + " AND sql NOT LIKE '%VIRTUAL%' AND sql NOT LIKE '%GENERATED%'")) {
            if (!history.next() || history.getInt(1) != 1) {
                throw notOurs();
            }
        }
    }

    private UnreadableInput notOurs() {
        return new UnreadableInput(
                name + " holds registers that are not laid out as this program's; nothing was made of it.");
    }

    private void copy(Connection connection) throws SQLException, UnreadableInput {
        try (PreparedStatement attach = connection.prepareStatement("ATTACH ? AS incoming")) {
            attach.setString(1, incoming.toString());
            attach.execute();
        }
        try (Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA trusted_schema=OFF");
            if (!layout(statement, "incoming").equals(layout(statement, "main"))) {
                throw notOurs();
            }
            requireWhole(statement);
            statement.execute("PRAGMA main.defer_foreign_keys=ON");
            connection.setAutoCommit(false);
            statement.execute("PRAGMA defer_foreign_keys=ON");
            for (String table : tables(statement)) {
                List<Column> columns = columns(statement, table);
                requireTypes(statement, table, columns);
                statement.execute(insert(table, columns));
            }
            connection.commit();
            connection.setAutoCommit(true);
            statement.execute("DETACH incoming");
        }
    }

    private void requireWhole(Statement statement) throws SQLException, UnreadableInput {
        try (ResultSet said = statement.executeQuery("PRAGMA incoming.quick_check(1)")) {
            if (!said.next() || !said.getString(1).equals("ok")) {
                throw new UnreadableInput(name + " holds registers that are spoilt; nothing was made of it.");
            }
        }
    }

    /** Everything there is in it by the words that made it. */
    private static Set<String> layout(Statement statement, String database) throws SQLException {
        Set<String> all = new TreeSet<>();
        try (ResultSet rows = statement.executeQuery("SELECT type, name, tbl_name, coalesce(sql, '') FROM " + database
                + ".sqlite_master WHERE name NOT LIKE 'sqlite_stat%'")) {
            while (rows.next()) {
                all.add(rows.getString(1) + " " + rows.getString(2) + " " + rows.getString(3) + " "
                        + rows.getString(4).replaceAll("[\\s\"]+", ""));
            }
        }
        return all;
    }

    private static List<String> tables(Statement statement) throws SQLException {
        List<String> tables = new ArrayList<>();
        try (ResultSet rows = statement.executeQuery("SELECT name FROM main.sqlite_master WHERE type = 'table'"
                + " AND name NOT LIKE 'sqlite_%' AND name NOT IN ('" + HISTORY + "', '" + WORKED_OUT
                + "') ORDER BY name")) {
            while (rows.next()) {
                tables.add(rows.getString(1));
            }
        }
        return tables;
    }

    private record Column(String name, String type) {
        /** What SQLite may keep in it; it would keep anything. */
        String kinds() {
            return switch (type.toUpperCase(Locale.ROOT)) {
                case "INTEGER" -> "'integer', 'null'";
                case "REAL" -> "'real', 'integer', 'null'";
                default -> "'text', 'null'";
            };
        }
    }

    private static List<Column> columns(Statement statement, String table) throws SQLException {
        List<Column> columns = new ArrayList<>();
        try (ResultSet rows = statement.executeQuery("PRAGMA main.table_info(" + table + ")")) {
            while (rows.next()) {
                columns.add(new Column(rows.getString("name"), rows.getString("type")));
            }
        }
        return columns;
    }

    private void requireTypes(Statement statement, String table, List<Column> columns)
            throws SQLException, UnreadableInput {
        List<String> wrong = new ArrayList<>();
        for (Column column : columns) {
            wrong.add("typeof(" + column.name() + ") NOT IN (" + column.kinds() + ")");
            wrong.add("length(CAST(" + column.name() + " AS BLOB)) > " + LONGEST_TEXT);
            wrong.add("(typeof(" + column.name() + ") = 'text' AND instr(" + column.name() + ", char(0)) > 0)");
        }
        try (ResultSet found = statement.executeQuery(
                "SELECT count(*), coalesce(sum(" + String.join(" OR ", wrong) + "), 0) FROM incoming." + table)) {
            found.next();
            if (found.getLong(1) > MOST_ROWS || found.getLong(2) > 0) {
                throw new UnreadableInput(name + " holds a row of \"" + table
                        + "\" that cannot be, or too many of them; nothing was made of it.");
            }
        }
    }

    /** What taking back a change would put onto a medium is not taken from others, and nothing is under way here. */
    private static String insert(String table, List<Column> columns) {
        List<String> names = columns.stream().map(Column::name).toList();
        List<String> values = new ArrayList<>();
        for (String column : names) {
            values.add(
                    switch (table + "." + column) {
                        case "logbook.details" -> "CASE WHEN kind LIKE 'first-start%' THEN NULL ELSE details END";
                        case "operation.ending", "write_run.ending" ->
                            "CASE WHEN ending IN ('running', 'writing') THEN 'interrupted' ELSE ending END";
                        case "operation.process", "write_run.process" -> "0";
                        case "operation.process_start", "write_run.process_start" -> "''";
                        default -> column;
                    });
        }
        return "INSERT INTO main." + table + " (" + String.join(", ", names) + ") SELECT " + String.join(", ", values)
                + " FROM incoming." + table;
    }
}
