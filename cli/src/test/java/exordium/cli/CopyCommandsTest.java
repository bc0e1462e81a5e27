// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Copies by command, on a board with a small real card: what each prints, and how it ends. */
class CopyCommandsTest {
    private static final String BOARD = "store-room-spare";

    @TempDir
    static Path folder;

    private static Terminal terminal;
    private static Path drives;

    @BeforeAll
    static void aBoardWithASmallCard() throws IOException {
        Path space = folder.resolve("demo");
        terminal = new Terminal(space);
        terminal.json("demo");
        drives = space.resolve("drives");
        Path card = drives.resolve("spare-card-32.img");
        Path description = drives.resolve("spare-card-32.img.drive.yaml");
        Files.writeString(
                description, Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
        long size = Files.size(card);
        Path disk = new DiskBuilder(folder).root("var/log/words", "first").build("card.img");
        Files.copy(disk, card, StandardCopyOption.REPLACE_EXISTING);
        DiskBuilder.blank(card, size);
        assertThat(terminal.run("board", "attach", BOARD, "card", "spare-card-32")
                        .code())
                .isZero();
    }

    @Test
    void aCopyIsMadeLookedIntoCheckedTriedAndRestored() throws IOException {
        JsonNode made =
                terminal.json("copy", "run", BOARD, "--before", "firmware").json();
        assertThat(made.get("usedBytes").asLong())
                .isLessThan(made.get("sourceBytes").asLong());
        assertThat(made.get("letGoCleanly").asBoolean()).isTrue();
        assertThat(Path.of(made.get("file").asText())).exists();
        JsonNode listed = terminal.json("copy", "list", BOARD).json();
        JsonNode last = listed.get(listed.size() - 1);
        assertThat(last.get("before").asText()).isEqualTo("firmware");
        assertThat(terminal.run("copy", "check", BOARD).code()).isZero();
        assertThat(terminal.json("vault", "check", "--sample", "5")
                        .json()
                        .get("chunks")
                        .asInt())
                .isEqualTo(5);
        assertThat(terminal.run("vault", "check", "--sample", "0").code()).isEqualTo(ExitCode.BAD_INPUT);

        String id = last.get("id").asText();
        JsonNode found = terminal.json("copy", "files", id, "/var/log").json();
        assertThat(found.get("entries").findValuesAsText("name")).contains("words");
        Path out = folder.resolve("words");
        assertThat(terminal.json("copy", "files", BOARD, "/var/log/words", "--to", out.toString())
                        .json()
                        .get("bytes")
                        .asInt())
                .isEqualTo(5);
        assertThat(out).hasContent("first");
        assertThat(terminal.run("copy", "files", BOARD, "/none").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("copy", "files", "moon", "/").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.json("copy", "files", BOARD, "/var/log/words", "--history")
                        .json())
                .hasSize(1);

        JsonNode drill = terminal.json("copy", "drill", BOARD).json();
        assertThat(drill.get("passed").asBoolean()).isTrue();
        assertThat(drill.get("outcome").asText()).isEqualTo("running");

        Path back = folder.resolve("back.img");
        assertThat(terminal.run("copy", "restore", BOARD, back.toString(), "--confirm", "back.img", "--mode", "used")
                        .code())
                .isZero();
        // Another board's copy is never taken for this one's.
        assertThat(terminal.run(
                                "copy",
                                "restore",
                                BOARD,
                                folder.resolve("wrong.img").toString(),
                                "--confirm",
                                "wrong.img",
                                "--copy",
                                "tide-clock")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(folder.resolve("wrong.img")).doesNotExist();
        Path root = folder.resolve("root.ext");
        GeneralTools.run("dd", "if=" + back, "of=" + root, "bs=1M", "skip=44", "status=none");
        assertThat(GeneralTools.run("debugfs", "-R", "cat /var/log/words", root.toString()))
                .contains("first");
        Path page = folder.resolve("spare.pdf");
        assertThat(terminal.run("copy", "sheet", BOARD, "--to", page.toString()).code())
                .isZero();
        assertThat(text(page)).contains("Spare of Store-room spare", "Everything written since", "Card slot");
        Path round = folder.resolve("round.pdf");
        JsonNode due = terminal.json("due", "--round", round.toString()).json();
        assertThat(due.findValuesAsText("planned")).allMatch(day -> !day.isEmpty());
        assertThat(text(round)).contains("Round of copies", "Ticket desk");
        JsonNode pruned = terminal.json("copy", "prune", "--dry-run").json();
        assertThat(pruned.get("dryRun").asBoolean()).isTrue();
        assertThat(pruned.get("copies").findValuesAsText("why")).contains("the newest");
    }

    @Test
    void whatChangedWhatACopyAsksForAndTheNextSpareAreSaid() throws IOException {
        assertThat(terminal.run("copy", "run", BOARD).code()).isZero();
        JsonNode none = terminal.json("copy", "changes", BOARD).json();
        assertThat(none.get("files")).isEmpty();
        assertThat(terminal.run("copy", "changes", BOARD, "--since", "image").code())
                .isEqualTo(ExitCode.BAD_INPUT);
        JsonNode changed = terminal.json("copy", "changes", "tide-clock", "--since", "1", "--to", "2")
                .json();
        assertThat(changed.get("files").get(0).get("path").asText()).isEqualTo("/keeper.txt");
        assertThat(changed.get("files").get(0).get("change").asText()).isEqualTo("changed");
        assertThat(changed.get("settings").get(0).get("lines").get(0).asText()).startsWith("-");

        JsonNode care = terminal.json("copy", "care", BOARD, "--stop-first", "the bell", "--quiet", "sun 1:00-2:00")
                .json();
        assertThat(care.get("stopFirst").asText()).isEqualTo("the bell");
        assertThat(terminal.json("copy", "care", BOARD).json().get("quiet").asText())
                .isEqualTo("sun 1:00-2:00");
        assertThat(terminal.run("copy", "care", BOARD, "--quiet", "soon").code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("copy", "care", "moon").code()).isEqualTo(ExitCode.BAD_INPUT);

        JsonNode spare = terminal.json("copy", "spare", "tide-clock").json();
        assertThat(spare.get("media").findValuesAsText("why")).isNotEmpty();
        assertThat(terminal.run("copy", "spare", "moon").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("copy", "drill", BOARD, "--due").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("copy", "drill").code()).isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void aCopyGoesBackOntoALargerDriveAsItsOwn() {
        assertThat(terminal.run("copy", "run", BOARD).code()).isZero();
        Path larger = drives.resolve("larger.img");
        assertThat(terminal.run("drive", "new", larger.toString(), "--bytes", "90000000", "--bus", "sd")
                        .code())
                .isZero();
        assertThat(terminal.run(
                                "copy",
                                "restore",
                                BOARD,
                                larger.toString(),
                                "--confirm",
                                "larger.img",
                                "--host-name",
                                "x")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        JsonNode back = terminal.json(
                        "copy",
                        "restore",
                        BOARD,
                        larger.toString(),
                        "--confirm",
                        "larger.img",
                        "--grow",
                        "--new-identity",
                        "--host-name",
                        "second")
                .json();
        assertThat(back.get("verdict").asText()).isEqualTo("verified");
        assertThat(back.get("outcome").asText()).isEqualTo("running");
        assertThat(back.get("grown").asText()).isNotEmpty();
        assertThat(back.get("findings").findValuesAsText("code")).contains("clone-starts");
    }

    @Test
    void howMediaAreIsAskedToldAndPutDown() throws IOException {
        JsonNode all = terminal.json("medium", "health").json();
        assertThat(all.get(0).get("medium").asText()).isEqualTo("mast-webcam-card");
        assertThat(all.get(0).get("daysLeft").asLong()).isZero();
        Path report = Files.writeString(
                folder.resolve("smart.json"),
                "{\"smart_status\":{\"passed\":true},\"nvme_smart_health_information_log\":{\"percentage_used\":101}}");
        JsonNode told = terminal.json("medium", "health", "film-loop-nvme", "--report", report.toString())
                .json();
        assertThat(told.get("lifeUsed").asDouble()).isEqualTo(1.01);
        assertThat(told.get("daysLeft").asLong()).isZero();
        JsonNode asked =
                terminal.json("medium", "health", "tide-clock-card", "--ask").json();
        assertThat(asked.get("askedAt").asText()).isNotEmpty();
        assertThat(terminal.json("medium", "fault", "tide-clock-card", "corrupted")
                        .json()
                        .get("daysLeft")
                        .asLong())
                .isEqualTo(180);
        assertThat(terminal.run("medium", "fault", "tide-clock-card", "").code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("medium", "health", "--ask").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("medium", "health", "film-loop-nvme", "--report", folder.toString())
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void aCloneIsRehearsedAndATargetMustBeNamed() {
        Path clone = drives.resolve("clone.img");
        assertThat(terminal.run("drive", "new", clone.toString(), "--bytes", "80000000", "--bus", "sd")
                        .code())
                .isZero();
        String from = drives.resolve("spare-card-32.img").toString();
        assertThat(terminal.run("copy", "clone", from, clone.toString(), "--confirm", "other")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
        assertThat(terminal.run("copy", "clone", "/none", clone.toString(), "--confirm", "clone.img")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        JsonNode done = terminal.json(
                        "copy",
                        "clone",
                        from,
                        clone.toString(),
                        "--confirm",
                        "clone.img",
                        "--new-identity",
                        "--host-name",
                        "second")
                .json();
        assertThat(done.get("outcome").asText()).isEqualTo("running");
        assertThat(done.get("findings").findValuesAsText("code")).contains("clone-starts");
        assertThat(terminal.run("copy", "clone", from, clone.toString(), "--confirm", "clone.img", "--host-name", "x")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void theTimerIsShownWrittenAndTakenBack() throws IOException {
        Path units = folder.resolve("units");
        JsonNode shown = terminal.json("schedule", "show", "--at", "06:15", "--folder", units.toString())
                .json();
        assertThat(shown.get("units").findValuesAsText("text").get(1)).contains("OnCalendar=*-*-* 06:15:00");
        assertThat(shown.get("installed").asBoolean()).isFalse();
        assertThat(units).doesNotExist();
        assertThat(terminal.run("schedule", "install", "--folder", units.toString())
                        .code())
                .isZero();
        assertThat(units.resolve("exordium-copies.timer")).exists();
        assertThat(terminal.json("schedule", "remove", "--folder", units.toString())
                        .json()
                        .get("removed"))
                .hasSize(2);
        assertThat(terminal.run("schedule", "show", "--at", "25:99").code()).isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void aBoardOrAllThatAreDue() {
        assertThat(terminal.run("copy", "run").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("copy", "run", BOARD, "--due").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("vault", "repair", folder.toString()).code()).isEqualTo(ExitCode.BAD_INPUT);
    }

    private static String text(Path pdf) throws IOException {
        try (PDDocument document = Loader.loadPDF(pdf.toFile())) {
            return new PDFTextStripper().getText(document);
        }
    }
}
