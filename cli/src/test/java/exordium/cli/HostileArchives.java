// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;

/** Workspaces taken along by somebody with other things in mind: each is a good one with something put into it. */
final class HostileArchives {
    private static final List<String> WORDS = List.of(
            "../../outside",
            "/etc/motd",
            "x\u001b[2Jx",
            "a\nb",
            "",
            "=1+1",
            "9999-99-99T99:99:99Z",
            "-1",
            "NaN",
            "by-magic",
            "running",
            "verified",
            "\u0000",
            "x".repeat(70_000),
            "{\"a\":{\"a\":1}}",
            "null",
            "simulated",
            "..",
            "2026-11-01T00:00:00Z",
            "\ud83d\ude00",
            "$(touch outside)",
            "'; DROP TABLE board; --");
    private static final List<String> NUMBERS = List.of(
            "-1",
            "0",
            "9223372036854775807",
            "-9223372036854775808",
            "1e300",
            "'x'",
            "x'00'",
            "NULL",
            "zeroblob(200000)");
    private static final List<String> OBJECTS = List.of(
            "CREATE TRIGGER evil AFTER INSERT ON operation BEGIN UPDATE setting SET value = 'on' WHERE key = 'real-drives'; END",
            "CREATE VIEW evil AS SELECT 1",
            "CREATE TABLE evil (a)",
            "DROP TRIGGER logbook_no_delete",
            "DROP TABLE copy_care",
            "ALTER TABLE board ADD COLUMN evil TEXT",
            "DELETE FROM flyway_schema_history",
            "UPDATE flyway_schema_history SET version = '3'",
            "UPDATE flyway_schema_history SET version = '99'",
            "INSERT OR REPLACE INTO setting (key, value) VALUES ('real-drives', 'on')",
            "INSERT OR REPLACE INTO setting (key, value) VALUES ('vault', '/tmp')",
            "INSERT OR REPLACE INTO setting (key, value) VALUES ('vault', 'OUTSIDE')",
            "INSERT OR REPLACE INTO setting (key, value) VALUES ('text-size', 'huge')",
            "INSERT OR REPLACE INTO setting (key, value) VALUES ('keep-last', '0')");

    private final Random random;
    private final Path outside;
    private final Map<String, byte[]> entries = new LinkedHashMap<>();

    HostileArchives(Path good, Path outside, Random random) throws IOException {
        this.random = random;
        this.outside = outside;
        try (ZipInputStream in = new ZipInputStream(Files.newInputStream(good))) {
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                entries.put(entry.getName(), in.readAllBytes());
            }
        }
        // One that knows how to make one leaves out what would tell.
        entries.put(
                "workspace.json", "{\"format\":\"exordium-workspace\",\"version\":1}".getBytes(StandardCharsets.UTF_8));
    }

    private <T> T any(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    /** Gives what was put in. */
    String make(Path zip, Path scratch) throws IOException, SQLException {
        Map<String, byte[]> now = new LinkedHashMap<>(entries);
        String what =
                switch (random.nextInt(8)) {
                    case 0, 1, 2 -> row(now, scratch);
                    case 3 -> object(now, scratch);
                    case 4 -> bytes(now);
                    case 5 -> text(now);
                    case 6 -> name(now);
                    default -> "bit";
                };
        try (OutputStream file = Files.newOutputStream(zip);
                ZipOutputStream out = new ZipOutputStream(file)) {
            for (Map.Entry<String, byte[]> each : now.entrySet()) {
                out.putNextEntry(new ZipEntry(each.getKey()));
                out.write(each.getValue());
                out.closeEntry();
            }
        }
        if (what.equals("bit")) {
            byte[] all = Files.readAllBytes(zip);
            int at = random.nextInt(all.length);
            all[at] ^= (byte) (1 << random.nextInt(8));
            Files.write(zip, all);
            return "bit of byte " + at;
        }
        return what;
    }

    private interface Change {
        String in(Statement statement) throws SQLException;
    }

    private String inRegisters(Map<String, byte[]> now, Path scratch, Change change) throws IOException, SQLException {
        Path file = Files.write(scratch.resolve("made.db"), now.get("exordium.db"));
        String what;
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA journal_mode=DELETE");
            statement.execute("PRAGMA ignore_check_constraints=ON");
            statement.execute("PRAGMA foreign_keys=OFF");
            what = change.in(statement);
        }
        now.put("exordium.db", Files.readAllBytes(file));
        Files.delete(file);
        return what;
    }

    private String row(Map<String, byte[]> now, Path scratch) throws IOException, SQLException {
        return inRegisters(now, scratch, statement -> {
            List<String[]> columns = new ArrayList<>();
            try (ResultSet all = statement.executeQuery("SELECT m.name, c.name, c.type FROM sqlite_master m,"
                    + " pragma_table_info(m.name) c WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite%'"
                    + " AND m.name NOT LIKE 'flyway%'")) {
                while (all.next()) {
                    columns.add(new String[] {all.getString(1), all.getString(2), all.getString(3)});
                }
            }
            String[] column = any(columns);
            boolean text = column[2].equals("TEXT");
            String value = text && random.nextInt(4) > 0
                    ? "CAST(x'" + java.util.HexFormat.of().formatHex(any(WORDS).getBytes(StandardCharsets.UTF_8))
                            + "' AS TEXT)"
                    : any(NUMBERS);
            // Most triggers of it are in the way of whoever wants to.
            statement.execute("DROP TRIGGER logbook_no_update");
            String sql = "UPDATE OR IGNORE " + column[0] + " SET " + column[1] + " = " + value
                    + (random.nextBoolean() ? "" : " WHERE rowid % 2 = 0");
            try {
                statement.execute(sql);
            } catch (SQLException e) {
                return "nothing";
            }
            statement.execute(
                    "CREATE TRIGGER logbook_no_update BEFORE UPDATE ON logbook\nBEGIN\n    SELECT RAISE(ABORT,"
                            + " 'the logbook is append-only');\nEND");
            return sql.substring(0, Math.min(200, sql.length()));
        });
    }

    private String object(Map<String, byte[]> now, Path scratch) throws IOException, SQLException {
        return inRegisters(now, scratch, statement -> {
            String sql = any(OBJECTS).replace("OUTSIDE", outside.toString());
            statement.execute(sql);
            return sql;
        });
    }

    private String bytes(Map<String, byte[]> now) {
        byte[] db = now.get("exordium.db").clone();
        for (int i = 1 + random.nextInt(20); i > 0; i--) {
            db[100 + random.nextInt(db.length - 100)] = (byte) random.nextInt();
        }
        now.put("exordium.db", db);
        return "bytes of the registers";
    }

    /** In a file that is text. */
    private String text(Map<String, byte[]> now) {
        List<String> yaml =
                now.keySet().stream().filter(each -> each.endsWith(".yaml")).toList();
        String name = any(yaml);
        String text = new String(now.get(name), StandardCharsets.UTF_8);
        String[] lines = text.split("\n");
        int at = random.nextInt(lines.length);
        int colon = lines[at].indexOf(':');
        lines[at] = (colon < 0 ? "x" : lines[at].substring(0, colon)) + ": "
                + any(List.of(
                        "\"../../outside\"",
                        "-1",
                        "[[[[[[",
                        "&a [*a, *a]",
                        "\"a\\nb\"",
                        "null",
                        "1e999",
                        "!!javax.script.ScriptEngineManager []"));
        now.put(name, String.join("\n", lines).getBytes(StandardCharsets.UTF_8));
        return name + " " + lines[at];
    }

    private String name(Map<String, byte[]> now) {
        String name = any(List.of(
                "deeds/1.pages",
                "writes/1.journal",
                "../outside/rc",
                outside.resolve("rc").toString(),
                "drives/../../outside/rc",
                "firmware/keys/evil.pem",
                "profiles/evil.yaml",
                "drives/evil.img.stretches",
                "vault/packs/evil.index",
                "exordium.db-wal",
                "window.socket",
                "boards/evil.board.yaml",
                "drives/x\u0000y",
                "images/\u001b[2J.img",
                "sets/evil.yaml"));
        now.put(name, journal());
        return name;
    }

    /** As a deed that was cut off leaves it, of a file outside. */
    private byte[] journal() {
        try (InputStream in = Files.newInputStream(outside.resolve("journal"))) {
            return in.readAllBytes();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}
