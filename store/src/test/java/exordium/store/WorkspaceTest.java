// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.Difference;
import exordium.core.writing.Ending;
import exordium.core.writing.Verdict;
import exordium.core.writing.Verification;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WriteReport;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class WorkspaceTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");

    @TempDir
    Path folder;

    private Workspace workspace;

    @BeforeEach
    void open() throws IOException {
        workspace = reopened();
    }

    private Workspace reopened() throws IOException {
        return Workspace.open(folder, Clock.fixed(NOW, ZoneOffset.UTC));
    }

    private static Boards.Board board(String id, String place) {
        return new Boards.Board(
                id, "Tide clock", place, "plover-4", Channel.LATEST, true, false, ByteSize.ofGigabytes(1.8));
    }

    private static Media.Medium medium(String id) {
        return new Media.Medium(
                id,
                "Tidewell 32",
                "card-quick",
                "TW32-0417",
                ByteSize.of(31_914_983_424L),
                id + ".img",
                Optional.of(ByteSize.ofGigabytes(60_000)),
                ByteSize.ofGigabytes(1_900),
                "Hall");
    }

    /** Raw SQL, as somebody with another program would try it. */
    private void sql(String statement) throws SQLException {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("exordium.db"));
                Statement each = connection.createStatement()) {
            each.execute("PRAGMA foreign_keys = ON");
            each.execute(statement);
        }
    }

    /** The shortcut past migrating is right only as long as it names the newest migration there is. */
    @Test
    void theNewestMigrationIsTheOneThatIsAskedFor() throws IOException {
        try (var files = Files.list(Path.of("src/main/resources/exordium/store/migrations"))) {
            int newest = files.map(file -> file.getFileName().toString())
                    .filter(name -> name.matches("V\\d+__.*"))
                    .mapToInt(name -> Integer.parseInt(name.replaceAll("^V(\\d+)__.*", "$1")))
                    .max()
                    .orElseThrow();
            assertThat(Workspace.LATEST).isEqualTo(String.valueOf(newest));
        }
    }

    @Test
    void openingMakesTheFoldersAndTheDatabase() {
        assertThat(List.of("images", "drives", "boards", "vault", "profiles"))
                .allSatisfy(part -> assertThat(folder.resolve(part)).isDirectory());
        assertThat(folder.resolve("exordium.db")).isRegularFile();
        assertThat(workspace.boardFile("tide-clock")).hasFileName("tide-clock.board.yaml");
    }

    @Test
    void whatWasPutDownIsThereWhenItIsOpenedAgain() throws IOException {
        workspace.boards().add(board("tide-clock", "Hall"));
        workspace.media().add(medium("card"));
        workspace
                .imageShelf()
                .add(new Images.Image(
                        "marsh",
                        "marshlinux 2026.10",
                        "marsh.img.xz",
                        "xz",
                        ByteSize.of(10),
                        ByteSize.of(30),
                        ByteSize.of(20),
                        PublishedChecksum.State.AGREES,
                        "2026.10"));
        Workspace again = reopened();
        assertThat(again.boards().all()).containsExactly(board("tide-clock", "Hall"));
        assertThat(again.media().all()).containsExactly(medium("card"));
        assertThat(again.imageShelf().all())
                .extracting(Images.Image::checksum)
                .containsExactly(PublishedChecksum.State.AGREES);
    }

    @Test
    void boardsKeepTheOrderInWhichTheyCame() throws IOException {
        workspace.boards().add(board("zebra", "Hall"));
        workspace.boards().add(board("anchor", "Loft"));
        assertThat(workspace.boards().all()).extracting(Boards.Board::id).containsExactly("zebra", "anchor");
        assertThat(workspace.boards().require("anchor").place()).isEqualTo("Loft");
    }

    @Test
    void anUnknownBoardIsNamedWithThoseThereAre() {
        assertThatThrownBy(() -> workspace.boards().require("x"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("none yet");
        workspace.boards().add(board("tide-clock", "Hall"));
        assertThatThrownBy(() -> workspace.boards().require("x")).hasMessageContaining("tide-clock");
    }

    @Test
    void wearFollowsWhatIsWritten() {
        workspace.media().add(medium("card"));
        workspace.media().addWritten("card", ByteSize.ofGigabytes(4_100));
        Media.Medium after = workspace.media().byFile("card.img").orElseThrow();
        assertThat(after.written()).isEqualTo(ByteSize.ofGigabytes(6_000));
        assertThat(after.worn()).isEqualTo(0.1);
        assertThat(workspace.media().byFile("other.img")).isEmpty();
    }

    @Test
    void theLogbookKeepsEntriesInOrderOfTime() {
        workspace.boards().add(board("tide-clock", "Hall"));
        Logbook log = workspace.log();
        log.add(Optional.of("tide-clock"), Step.IMAGE, "write-verified", "second", Optional.of("{}"));
        log.addPast(NOW.minusSeconds(60), Optional.empty(), Step.COPIES, "copy-proven", "first", Optional.empty());
        assertThat(log.all()).extracting(Logbook.Entry::text).containsExactly("first", "second");
        assertThat(log.last().orElseThrow().details()).contains("{}");
        assertThat(log.boardsWith("write-verified")).containsExactly("tide-clock");
        assertThat(log.boardsWith("copy-proven")).isEmpty();
    }

    @Test
    void theLogbookCannotBeChangedByAnybody() {
        workspace.log().add(Optional.empty(), Step.IMAGE, "write-different", "it differed", Optional.empty());
        assertThatThrownBy(() -> sql("UPDATE logbook SET text = 'all was well'"))
                .isInstanceOf(SQLException.class)
                .hasMessageContaining("append-only");
        assertThatThrownBy(() -> sql("DELETE FROM logbook")).hasMessageContaining("append-only");
        assertThat(workspace.log().all()).hasSize(1);
    }

    @Test
    void anEntryOfABoardThatIsNotInTheRegisterIsRefused() {
        assertThatThrownBy(
                        () -> workspace.log().add(Optional.of("nobody"), Step.IMAGE, "kind", "text", Optional.empty()))
                .hasMessageContaining("FOREIGN KEY");
    }

    @Test
    void aFinishedWriteKeepsItsReport() {
        long id = workspace
                .operations()
                .beginWrite(Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", "marsh.img.xz");
        assertThat(workspace.operations().writes().get(0).ending()).isEqualTo(Ending.RUNNING);
        WriteReport report = new WriteReport(
                "marsh.img.xz",
                "card.img",
                WriteMode.WHOLE,
                100,
                100,
                0,
                2,
                1,
                1,
                Optional.empty(),
                Optional.of(new Verification(100, true, List.of(new Difference(7, 1)))),
                Verdict.DIFFERENT,
                "card.img differs from the image at byte 7.");
        workspace.operations().end(id, report);
        Operations.Operation kept = workspace.operations().writes().get(0);
        assertThat(kept.ending()).isEqualTo(Ending.DIFFERENT);
        assertThat(kept.report().orElseThrow()).contains("\"offset\":7").contains("\"plannedBytes\":100");
    }

    @Test
    void aWriteThatCouldNotBeginIsClosedAsFailed() {
        long id = workspace
                .operations()
                .beginWrite(Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", "marsh.img.xz");
        workspace.operations().end(id, Ending.FAILED, true, "");
        assertThat(workspace.operations().writes().get(0).ending()).isEqualTo(Ending.FAILED);
        assertThat(workspace.operations().writes().get(0).report()).isEmpty();
    }

    /** A process that was killed leaves its row at "running"; whoever comes next finds it, once. */
    @Test
    void aWriteWhoseProcessIsGoneIsInterrupted() throws IOException, SQLException {
        workspace.boards().add(board("tide-clock", "Hall"));
        workspace.media().add(medium("card"));
        long id = workspace
                .operations()
                .beginWrite(
                        Optional.of("tide-clock"), Optional.of("card"), "card.img", "/drives/card.img", "marsh.img.xz");
        sql("UPDATE operation SET process = 999999999 WHERE id = " + id);
        Workspace again = reopened();
        assertThat(again.operations().closeInterrupted()).singleElement().satisfies(gone -> assertThat(gone.isWrite())
                .isTrue());
        assertThat(again.operations().lastWrites().get("card").ending()).isEqualTo(Ending.INTERRUPTED);
        assertThat(reopened().operations().closeInterrupted()).isEmpty();
    }

    @Test
    void aWriteOfALivingProcessIsLeftAlone() throws IOException {
        workspace
                .operations()
                .beginWrite(Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", "marsh.img.xz");
        assertThat(reopened().operations().writes().get(0).ending()).isEqualTo(Ending.RUNNING);
    }

    @Test
    void copiesOfABoardComeOldestFirst() {
        workspace.boards().add(board("tide-clock", "Hall"));
        workspace.boards().add(board("other", "Hall"));
        for (String day : List.of("2026-10-01", "2026-09-01")) {
            workspace
                    .copies()
                    .add(new Copies.Copy(
                            0,
                            "tide-clock",
                            Optional.empty(),
                            Instant.parse(day + "T00:00:00Z"),
                            day + ".img.zst",
                            100,
                            10,
                            "00"));
        }
        assertThat(workspace.copies().of("tide-clock"))
                .extracting(Copies.Copy::file)
                .containsExactly("2026-09-01.img.zst", "2026-10-01.img.zst");
        assertThat(workspace.copies().of("other")).isEmpty();
    }

    @Test
    void settingsAreKept() throws IOException {
        workspace.settings().put("copy-days", "30");
        workspace.settings().put("copy-days", "14");
        workspace.settings().put("name", "Gannet Point");
        assertThat(reopened().settings().all())
                .containsExactlyInAnyOrderEntriesOf(Map.of("copy-days", "14", "name", "Gannet Point"));
    }

    @Test
    void aDatabaseThatIsNoneIsLeftAsItIs() throws IOException {
        Path other = Files.createDirectory(folder.resolve("other"));
        Path file = Files.writeString(other.resolve("exordium.db"), "this is a diary, not a database ".repeat(50));
        String before = Files.readString(file);
        assertThatThrownBy(() -> Workspace.open(other, Clock.systemUTC()))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("left as it is");
        assertThat(Files.readString(file)).isEqualTo(before);
    }

    /** Numbers are given again: the same number with another start is another process. */
    @Test
    void aReusedProcessNumberDoesNotKeepARowAlive() throws IOException, SQLException {
        workspace
                .operations()
                .beginWrite(Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", "marsh.img.xz");
        sql("UPDATE operation SET process_start = 'long ago'");
        assertThat(workspace.operations().closeInterrupted()).hasSize(1);
        assertThat(reopened().operations().writes().get(0).ending()).isEqualTo(Ending.INTERRUPTED);
        long deed = workspace
                .operations()
                .begin(
                        new Operations.Action(
                                "clear", Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", true),
                        "Clearing card.img");
        assertThat(workspace.operations().closeInterrupted()).isEmpty();
        sql("UPDATE operation SET process_start = 'long ago'");
        assertThat(workspace.operations().closeInterrupted())
                .extracting(Operations.Operation::id)
                .containsExactly(deed);
        assertThat(workspace.operations().closeInterrupted()).isEmpty();
    }

    /** Process 1 is another user's, or nobody's to ask after; it lives all the same. */
    @Test
    void aProcessOfAnotherUserIsAlive() {
        assertThat(new RunningProcess(1, "").alive()).isTrue();
        assertThat(new RunningProcess(1, "another start").alive()).isFalse();
        assertThat(RunningProcess.own().alive()).isTrue();
        assertThat(new RunningProcess(999_999_999L, "").alive()).isFalse();
    }

    @Test
    void aRegisterOfANewerVersionIsRefusedAndLeftAsItIs() throws IOException, SQLException {
        sql("INSERT INTO flyway_schema_history (installed_rank, version, description, type, script, installed_by,"
                + " execution_time, success) VALUES (99, '99', 'later', 'SQL', 'V99__later.sql', 'somebody', 1, 1)");
        assertThatThrownBy(this::reopened)
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("newer version")
                .hasMessageContaining("99");
    }

    @Test
    void severalWhoOpenANewFolderAtOnceAllFindItMade() throws Exception {
        Path fresh = workspace.folder().resolveSibling("fresh");
        var pool = java.util.concurrent.Executors.newFixedThreadPool(4);
        try {
            List<java.util.concurrent.Callable<Workspace>> all =
                    java.util.Collections.nCopies(4, () -> Workspace.open(fresh, java.time.Clock.systemUTC()));
            for (var each : pool.invokeAll(all)) {
                assertThat(each.get().boards().all()).isEmpty();
            }
        } finally {
            pool.shutdownNow();
        }
    }

    @Test
    void theLastDeedThatTouchedAMediumIsKnown() throws IOException {
        workspace.media().add(medium("card"));
        Operations.Action deed = new Operations.Action(
                "grow", Optional.empty(), Optional.of("card"), "card.img", "/drives/card.img", true);
        long untouched = workspace.operations().begin(deed, "Growing it");
        workspace.operations().end(untouched, Ending.FAILED, false, "nothing was changed");
        assertThat(workspace.operations().lastTouching()).isEmpty();
        long grown = workspace.operations().begin(deed, "Growing it");
        assertThat(workspace.operations().lastTouching()).containsKey("card");
        workspace.operations().end(grown, Ending.DONE, true, "grown");
        assertThat(workspace.operations().lastTouching().get("card").words()).isEqualTo("grown");
    }
}
