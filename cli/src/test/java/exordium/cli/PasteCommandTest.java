// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PasteCommandTest {
    @TempDir
    static Path folder;

    private static Terminal terminal;

    @BeforeAll
    static void demo() {
        terminal = Terminal.ofDemo(folder.resolve("demo"));
    }

    private static String text(String lines) throws IOException {
        return Files.writeString(folder.resolve("pasted.txt"), lines).toString();
    }

    @Test
    void whatIsPastedOfABoardByHandIsToldOfIt() throws IOException {
        String file = text("keeper@slipway-lamp:~$ findmnt\nfirmware: 2026-09-02\nBOOT_ORDER=0xf41\nwhat is this\n");
        JsonNode out = terminal.json("paste", file, "--put-down").json();
        assertThat(out.get("facts")).hasSize(2);
        assertThat(out.get("facts").get(0).get("fact").asText()).isEqualTo("firmwareDate");
        assertThat(out.get("facts").get(0).get("line").asInt()).isEqualTo(2);
        assertThat(out.get("facts").get(0).get("of").asText()).isEqualTo("board");
        assertThat(out.get("facts").get(0).get("name").asText()).isEqualTo("slipway-lamp");
        assertThat(out.get("unread")).hasSize(1);
        assertThat(terminal.json("firmware", "status", "slipway-lamp")
                        .json()
                        .get("running")
                        .asText())
                .isEqualTo("2026-09-02");
    }

    @Test
    void theTextOfAnotherBoardIsRefused() throws IOException {
        String file = text("keeper@tide-clock:~$ cat order\nBOOT_ORDER=0xf41\n");
        Terminal.Ran refused = terminal.run("paste", file, "--board", "slipway-lamp");
        assertThat(refused.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(refused.sentence()).contains("tide-clock");
        assertThat(terminal.run("paste", file, "--board", "slipway-lmp").sentence())
                .contains("slipway-lamp");
    }

    @Test
    void rubbishIsUnreadAndNoTextIsRefused() throws IOException {
        Terminal.Ran rubbish = terminal.json("paste", text("lorem \u001b[31mipsum\n"));
        assertThat(rubbish.code()).isZero();
        assertThat(rubbish.json().get("facts")).isEmpty();
        assertThat(rubbish.json().get("unread").get(0).asText()).isEqualTo("lorem ipsum");
        assertThat(terminal.run("paste", text("")).code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("paste", text("a\0b")).code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("paste", folder.resolve("none").toString()).code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }
}
