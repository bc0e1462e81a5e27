// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Scenarios read from files and rehearsed. */
class RehearseCommandTest extends Commands {
    @Test
    void aScenarioIsRehearsedFromRealBytes() throws IOException {
        new DiskBuilder(folder).build("disk.img");
        Path scenario = Files.writeString(
                folder.resolve("scenario.yaml"),
                """
                board: {profile: plover-5, serial: "00000000d90b6b9c"}
                firmware: {version: 2026-09-02, config: "BOOT_ORDER=0xf416\\nPCIE_PROBE=1"}
                supply: {volts: 5, amps: 5, via: adapter}
                attached:
                  - {port: nvme, medium: nvme, carrier: silent, image: disk.img}
                """);
        JsonNode trace = terminal.json("rehearse", scenario.toString()).json();
        assertThat(trace.get("outcome").asText()).isEqualTo("running");
        assertThat(trace.get("startedFrom").asText()).isEqualTo("nvme");
        assertThat(trace.get("cause").asText()).isEqualTo("none");
        JsonNode pulled = terminal.json("rehearse", scenario.toString(), "--without", "nvme")
                .json();
        assertThat(pulled.get("outcome").asText()).isEqualTo("looping");
        assertThat(pulled.get("cause").asText()).isEqualTo("no-source-left");
        assertThat(pulled.get("startedFrom").isNull()).isTrue();
        JsonNode faults = terminal.json("rehearse", scenario.toString(), "--faults")
                .json()
                .get("faults");
        assertThat(faults).hasSize(5 + 4);
        assertThat(faults.get(0).get("fault").asText()).isEqualTo("out");
        assertThat(faults.get(0).get("port").asText()).isEqualTo("nvme");
        assertThat(faults.get(0).get("verdict").asText()).isEqualTo("fails");
        assertThat(faults.get(0).get("cause").asText()).isEqualTo("no-source-left");
        assertThat(terminal.json("rehearse", scenario.toString()).json().has("faults"))
                .isFalse();
    }

    @Test
    void aScenarioThatBreaksItsSchemaIsNamed() throws IOException {
        Path scenario = Files.writeString(folder.resolve("scenario.yaml"), "board: {profile: plover-5}\nattached: 7\n");
        Terminal.Ran ran = terminal.run("rehearse", scenario.toString());
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).isEqualTo("scenario.yaml, line 2: attached is \"7\", which is wanted as a list.");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "attached: [{port: usb1, medium: stick, image: d.img}, {port: usb1, medium: stick, image: d.img}] | takes one",
                "attached: [{port: network, medium: stick, image: d.img}] | Nothing is plugged into",
                "attached: [{port: nvme, medium: nvme, carrier: nosuch, image: d.img}] | There is no carrier",
                "attached: []~supply: {volts: 12, amps: 3, via: adapter} | runs on 5 V",
                "attached: [{port: card, medium: card, image: .}] | is a folder"
            })
    void aScenarioThatCannotBeIsRefused(String more, String said) throws IOException {
        Files.copy(new DiskBuilder(folder).build("made.img"), folder.resolve("d.img"));
        Path scenario = Files.writeString(
                folder.resolve("scenario.yaml"),
                "board: {profile: plover-5}\nfirmware: {version: 2026-09-02, config: ''}\n" + more.replace('~', '\n')
                        + "\n");
        Terminal.Ran ran = terminal.run("rehearse", scenario.toString());
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).contains(said);
    }

    @Test
    void aDateThatIsNoneAFolderAndAnUnknownPortAreSaid() throws IOException {
        Path scenario = Files.writeString(
                folder.resolve("scenario.yaml"),
                "board: {profile: plover-5}\nfirmware: {version: 2026-02-30, config: ''}\nattached: []\n");
        assertThat(terminal.run("rehearse", scenario.toString()).sentence()).contains("line 2", "is no date");
        assertThat(terminal.run("rehearse", folder.toString()).code()).isEqualTo(ExitCode.BAD_INPUT);
        Files.writeString(scenario, Files.readString(scenario).replace("02-30", "02-20"));
        Terminal.Ran ran = terminal.run("rehearse", scenario.toString(), "--without", "nosuch");
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).contains("nosuch");
    }
}
