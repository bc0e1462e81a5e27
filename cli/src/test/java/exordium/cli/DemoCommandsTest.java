// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import biweekly.Biweekly;
import biweekly.ICalendar;
import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;

/** The commands that work on boards of the register, over one demo workspace; each test has a board of its own. */
@TestMethodOrder(MethodOrderer.MethodName.class)
class DemoCommandsTest {
    @TempDir
    static Path folder;

    private static Terminal terminal;

    @BeforeAll
    static void demo() {
        terminal = new Terminal(folder.resolve("demo"));
        Terminal.Ran ran = terminal.json("demo");
        assertThat(ran.code()).isZero();
        assertThat(ran.json().get("boards").asInt()).isEqualTo(11);
    }

    @Test
    void anUpdateIsStagedAndTheRestartTakesItOver() {
        assertThat(terminal.json("firmware", "status", "ticket-desk")
                        .json()
                        .get("running")
                        .asText())
                .isEqualTo("2025-06-03");
        assertThat(terminal.json("firmware", "plan", "ticket-desk")
                        .json()
                        .get("to")
                        .asText())
                .isEqualTo("2026-09-02");
        assertThat(terminal.run("firmware", "apply", "ticket-desk").code()).isZero();
        JsonNode staged = terminal.json("firmware", "status", "ticket-desk").json();
        assertThat(staged.get("running").asText()).isEqualTo("2025-06-03");
        assertThat(staged.get("staged").asText()).isEqualTo("2026-09-02");
        assertThat(terminal.json("board", "restart", "ticket-desk")
                        .json()
                        .get("firmware")
                        .asText())
                .isEqualTo("2026-09-02");
    }

    @Test
    void switchingOffLosesWhatWasStaged() {
        terminal.run("order", "stage", "tide-clock", "0xf14");
        JsonNode off = terminal.json("board", "switch-off", "tide-clock").json();
        assertThat(off.get("order").asText()).isEqualTo("0xf41");
        terminal.run("order", "stage", "tide-clock", "0xf14");
        JsonNode restarted = terminal.json("board", "restart", "tide-clock").json();
        assertThat(restarted.get("order").asText()).isEqualTo("0xf14");
    }

    @Test
    void theOverlayRefusesAnUpdateWithCode3() {
        Terminal.Ran ran = terminal.run("firmware", "apply", "oral-history-booth");
        assertThat(ran.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(ran.sentence()).contains("overlay");
        assertThat(terminal.run("firmware", "plan", "oral-history-booth", "--version", "yesterday")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void aBoardIsRehearsedWithAndWithoutWhatIsPluggedIn() {
        JsonNode wave = terminal.json("rehearse", "--board", "wave-tank").json();
        assertThat(wave.get("outcome").asText()).isEqualTo("running");
        assertThat(wave.get("reachable").asBoolean()).isTrue();
        assertThat(wave.get("steps").findValuesAsText("stage"))
                .startsWith("power", "firmware", "source", "kernel", "root", "system")
                .endsWith("system");
        JsonNode pulled = terminal.json("rehearse", "--board", "wave-tank", "--without", "nvme")
                .json();
        assertThat(pulled.get("outcome").asText()).isEqualTo("looping");
        assertThat(terminal.run("rehearse", "--board", "wave-tank", "--without", "moon")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        JsonNode film = terminal.json("rehearse", "--board", "film-loop").json();
        assertThat(film.get("cause").asText()).isEqualTo("no-source-left");
        assertThat(film.get("findings").get(0).get("text").asText()).contains("Kelpline 512");
    }

    @Test
    void copiesAreListedAndCheckedAndAsLargeAsTheirDrive() throws IOException {
        JsonNode listed = terminal.json("copy", "list", "ticket-desk").json();
        assertThat(listed).hasSize(3);
        assertThat(terminal.run("copy", "check", "ticket-desk").code()).isZero();
        // As large as the card is used by its partitions; the frames of such a copy unpack to just that.
        long least = terminal.json(
                        "inspect",
                        folder.resolve("demo/drives/ticket-desk-card.img").toString())
                .json()
                .get("leastMediumBytes")
                .asLong();
        assertThat(listed.get(0).get("sourceBytes").asLong()).isEqualTo(least);
        Path target = folder.resolve("restored.img");
        Terminal.Ran refused = terminal.run("copy", "restore", "ticket-desk", target.toString(), "--confirm", "other");
        assertThat(refused.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(target).doesNotExist();
    }

    @Test
    void aRottenCopyIsCode4() throws IOException {
        Path file = folder.resolve("demo/vault/rescue-map-table")
                .toFile()
                .listFiles((dir, name) -> name.endsWith(".zst"))[0]
                .toPath();
        DiskBuilder.flip(file, 50);
        Terminal.Ran ran = terminal.run("copy", "check", "rescue-map-table");
        assertThat(ran.code()).isEqualTo(ExitCode.DIFFERENT);
        assertThat(ran.out()).contains("do not restore");
    }

    /** The calendar is read back by biweekly's own parser (RFC 5545). */
    @Test
    void dueDatesAreAnICalendarFile() throws IOException {
        Path file = folder.resolve("due.ics");
        Terminal.Ran ran = terminal.json("due", "--ics", file.toString());
        assertThat(ran.json()).hasSize(10);
        assertThat(ran.json().get(0).get("overdue").asBoolean()).isTrue();
        ICalendar calendar = Biweekly.parse(file.toFile()).first();
        assertThat(calendar.getEvents()).hasSize(10);
        assertThat(calendar.getEvents().get(0).getSummary().getValue()).startsWith("Copy of ");
        assertThat(calendar.validate(biweekly.ICalVersion.V2_0)).isEmpty();
    }

    @Test
    void theVaultTellsItsSpace() {
        JsonNode vault = terminal.json("vault", "status").json();
        assertThat(vault.get("boards")).hasSize(10);
        assertThat(vault.get("usedBytes").asLong()).isPositive();
        assertThat(vault.get("freeBytes").asLong()).isPositive();
    }

    /** The log is read back by a library's reader of RFC 4180. */
    @Test
    void theLogbookIsCsv() throws IOException {
        String csv = terminal.run("log", "--csv").out();
        try (var parser = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .get()
                .parse(new java.io.StringReader(csv))) {
            List<CSVRecord> records = parser.getRecords();
            assertThat(records).hasSizeGreaterThan(30);
            assertThat(records).allSatisfy(each -> assertThat(each.size()).isEqualTo(5));
            assertThat(records).extracting(each -> each.get("kind")).contains("write-verified", "copy-proven");
        }
        assertThat(terminal.json("log").json().size()).isGreaterThan(30);
    }

    @Test
    void storageForABoardIsChosenFromTheDrawer() {
        JsonNode candidates = terminal.json(
                        "choose",
                        "--board",
                        "mast-webcam",
                        "--image",
                        folder.resolve("demo/images/marshlinux-2026.04-lite.img.xz")
                                .toString())
                .json()
                .get("candidates");
        assertThat(candidates.findValuesAsText("id"))
                .containsExactlyInAnyOrder("mast-webcam-card", "spare-card-32", "spare-card-16", "spare-ssd-240");
        assertThat(candidates.get(3).get("id").asText()).isEqualTo("mast-webcam-card");
    }

    @Test
    void writingOverACardInServiceSaysWhatIsLost() throws IOException {
        Path drive = folder.resolve("demo/drives/engine-room-card.img");
        Path description = drive.resolveSibling("engine-room-card.img.drive.yaml");
        Files.writeString(
                description, Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
        Terminal.Ran ran = terminal.json(
                "write",
                folder.resolve("demo/images/marshlinux-2025.11-lite-32.img.xz").toString(),
                drive.toString(),
                "--confirm",
                "engine-room-card.img");
        assertThat(ran.code()).isZero();
        assertThat(ran.err()).contains("in service at Engine-room sound");
        JsonNode last = terminal.json("log").json();
        assertThat(last.get(last.size() - 1).toString()).contains("engine-room-sound");
    }

    @Test
    void theRegisterOfMediaIsKeptFromTheTerminal() throws IOException {
        JsonNode list = terminal.json("medium", "look").json();
        assertThat(list.get("media")).hasSize(13);
        assertThat(list.get("media").findValuesAsText("label")).contains("M1", "M12");
        assertThat(terminal.run("medium", "label", "spare-card-32", "Spare A").code())
                .isZero();
        assertThat(terminal.run("medium", "state", "Spare A", "lent", "--note", "harbour")
                        .code())
                .isZero();
        assertThat(terminal.run("medium", "state", "Spare A", "eaten").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("medium", "state", "Spare A", "here").code()).isZero();
        Path sheet = folder.resolve("labels.pdf");
        assertThat(terminal.json("medium", "labels", sheet.toString()).json().asInt())
                .isEqualTo(13);
        assertThat(Files.readString(sheet, java.nio.charset.StandardCharsets.ISO_8859_1))
                .startsWith("%PDF-");
        assertThat(terminal.run("medium", "csv").out().lines().count()).isEqualTo(14);
        Terminal.Ran refused = terminal.run("medium", "new-identifier", "old", "--confirm", "x");
        assertThat(refused.code()).isEqualTo(ExitCode.BAD_INPUT);
        refused = terminal.run("medium", "new-identifier", "spare-card-16", "--confirm", "spare");
        assertThat(refused.code()).isEqualTo(ExitCode.REFUSED);
        Terminal.Ran given =
                terminal.json("medium", "new-identifier", "spare-card-16", "--confirm", "spare-card-16.img");
        assertThat(given.json().get("after").asText()).matches("[0-9a-f]{8}");
        assertThat(terminal.json(
                                "medium",
                                "recognise",
                                folder.resolve("demo/drives/spare-card-16.img").toString())
                        .json()
                        .asText())
                .isEqualTo("spare-card-16");
    }

    @Test
    void aPlanForAllBoardsSaysWhoKeepsWhoMovesAndWhatIsBought() {
        JsonNode plan = terminal.json("choose", "--all").json();
        assertThat(plan.get("boards")).hasSize(11);
        assertThat(plan.get("boards").findValuesAsText("deed")).contains("keep", "move");
        for (JsonNode row : plan.get("boards")) {
            assertThat(row.get("reason").asText()).endsWith(".");
            if (row.get("board").asText().equals("mast-webcam")) {
                assertThat(row.get("deed").asText()).isIn("move", "buy");
            }
        }
    }

    @Test
    void copyingOnAndKnownDrives() {
        assertThat(terminal.json("medium", "copy-on", "wave-tank-nvme", "spare-card-16")
                        .json()
                        .get("fits")
                        .asBoolean())
                .isFalse();
        assertThat(terminal.json("medium", "copy-on", "spare-card-16", "spare-ssd-240")
                        .json()
                        .get("fits")
                        .asBoolean())
                .isTrue();
        assertThat(terminal.run(
                                "medium",
                                "known",
                                "Kelpline 256",
                                "--profile",
                                "plover-5",
                                "--note",
                                "in the wave tank")
                        .out())
                .contains("works");
        assertThat(terminal.run("medium", "known", "Oddball 1", "--profile", "plover-5", "--no-works")
                        .out())
                .contains("does not work");
        assertThat(terminal.run("medium", "known", "Oddball 1").code()).isEqualTo(ExitCode.BAD_INPUT);
    }
}
