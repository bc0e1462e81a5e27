// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is known of a family of one's own, by command: from the first field to a measured start. */
class OwnFamilyCommandsTest {
    @TempDir
    static Path folder;

    private static Terminal terminal;

    @BeforeAll
    static void demo() {
        terminal = Terminal.ofDemo(folder.resolve("demo"));
        terminal.json("profile", "new", "heron-1", "--like", "plover-4", "--memory", "2 GB");
    }

    private static JsonNode field(String family, String name) {
        for (JsonNode each : terminal.json("profile", "show", family).json().get("fields")) {
            if (each.get("field").asText().equals(name)) {
                return each;
            }
        }
        throw new AssertionError("no field " + name);
    }

    private static List<String> unknown(String family) {
        List<String> names = new ArrayList<>();
        terminal.json("profile", "show", family)
                .json()
                .get("unknown")
                .forEach(each -> names.add(each.get("field").asText()));
        return names;
    }

    @Test
    void fieldsSayWhereTheyAreFromAndAreToldOneByOne() {
        assertThat(field("heron-1", "memory").get("source").asText()).isEqualTo("told");
        assertThat(field("heron-1", "ports").get("source").asText()).isEqualTo("inherited");
        assertThat(field("heron-1", "ports").get("from").asText()).isEqualTo("plover-4");
        assertThat(unknown("heron-1"))
                .contains("firmware.recovery", "firmware.tool", "firmware.needs")
                .doesNotContain("memory");
        terminal.json("profile", "tell", "heron-1", "firmware.tool=/usr/sbin/heron-loader", "power.baseWatts=5.5");
        assertThat(field("heron-1", "firmware.tool").get("value").asText()).isEqualTo("/usr/sbin/heron-loader");
        assertThat(field("heron-1", "power.baseWatts").get("source").asText()).isEqualTo("told");
        assertThat(unknown("heron-1")).doesNotContain("firmware.tool", "power.baseWatts");
    }

    @Test
    void whatCannotBeToldIsSaid() {
        assertThat(terminal.run("profile", "tell", "heron-1", "firmware.tol=x").sentence())
                .contains("firmware.tool");
        assertThat(terminal.run("profile", "tell", "heron-1", "power.amps=many").code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("profile", "tell", "plover-4", "width=64").sentence())
                .contains("comes with the program");
    }

    @Test
    void aTimedStartCalibratesAFamily() throws IOException {
        double before =
                field("plover-4", "timing").get("value").get("userSpace").asDouble();
        Path text = Files.writeString(
                folder.resolve("start.txt"),
                "keeper@slipway-lamp:~$ systemd-analyze\nStartup finished in 9.0s (kernel) + 41.0s (userspace) = 50.0s\n");
        JsonNode put = terminal.json("paste", text.toString(), "--board", "slipway-lamp", "--put-down")
                .json();
        assertThat(put.get("findings").toString()).contains("start-otherwise");
        assertThat(field("plover-4", "timing").get("source").asText()).isEqualTo("measured");
        assertThat(field("plover-4", "timing").get("from").asText()).contains("1 start of 1 board");
        assertThat(field("plover-4", "timing").get("value").get("userSpace").asDouble())
                .isGreaterThan(before);
    }

    @Test
    void whatWorksIsHandedOnAndTakenIn() {
        terminal.json("works", "add", "Kelpline K3", "--profile", "plover-5", "--fails", "--note", "not seen");
        Path file = folder.resolve("handed-on.yaml");
        terminal.json("works", "export", file.toString(), "--by", "Somebody");
        JsonNode in = terminal.json("works", "import", file.toString()).json();
        assertThat(in.get("signed").asText()).isEqualTo("good");
        JsonNode list =
                terminal.json("works", "list", "--profile", "plover-5").json().get("entries");
        assertThat(list.toString()).contains("Somebody").contains("not seen");
    }

    @Test
    void theScriptForTheBoardIsThereToSeeAndToKeep() {
        Path file = folder.resolve("ask.sh");
        JsonNode out =
                terminal.json("board", "script", "--out", file.toString()).json();
        assertThat(file).content().isEqualTo(out.get("script").asText()).startsWith("#!/bin/sh");
        assertThat(out.get("commands").toString()).contains("lsblk");
        assertThat(terminal.run("board", "script", "--out", file.toString()).code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    /** What a login's client says leads to its cause. */
    @Test
    void aRefusedLoginLeadsToWhatIsOff() throws IOException {
        Path text = Files.writeString(
                folder.resolve("ssh.txt"), "ssh: connect to host 192.168.4.20 port 22: Connection refused\n");
        JsonNode first = terminal.json("diagnose", "tide-clock", "--log", text.toString(), "--seen", "screen=login")
                .json()
                .get("suspects")
                .get(0);
        assertThat(first.get("fault").asText()).isEqualTo("login-off");
    }
}
