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
