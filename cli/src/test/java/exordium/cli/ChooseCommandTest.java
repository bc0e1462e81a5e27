// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Media judged for needs read from a file. */
class ChooseCommandTest extends Commands {
    @Test
    void theCatalogueIsRankedForNeeds() throws IOException {
        Path needs = Files.writeString(
                folder.resolve("needs.yaml"),
                "profile: plover-5\nimage: 6 GB\ndailyWrites: 6.2 GB\nquickStart: true\n");
        JsonNode candidates = terminal.json("choose", needs.toString()).json().get("candidates");
        assertThat(candidates.get(0).get("id").asText()).isEqualTo("nvme-256");
        assertThat(candidates.get(0).get("rank").asInt()).isEqualTo(1);
        assertThat(candidates.get(0).get("effectiveReadRate").asDouble()).isEqualTo(500e6);
        assertThat(candidates.get(0).get("bottleneck").asText()).isEqualTo("PCIe 2.0 x1");
        // House rules count here as well, where there is a workspace.
        Path house = folder.resolve("house");
        try (Workbench bench = Opening.at(house, Clock.systemUTC(), ZoneOffset.UTC)) {
            bench.rules().pcie(3);
        }
        assertThat(new Terminal(house)
                        .json("choose", needs.toString())
                        .json()
                        .get("candidates")
                        .get(0)
                        .get("bottleneck")
                        .asText())
                .isEqualTo("PCIe 3.0 x1");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "profile: plover-4~profile: plover-5 | line 2",
                "profile: plover-4~---~profile: plover-5 | second document",
                "profile: plover-4~yeers: 5 | did you mean \"years\"",
                "profile: plover-4~years: five | years is \"five\", which is wanted as a whole number",
                "profile: plover-4~habit: sensor | did you mean sensors",
                "profile: plover-4~data: seven | data is not a size",
                "profile: plover-4~memory: 3 GB | comes with 1 GB, 2 GB, 4 GB, 8 GB",
                "profile: plover-4~image: 32 | Is 32 GB meant",
                "profile: plover-4~drawer: [{name: A, kind: stick, size: 8 GB}, {name: A, kind: stick, size: 9 GB}] | two media",
                "profile: plover-4~supply: {volts: 12, amps: 1, via: adapter} | runs on",
                "years: 5 | \"profile\" is missing",
                "'' | is empty",
                "[1, 2] | fields",
                "a: [ | no YAML"
            })
    void aBadFileOfNeedsIsSaidByLineAndField(String content, String said) throws IOException {
        Path needs = Files.writeString(folder.resolve("needs.yaml"), content.replace('~', '\n'));
        Terminal.Ran ran = terminal.run("choose", needs.toString());
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence())
                .contains(said)
                .doesNotContain("$")
                .doesNotContain("exordium.")
                .hasLineCount(1);
    }

    @Test
    void sizesAreReadAsPeopleWriteThem() throws IOException {
        Path needs = Files.writeString(folder.resolve("needs.yaml"), "profile: plover-4\nimage: 6 gb\ndata: 6,5 GB\n");
        assertThat(terminal.run("choose", needs.toString()).code()).isZero();
    }

    /** One line says what to take; what is refused has no strengths; a board's own storage is judged. */
    @Test
    void theChoiceBeginsWithWhatToTake() throws IOException {
        Path needs = Files.writeString(folder.resolve("needs.yaml"), "profile: curlew-e\nbudget: 8\n");
        Terminal.Ran ran = terminal.run("choose", needs.toString());
        assertThat(ran.out())
                .startsWith("Take ")
                .contains("(refused)")
                .contains("reads ")
                .contains("writes ");
        JsonNode candidates = terminal.json("choose", needs.toString()).json().get("candidates");
        assertThat(candidates.findValuesAsText("id")).contains("emmc");
        Path heavy = Files.writeString(
                folder.resolve("heavy.yaml"), "profile: curlew-e\nserver: true\ndailyWrites: 1200 GB\n");
        assertThat(terminal.json("choose", heavy.toString()).out()).contains("writes-too-fast");
    }
}
