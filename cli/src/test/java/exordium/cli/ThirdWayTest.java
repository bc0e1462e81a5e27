// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.access.BoardWays;
import exordium.core.access.WireWay;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A way to a board that reads back firmware, order and root, by every command that asks for them: one class and one line beside
 * what ships ({@link WireWay}), and nothing else knows of it.
 */
class ThirdWayTest {
    @TempDir
    Path folder;

    private Terminal terminal;

    @BeforeEach
    void workspace() {
        System.setProperty("exordium.state", folder.resolve("state").toString());
        terminal = new Terminal(folder.resolve("own"));
        json("workspace", "new", "--name", "By wire");
        json("board", "new", "Own", "--profile", "plover-5", "--memory", "8 GB", "--reach", "test-wire");
    }

    @AfterEach
    void forget() {
        System.clearProperty("exordium.state");
    }

    private JsonNode json(String... words) {
        Terminal.Ran ran = terminal.json(words);
        assertThat(ran.code()).as(String.join(" ", words) + ": " + ran.err()).isZero();
        return ran.json();
    }

    private void answers(String... lines) throws IOException {
        Files.writeString(folder.resolve("own/boards/own.wire"), String.join("\n", lines) + "\n");
    }

    @Test
    void itIsAWayLikeTheOthers() {
        assertThat(BoardWays.all()).extracting(way -> way.code()).containsExactly("by-hand", "simulated", "test-wire");
        JsonNode board = json("board", "show", "own");
        assertThat(board.get("reach").asText()).isEqualTo("test-wire");
        assertThat(board.get("firmwareBy").asText()).isEqualTo("default");
    }

    @Test
    void whatIsReadIsKnownAsReadByEveryCommand() throws IOException {
        answers("firmware=2026-06-18", "order=0xf146", "root=nvme0n1p2");
        JsonNode read = json("board", "read", "own");
        assertThat(read.get("firmware").asText()).isEqualTo("2026-06-18");
        for (String fact : new String[] {"firmware", "order", "root"}) {
            assertThat(read.get(fact + "By").asText()).as(fact).isEqualTo("read");
            assertThat(read.get(fact + "AsOf").asText()).as(fact).endsWith("Z");
        }
        assertThat(read.get("root").asText()).isEqualTo("/dev/nvme0n1p2");
        assertThat(json("board", "show", "own").get("orderBy").asText()).isEqualTo("read");
        assertThat(json("firmware", "status", "own").get("runningBy").asText()).isEqualTo("read");
        JsonNode rehearsed = terminal.json("rehearse", "--board", "own").json();
        assertThat(rehearsed.toString()).contains("\"order\":\"0xf146\"").contains("\"orderBy\":\"read\"");
        assertThat(json("board", "list").get(0).get("firmwareBy").asText()).isEqualTo("read");
        // What somebody tells counts where the wire shows nothing of it.
        json("board", "told", "own", "--started", "card");
        assertThat(json("board", "show", "own").get("startedBy").asText()).isEqualTo("told");
        assertThat(json("board", "show", "own").get("firmwareBy").asText()).isEqualTo("read");
    }

    @Test
    void whatItCannotDoIsStepsAndWhatCameOfThemIsReadAgain() throws IOException {
        answers("firmware=2026-06-18", "order=0xf41", "root=/dev/mmcblk0p2");
        json("board", "read", "own");
        JsonNode staged = json("order", "stage", "own", "0xf14");
        assertThat(staged.get("steps").toString()).contains("0xf14").contains("have it read again");
        JsonNode restart = json("board", "restart", "own");
        assertThat(restart.get("steps").size()).isGreaterThan(2);
        assertThat(restart.get("outcome").isNull()).isTrue();
        assertThat(json("board", "show", "own").get("stagedOrder").asText()).isEqualTo("0xf14");
        answers("firmware=2026-06-18", "order=0xf14");
        json("board", "read", "own");
        JsonNode after = json("board", "show", "own");
        assertThat(after.get("order").asText()).isEqualTo("0xf14");
        assertThat(after.hasNonNull("stagedOrder")).isFalse();
    }

    @Test
    void aWireThatIsSilentIsOneSentenceAndWhoIsNotReadSaysSo() {
        Terminal.Ran silent = terminal.run("board", "read", "own");
        assertThat(silent.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(silent.sentence()).isEqualTo("The wire is silent.");
        json("board", "new", "Hand", "--profile", "plover-5", "--memory", "8 GB", "--reach", "by-hand");
        assertThat(terminal.run("board", "read", "hand").sentence()).contains("board told");
        json("board", "new", "Played", "--profile", "plover-5", "--memory", "8 GB");
        assertThat(terminal.run("board", "read", "played").sentence()).contains("whenever it is asked for");
    }
}
