// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.Arrays;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import picocli.CommandLine;

/** What holds for all commands: names, options, help, one sentence for bad input, what a kill left. */
class CommandLineTest extends Commands {
    @Test
    void everyCommandIsCalledByTheNameItSaysItHas() {
        Main.COMMANDS.forEach((name, command) -> assertThat(
                        command.getAnnotation(CommandLine.Command.class).name())
                .isEqualTo(name));
    }

    /** Whichever command comes first after a kill tells of it. */
    @ParameterizedTest
    @ValueSource(strings = {"log", "board list", "copy list", "writes", "drives"})
    void everyCommandThatOpensTheWorkspaceFindsWhatAKillLeft(String command) throws IOException, SQLException {
        Workspace workspace = Workspace.open(folder.resolve("workspace"), Clock.systemUTC());
        workspace
                .operations()
                .begin(
                        new Operations.Action(
                                "clear", Optional.empty(), Optional.empty(), "card.img", "/drives/card.img", true),
                        "Clearing card.img");
        try (Connection database =
                        DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("workspace/exordium.db"));
                Statement statement = database.createStatement()) {
            statement.executeUpdate("UPDATE operation SET process_start = 'long ago'");
        }
        assertThat(terminal.json(command.split(" ")).code()).isZero();
        assertThat(terminal.json("log").json().findValuesAsText("kind")).containsExactly("clear-interrupted");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "frobnicate | frobnicate",
                "order decode 0xf41 | --profile",
                "order decode --profile plover-9 0xf41 | plover-9",
                "order encode --profile plover-5 moon | moon",
                "inspect nowhere.img | no file nowhere.img",
                "verify nowhere.img target | no file nowhere.img",
                "write nowhere.img target | --confirm",
                "lint nowhere.txt --as settings --profile plover-4 | no file nowhere.txt",
                "rehearse | either a scenario file or --board",
                "rehearse nowhere.yaml | nowhere.yaml",
                "rehearse --board nobody | nobody",
                "choose | either a file of needs or --board or --all",
                "firmware status nobody | nobody",
                "drive new x.img --bytes many --bus sd | many",
                "drive new x.img --bytes 512 --bus moon | moon",
                "drive new x.img --bytes 4096 --bus sd --write-rate 1e-300 | no rate",
                "drive new x.img --bytes 4096 --bus sd --read-rate NaN | not a rate",
                "drive new x.img --bytes 4096 --bus sd --fault bad:0+0 | bad:0+0",
                "shelf drive A --kind wax --size 1GB | wax",
                "board new A --profile plover-4 --memory 3GB | 3GB",
            })
    void badInputIsOneSentenceAndCode2(String command, String words) {
        Terminal.Ran ran = terminal.run(command.split(" "));
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.out()).isEmpty();
        assertThat(ran.sentence()).contains(words).doesNotContain("Exception").doesNotContain("\tat ");
        assertThat(ran.sentence().lines()).hasSize(1);
    }

    @Test
    void inspectAgreesWithTheGeneralTools() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        JsonNode json = terminal.json("inspect", disk.toString(), "--digest").json();
        String table = GeneralTools.run("sfdisk", "-d", disk.toString());
        assertThat(table).contains("label-id: 0x" + json.get("diskId").asText());
        for (JsonNode partition : json.get("partitions")) {
            String line = Arrays.stream(table.split("\n"))
                    .filter(each -> each.startsWith(
                            disk.toString() + partition.get("number").asText()))
                    .findFirst()
                    .orElseThrow();
            assertThat(line.replace(" ", ""))
                    .contains("start=" + partition.get("startByte").asLong() / 512 + ",")
                    .contains("size=" + partition.get("bytes").asLong() / 512 + ",")
                    .contains("type=" + partition.get("type").asText());
        }
        assertThat(GeneralTools.run("sha256sum", disk.toString()))
                .startsWith(json.get("sha256").asText());
        assertThat(json.get("container").asText()).isEqualTo("raw");
        assertThat(json.get("table").asText()).isEqualTo("mbr");
        assertThat(json.get("system").asText()).isEqualTo("marshlinux 2026.10");
        assertThat(json.get("partitions").findValuesAsText("filesystem")).containsExactly("fat32", "ext4");
    }

    @Test
    void anEmptyWorkspaceIsFilledFromTheTerminal() throws IOException {
        Path disk = new DiskBuilder(folder).build("marsh.img");
        assertThat(terminal.run("board", "new", "Tide clock", "--profile", "plover-4", "--memory", "4 GB")
                        .code())
                .isZero();
        assertThat(terminal.json("shelf", "drive", "Tidewell 32", "--kind", "card-quick", "--size", "31.9 GB")
                        .json()
                        .get("bytes")
                        .asLong())
                .isEqualTo(31_900_000_000L / 512 * 512);
        assertThat(terminal.json("shelf", "image", disk.toString())
                        .json()
                        .get("title")
                        .asText())
                .isEqualTo("marshlinux 2026.10");
        assertThat(terminal.json("choose", "--board", "tide-clock").json().get("candidates"))
                .hasSize(1);
        assertThat(terminal.json("board", "list").json().findValuesAsText("board"))
                .containsExactly("tide-clock");
        JsonNode drives = terminal.json("drives").json();
        assertThat(drives.get(0).get("id").asText()).isEqualTo("tidewell-32.img");
        assertThat(drives.get(0).get("simulated").asBoolean()).isTrue();
        assertThat(drives.get(0).get("writable").asBoolean()).isTrue();
    }

    @ParameterizedTest
    @ValueSource(strings = {"--help", "order --help", "write --help", "rehearse --help"})
    void helpSaysWhatThereIs(String command) {
        Terminal.Ran ran = terminal.run(command.split(" "));
        assertThat(ran.code()).isZero();
        assertThat(ran.out()).contains("Usage: exordium");
    }

    /** Options of all commands may stand before the command as well. */
    @Test
    void commonOptionsMayStandBeforeTheCommand() throws IOException {
        String house = folder.resolve("before").toString();
        Terminal.Ran ran =
                terminal.run("--json", "--workspace", house, "order", "decode", "--profile", "plover-5", "0xf416");
        assertThat(ran.code()).isZero();
        assertThat(ran.json().get("value").asText()).isEqualTo("0xf416");
        assertThat(terminal.run("--workspace", house, "writes").out()).contains("No write was cut off");
        assertThat(terminal.run("--workspace", house, "copy", "list").out()).contains("nothing to show");
        assertThat(folder.resolve("before/exordium.db")).exists();
        assertThat(terminal.run("--allow-real-drives", "drives", "--json").code())
                .isZero();
    }
}
