// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardWays;
import exordium.core.finding.BadArgument;
import exordium.core.finding.NewerThanThis;
import exordium.core.finding.Step;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.writing.Ending;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The one connection, its transactions, and databases of older versions. */
class RegisterTest {
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2026-11-24T09:00:00Z"), ZoneOffset.UTC);

    @TempDir
    Path folder;

    private Workspace open() throws IOException {
        return Workspace.open(folder, CLOCK);
    }

    private Connection raw() throws SQLException {
        return DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("exordium.db"));
    }

    private static void say(Workspace workspace, String text) {
        workspace.log().add(Optional.empty(), Step.IMAGE, "said", text, Optional.empty());
    }

    @Test
    void allOfATransactionCountsOrNoneOfIt() throws IOException {
        try (Workspace workspace = open()) {
            assertThatThrownBy(() -> workspace.inTransaction(() -> {
                        say(workspace, "half");
                        workspace.settings().put("free-tail", "7");
                        throw new UnreadableInput("the other half cannot be had");
                    }))
                    .isInstanceOf(UnreadableInput.class)
                    .hasMessage("the other half cannot be had");
            assertThat(workspace.log().all()).isEmpty();
            assertThat(workspace.settings().all()).isEmpty();
            String both = workspace.inTransaction(() -> {
                say(workspace, "one");
                say(workspace, "other");
                return "done";
            });
            assertThat(both).isEqualTo("done");
        }
        try (Workspace again = open()) {
            assertThat(again.log().all()).extracting(Logbook.Entry::text).containsExactly("one", "other");
        }
    }

    @Test
    void aClosedWorkspaceLeavesItsDatabaseInOneFileAndAnswersNothingMore() throws IOException {
        Workspace workspace = open();
        say(workspace, "kept");
        workspace.close();
        assertThat(folder.resolve("exordium.db-wal")).doesNotExist();
        assertThatThrownBy(() -> workspace.log().all()).hasMessageContaining("closed");
        try (Workspace again = open()) {
            assertThat(again.log().all()).hasSize(1);
        }
    }

    /** What one thread does in a transaction is not mixed with what others ask meanwhile. */
    @Test
    void manyThreadsAskAtOnce() throws IOException, InterruptedException, ExecutionException {
        int threads = 4;
        int each = 25;
        ExecutorService pool = Executors.newFixedThreadPool(threads);
        try (Workspace workspace = open()) {
            List<Future<?>> all = new ArrayList<>();
            for (int thread = 0; thread < threads; thread++) {
                boolean fails = thread % 2 == 1;
                all.add(pool.submit(() -> {
                    for (int i = 0; i < each; i++) {
                        try {
                            workspace.inTransaction(() -> {
                                say(workspace, fails ? "taken back" : "kept");
                                say(workspace, fails ? "taken back" : "kept");
                                if (fails) {
                                    throw new UnreadableInput("no");
                                }
                                return null;
                            });
                        } catch (UnreadableInput e) {
                            assertThat(fails).isTrue();
                        }
                    }
                    return null;
                }));
            }
            for (Future<?> one : all) {
                one.get();
            }
            assertThat(workspace.log().all()).hasSize(threads / 2 * each * 2).allMatch(entry -> entry.text()
                    .equals("kept"));
        } finally {
            pool.shutdownNow();
        }
    }

    /** What went wrong is a type of its own, with what is known of it. */
    @Test
    void errorsCarryTheirNamesAndNumbers() throws IOException, SQLException {
        try (Workspace workspace = open()) {
            assertThatThrownBy(() -> workspace.boards().require("lighthouse"))
                    .isInstanceOfSatisfying(UnknownName.class, e -> {
                        assertThat(e.name()).isEqualTo("lighthouse");
                        assertThat(e.known()).isEmpty();
                    });
            assertThatThrownBy(() -> workspace.media().require("M9"))
                    .isInstanceOfSatisfying(
                            UnknownName.class, e -> assertThat(e.name()).isEqualTo("M9"));
            assertThatThrownBy(() -> Media.State.of("gone"))
                    .isInstanceOfSatisfying(
                            BadArgument.class, e -> assertThat(e.value()).isEqualTo("gone"));
        }
        try (Connection connection = raw();
                Statement statement = connection.createStatement()) {
            statement.executeUpdate(
                    "UPDATE flyway_schema_history SET version = '99' WHERE version = '" + Workspace.LATEST + "'");
        }
        assertThatThrownBy(this::open).isInstanceOfSatisfying(NewerThanThis.class, e -> {
            assertThat(e.found()).isEqualTo(99);
            assertThat(e.known()).isEqualTo(Integer.parseInt(Workspace.LATEST));
        });
    }

    /** register-v4.sql: the demo house as the version before this one made it, one of its media real and away. */
    @Test
    void boardsOfTheVersionBeforeAreSimulatedAndEverythingElseIsKept() throws IOException, SQLException {
        try (InputStream stream = RegisterTest.class.getResourceAsStream("register-v4.sql");
                Connection connection = raw();
                Statement statement = connection.createStatement()) {
            statement.executeUpdate(new String(stream.readAllBytes(), StandardCharsets.UTF_8));
        }
        try (Workspace workspace = open()) {
            assertThat(workspace.boards().all())
                    .hasSize(10)
                    .allMatch(board -> board.way().equals(BoardWays.simulated())
                            && board.note().isEmpty());
            assertThat(workspace.media().bySerial("TW-0042-7719").orElseThrow().file())
                    .isEqualTo("drive:TW-0042-7719");
            assertThat(workspace.operations().writes()).hasSize(9);
            assertThat(workspace.copies().all().stream().map(Copies.Copy::board).distinct())
                    .hasSize(8);
            Boards.Board first = workspace.boards().require("tide-clock");
            Boards.Board changed = new Boards.Board(
                    first.id(),
                    "Tide clock, hall",
                    first.place(),
                    first.profile(),
                    first.channel(),
                    true,
                    false,
                    first.dailyWrites(),
                    BoardWays.byHand(),
                    "behind the oak panel");
            workspace.boards().change(changed);
            assertThat(workspace.boards().all().get(0)).isEqualTo(changed);
        }
    }

    /** register-v3.sql: the demo house as the version before made it, with a write and a clearing cut off by a kill. */
    @Test
    void aDatabaseOfTheVersionBeforeKeepsEverything() throws IOException, SQLException {
        String dump;
        try (InputStream stream = RegisterTest.class.getResourceAsStream("register-v3.sql")) {
            dump = new String(stream.readAllBytes(), StandardCharsets.UTF_8);
        }
        List<Long> before = new ArrayList<>();
        try (Connection connection = raw();
                Statement statement = connection.createStatement()) {
            statement.executeUpdate(dump);
            try (ResultSet rows = statement.executeQuery("SELECT id FROM write_run ORDER BY started, id")) {
                while (rows.next()) {
                    before.add(rows.getLong(1));
                }
            }
        }
        try (Workspace workspace = open()) {
            assertThat(workspace.boards().all()).hasSize(10);
            assertThat(workspace.media().listed()).hasSize(12);
            assertThat(workspace.imageShelf().all()).hasSize(5);
            assertThat(workspace.copies().all().stream().map(Copies.Copy::board).distinct())
                    .hasSize(8);
            assertThat(workspace.signs().all().values())
                    .anyMatch(known -> known.paces().size() > 1);
            assertThat(workspace.settings().all()).containsEntry("copy-days", "14");
            List<Operations.Operation> gone = workspace.operations().closeInterrupted();
            assertThat(gone).extracting(Operations.Operation::isWrite).containsExactly(true, false);
            List<Operations.Operation> writes = workspace.operations().writes();
            assertThat(writes)
                    .extracting(Operations.Operation::id)
                    .containsExactlyElementsOf(before)
                    .hasSize(10);
            Operations.Operation last = writes.get(writes.size() - 1);
            assertThat(last.ending()).isEqualTo(Ending.INTERRUPTED);
            assertThat(last.deed().key()).isEqualTo("/drives/tide-clock-card.img");
            // Journals of writes are named by their rows, so other deeds stand behind them.
            assertThat(workspace.operations().all())
                    .extracting(Operations.Operation::id, each -> each.deed().kind(), Operations.Operation::ending)
                    .containsExactly(
                            org.assertj.core.api.Assertions.tuple(11L, "grow", Ending.DONE),
                            org.assertj.core.api.Assertions.tuple(12L, "clear", Ending.INTERRUPTED));
            assertThat(workspace
                            .operations()
                            .lastTouching()
                            .get(last.deed().medium().orElseThrow())
                            .deed()
                            .kind())
                    .isEqualTo("clear");
        }
        try (Connection connection = raw();
                Statement statement = connection.createStatement();
                ResultSet check = statement.executeQuery("PRAGMA foreign_key_check")) {
            assertThat(check.next()).isFalse();
        }
    }
}
