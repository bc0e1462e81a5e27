// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A workspace, a family, a board and a medium of one's own, from nothing, by commands alone. */
class OwnBoardCommandsTest {
    @TempDir
    Path folder;

    private final Deque<Runnable> undo = new ArrayDeque<>();
    private Terminal terminal;

    @BeforeEach
    void workspace() {
        System.setProperty("exordium.state", folder.resolve("state").toString());
        terminal = new Terminal(folder.resolve("own"));
        JsonNode made = terminal.json("workspace", "new", "--name", "My boards").json();
        assertThat(made.get("name").asText()).isEqualTo("My boards");
        assertThat(made.get("boards").asInt()).isZero();
    }

    @AfterEach
    void undo() {
        undo.forEach(Runnable::run);
        System.clearProperty("exordium.state");
    }

    private JsonNode json(String... words) {
        Terminal.Ran ran = terminal.json(words);
        assertThat(ran.code()).as(String.join(" ", words) + ": " + ran.err()).isZero();
        return ran.json();
    }

    private String refused(String... words) {
        Terminal.Ran ran = terminal.run(words);
        assertThat(ran.code()).as(String.join(" ", words)).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).doesNotContain("Exception");
        return ran.sentence();
    }

    /** A loop device of this test's own; letGo takes it away as pulling a card out does. */
    private String loop(long bytes) throws IOException {
        Needs.here(GeneralTools.exitOf("losetup", "-f") == 0, "no loop devices here");
        Path card = folder.resolve("card");
        DiskBuilder.blank(card, bytes);
        String loop =
                GeneralTools.run("losetup", "-f", "--show", card.toString()).strip();
        undo.push(() -> GeneralTools.exitOf("losetup", "-d", loop));
        return loop;
    }

    @Test
    void aBoardByHandWithARealCardFromNothingToItsCopyInTheCalendar() throws IOException {
        // An identifier no other test has: its loop devices beside this one must not be taken for this card.
        Path image = new DiskBuilder(folder).id("0c4d0c4e").build("system.img");
        JsonNode family = json("profile", "from", image.toString(), "--id", "heron-1", "--like", "plover-4");
        assertThat(family.get("outcome").asText()).isEqualTo("running");
        assertThat(json("profile", "list").findValuesAsText("id")).contains("heron-1");
        JsonNode board = json(
                "board",
                "new",
                "Attic",
                "--profile",
                "heron-1",
                "--memory",
                "4 GB",
                "--reach",
                "by-hand",
                "--mac",
                "02-00-5E-10-00-07");
        assertThat(board.get("orderBy").asText()).isEqualTo("default");
        assertThat(board.get("firmwareBy").asText()).isEqualTo("default");
        assertThat(board.get("mac").asText()).isEqualTo("02:00:5e:10:00:07");

        String loop = loop(Files.size(image) + (8 << 20));
        String id = loop.substring(loop.lastIndexOf('/') + 1);
        assertThat(terminal.run("medium", "take", loop, "--name", "Own card").code())
                .isEqualTo(ExitCode.REFUSED);
        JsonNode written = json("write", image.toString(), loop, "--confirm", id, "--allow-real-drives");
        assertThat(written.get("verdict").asText()).isEqualTo("verified");
        // Card to card: what was just written is a source itself.
        Path second = folder.resolve("second.img");
        json("drive", "new", second.toString(), "--bytes", "120000000", "--bus", "usb");
        JsonNode across = json("write", loop, second.toString(), "--confirm", "second.img");
        assertThat(across.get("verdict").asText()).isEqualTo("verified");
        GeneralTools.run("cmp", "-n", String.valueOf(Files.size(image)), loop, second.toString());
        assertThat(json("verify", loop, second.toString()).get("verdict").asText())
                .isEqualTo("verified");
        JsonNode card =
                json("medium", "take", loop, "--name", "Own card", "--kind", "card-quick", "--allow-real-drives");
        assertThat(card.get("holds").asText()).contains("marshlinux");
        assertThat(card.get("holdsBy").asText()).isEqualTo("read");
        json("board", "attach", "attic", "card", "own-card");
        Path intents = Files.writeString(
                folder.resolve("intents.yaml"), "profile: heron-1\nremoteLogin: true\nrootByIdentifier: false\n");
        json("firststart", "apply", intents.toString(), loop, "--allow-real-drives");
        json("medium", "read", "own-card");
        GeneralTools.run("losetup", "-d", loop);

        JsonNode rehearsed = json("rehearse", "--board", "attic");
        assertThat(rehearsed.get("outcome").asText()).isEqualTo("running");
        assertThat(rehearsed.get("startedFrom").asText()).isEqualTo("card");
        assertThat(rehearsed.get("attached").get(0).get("here").asBoolean()).isFalse();
        assertThat(rehearsed.get("attached").get(0).get("contentsBy").asText()).isEqualTo("read");
        assertThat(rehearsed.get("orderBy").asText()).isEqualTo("default");
        JsonNode told = json(
                "board",
                "told",
                "attic",
                "--started",
                "card",
                "--root",
                "mmcblk0p2",
                "--firmware",
                "2026-09-02",
                "--order",
                "0xf41");
        assertThat(told.get("findings")).isEmpty();
        assertThat(told.get("firmwareBy").asText()).isEqualTo("told");
        assertThat(told.get("rootBy").asText()).isEqualTo("told");
        assertThat(told.get("started").asText()).isEqualTo("card");
        assertThat(json("due").findValuesAsText("board")).contains("attic");
        assertThat(json("firmware", "status", "attic").get("runningBy").asText())
                .isEqualTo("told");
    }

    @Test
    void aRestartOfABoardByHandIsStepsAndASimulatedOneIsPlayed() {
        json(
                "board",
                "new",
                "Own",
                "--profile",
                "plover-5",
                "--memory",
                "8GB",
                "--reach",
                "by-hand",
                "--firmware",
                "2025-06-03",
                "--order",
                "0xf41");
        JsonNode staged = json("firmware", "apply", "own", "--version", "2026-09-02");
        assertThat(staged.get("steps").get(0).asText()).contains("2026-09-02");
        JsonNode restart = json("board", "restart", "own");
        assertThat(restart.get("reach").asText()).isEqualTo("by-hand");
        assertThat(restart.get("outcome").isNull()).isTrue();
        assertThat(restart.get("firmware").asText()).isEqualTo("2025-06-03");
        assertThat(restart.get("steps").size()).isGreaterThan(2);
        JsonNode waiting = json("board", "show", "own");
        assertThat(waiting.get("stagedFirmware").asText()).isEqualTo("2026-09-02");
        assertThat(json("order", "stage", "own", "0xf416").get("steps").toString())
                .contains("BOOT_ORDER=0xf416");

        json("board", "new", "Played", "--profile", "plover-5", "--memory", "8 GB");
        JsonNode played = json("board", "show", "played");
        assertThat(played.get("reach").asText()).isEqualTo("simulated");
        assertThat(played.has("firmwareBy")).isFalse();
        assertThat(refused("board", "told", "played", "--started", "card")).contains("simulated");
        json("board", "edit", "played", "--name", "Played twice", "--supply", "poe-at", "--note", "in the loft");
        JsonNode edited = json("board", "show", "played");
        assertThat(edited.get("name").asText()).isEqualTo("Played twice");
        assertThat(edited.get("supply").get("via").asText()).isEqualTo("poe-at");
        assertThat(edited.get("note").asText()).isEqualTo("in the loft");
    }

    @Test
    void whatCannotBeIsOneSentenceAndLosesNothing() throws IOException {
        json("board", "new", "Own", "--profile", "plover-4", "--memory", "4 GB", "--reach", "by-hand");
        JsonNode before = json("board", "show", "own");
        for (List<String> words : List.of(
                List.of("board", "edit", "own"),
                List.of("board", "edit", "own", "--supply", "12 V 1 A"),
                List.of("board", "edit", "own", "--mac", "nine"),
                List.of("board", "edit", "own", "--carrier", "loud"),
                List.of("board", "edit", "own", "--order", "0xF41"),
                List.of("board", "edit", "own", "--channel", "weekly"),
                List.of("board", "edit", "own", "--overlay", "maybe"),
                List.of("board", "edit", "own", "--reach", "far"),
                List.of("board", "edit", "own", "--profile", "swan-9"),
                List.of("board", "edit", "own", "--firmware", "yesterday"),
                List.of("board", "told", "own"),
                List.of("board", "told", "own", "--root", "a b"),
                List.of("board", "told", "own", "--started", "moon"),
                List.of("board", "edit", "nobody", "--name", "x"),
                List.of("profile", "show", "swan-9"),
                List.of("profile", "check", folder.resolve("none.yaml").toString()),
                List.of("profile", "new", "Swan 9"),
                List.of("profile", "new", "plover-4"),
                List.of("profile", "from", folder.resolve("none.img").toString()),
                List.of("medium", "take", "nosuch", "--name", "x"),
                List.of("workspace", "new", "--name", "again"),
                List.of(
                        "workspace",
                        "import",
                        folder.resolve("none.zip").toString(),
                        folder.resolve("in").toString()))) {
            refused(words.toArray(String[]::new));
        }
        assertThat(json("board", "show", "own")).isEqualTo(before);
        Path broken = Files.writeString(folder.resolve("broken.yaml"), "boards:\n  - id: x\n    width: 48\n");
        assertThat(refused("profile", "check", broken.toString())).contains("broken.yaml");
    }

    @Test
    void aWorkspaceGoesAlongAsOneFile() {
        json("board", "new", "Own", "--profile", "plover-4", "--memory", "4 GB", "--reach", "by-hand");
        Path zip = folder.resolve("taken.zip");
        assertThat(json("workspace", "export", zip.toString()).get("bytes").asLong())
                .isPositive();
        JsonNode again = json(
                "workspace", "import", zip.toString(), folder.resolve("again").toString());
        assertThat(again.get("name").asText()).isEqualTo("My boards");
        assertThat(again.get("boards").asInt()).isEqualTo(1);
        assertThat(json("workspace", "list").findValuesAsText("name")).contains("My boards");
        Terminal there = new Terminal(folder.resolve("again"));
        assertThat(there.json("board", "show", "own").json()).isEqualTo(json("board", "show", "own"));
    }

    /** A board that is small enough for a test: its copy goes back and is what its drive is, as cmp(1) sees it. */
    @Test
    void aCopyIsRestored() throws IOException {
        Path drive = folder.resolve("own/drives/small.img");
        Path image = new DiskBuilder(folder).sizes(40, 20).build("small-system.img");
        long bytes = image.toFile().length() + (8 << 20);
        json("drive", "new", drive.toString(), "--bytes", String.valueOf(bytes), "--bus", "sd");
        json("write", image.toString(), drive.toString(), "--confirm", "small.img");
        json("medium", "take", "small.img", "--name", "Small card");
        assertThat(refused("medium", "take", "small.img", "--name", "Again")).contains("in the register already");
        json("board", "new", "Small board", "--profile", "plover-4", "--memory", "2 GB");
        json("board", "attach", "small-board", "card", "small-card");
        json("copy", "run", "small-board");
        Path target = folder.resolve("restored.img");
        json("copy", "restore", "small-board", target.toString(), "--confirm", "restored.img");
        assertThat(GeneralTools.exitOf(
                        "cmp", "-n", String.valueOf(target.toFile().length()), drive.toString(), target.toString()))
                .isZero();
    }
}
