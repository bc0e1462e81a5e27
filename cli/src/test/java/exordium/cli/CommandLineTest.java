// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import picocli.CommandLine;

/** Commands that need no demo, each with its JSON and its exit code. */
class CommandLineTest {
    @TempDir
    Path folder;

    private Terminal terminal;

    @BeforeEach
    void terminal() {
        terminal = new Terminal(folder.resolve("workspace"));
    }

    private static List<String> texts(JsonNode array) {
        List<String> texts = new java.util.ArrayList<>();
        array.forEach(each -> texts.add(each.asText()));
        return texts;
    }

    @Test
    void everyCommandIsCalledByTheNameItSaysItHas() {
        Main.COMMANDS.forEach((name, command) -> assertThat(
                        command.getAnnotation(CommandLine.Command.class).name())
                .isEqualTo(name));
    }

    @Test
    void aHexOrderIsDecodedAndEncodedBack() {
        Terminal.Ran decoded = terminal.json("order", "decode", "--profile", "plover-5", "0xf416");
        assertThat(decoded.code()).isZero();
        assertThat(texts(decoded.json().get("sources"))).containsExactly("nvme", "card", "usb", "restart");
        Terminal.Ran encoded = terminal.json("order", "encode", "--profile", "plover-5", "nvme,card,usb,restart");
        assertThat(encoded.json().get("value").asText()).isEqualTo("0xf416");
    }

    @ParameterizedTest
    @CsvSource({
        "0xF41, order-upper-case",
        "f41, order-no-prefix",
        "0xf4g, order-not-hex",
        "'', order-empty",
        "0x123456789, order-too-long",
    })
    void aBrokenOrderGetsOneClearFinding(String value, String code) {
        Terminal.Ran ran = terminal.json("order", "decode", "--profile", "plover-5", value);
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.json().get("findings")).hasSize(1);
        assertThat(ran.json().get("findings").get(0).get("code").asText()).isEqualTo(code);
        assertThat(ran.json().get("findings").get(0).get("text").asText()).endsWith(".");
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
    void aVirtualDriveIsMadeWrittenVerifiedAndCompared() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        String drive = folder.resolve("card.img").toString();
        assertThat(terminal.run("drive", "new", drive, "--bytes", "100000000", "--bus", "sd")
                        .code())
                .isZero();
        Terminal.Ran written = terminal.json("write", disk.toString(), drive, "--confirm", "card.img", "--digest");
        assertThat(written.code()).isZero();
        JsonNode json = written.json();
        assertThat(json.get("verdict").asText()).isEqualTo("verified");
        assertThat(json.get("plannedBytes").asLong()).isEqualTo(Files.size(disk));
        assertThat(json.get("verification").get("differences")).isEmpty();
        assertThat(GeneralTools.run("sha256sum", disk.toString()))
                .startsWith(json.get("imageSha256").asText());
        DiskBuilder.flip(Path.of(drive), 5_000_000);
        Terminal.Ran verified = terminal.json("verify", disk.toString(), drive);
        assertThat(verified.code()).isEqualTo(ExitCode.DIFFERENT);
        assertThat(verified.json()
                        .get("verification")
                        .get("differences")
                        .get(0)
                        .get("offset")
                        .asLong())
                .isEqualTo(5_000_000);
        Terminal.Ran mended =
                terminal.json("write", disk.toString(), drive, "--confirm", "card.img", "--mode", "changed");
        assertThat(mended.json().get("verdict").asText()).isEqualTo("verified");
        assertThat(mended.json().get("skippedBytes").asLong())
                .isGreaterThan(mended.json().get("writtenBytes").asLong());
        assertThat(terminal.json("verify", disk.toString(), drive).code()).isZero();
    }

    @Test
    void theWrongNameRefusesAndTouchesNothing() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Path target = Files.writeString(folder.resolve("precious.img"), "precious");
        Terminal.Ran ran = terminal.run("write", disk.toString(), target.toString(), "--confirm", "other.img");
        assertThat(ran.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(ran.err()).contains("precious.img");
        assertThat(Files.readString(target)).isEqualTo("precious");
    }

    @Test
    void aTooSmallTargetIsRefusedWithTheNumbers() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        String drive = folder.resolve("card.img").toString();
        terminal.run("drive", "new", drive, "--bytes", "50000000", "--bus", "sd");
        Terminal.Ran ran = terminal.run("write", disk.toString(), drive, "--confirm", "card.img");
        assertThat(ran.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(ran.sentence()).contains("50 000 000 B").contains("too few");
    }

    @Test
    void anImageIsNotWrittenOverItself() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Terminal.Ran ran = terminal.run("write", disk.toString(), disk.toString(), "--confirm", "disk.img");
        assertThat(ran.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(ran.sentence()).contains("same file");
    }

    @ParameterizedTest
    @ValueSource(strings = {"flip:5000000", "wrap:8388608", "bad:6000000+4096", "unplug:20000000"})
    void aFaultyDriveNeverEndsVerified(String fault) throws IOException {
        Path disk =
                new DiskBuilder(folder).start("big.bin", "x".repeat(2_000_000)).build("disk.img");
        String drive = folder.resolve("card.img").toString();
        terminal.run("drive", "new", drive, "--bytes", "100000000", "--bus", "sd", "--fault", fault);
        Terminal.Ran ran = terminal.json("write", disk.toString(), drive, "--confirm", "card.img");
        assertThat(ran.json().get("verdict").asText()).isIn("different", "failed");
        assertThat(ran.code()).isIn(ExitCode.DIFFERENT, ExitCode.FAILED);
    }

    @Test
    void aTruncatedContainerIsFoundBeforeAnythingIsWritten() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        GeneralTools.run("xz", "-0", disk.toString());
        Path cut = folder.resolve("disk.img.xz");
        GeneralTools.run("truncate", "-s", "-100", cut.toString());
        String drive = folder.resolve("card.img").toString();
        terminal.run("drive", "new", drive, "--bytes", "100000000", "--bus", "sd");
        Terminal.Ran ran = terminal.run("write", cut.toString(), drive, "--confirm", "card.img");
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).contains("disk.img.xz is not a whole xz file");
        assertThat(GeneralTools.exitOf("cmp", "-n", "100000000", drive, "/dev/zero"))
                .isZero();
    }

    @Test
    void settingsAndKernelLinesAreLookedThrough() throws IOException {
        Path settings = Files.writeString(folder.resolve("config.txt"), "arm_64bit=1\r\n[all\r\n");
        JsonNode findings = terminal.json("lint", settings.toString(), "--as", "settings", "--profile", "plover-4")
                .json()
                .get("findings");
        assertThat(findings.findValuesAsText("code")).contains("crlf", "section-open");
        Path line = Files.writeString(folder.resolve("cmdline.txt"), "console=tty1\nroot=/dev/mmcblk0p2\n");
        assertThat(terminal.json("lint", line.toString(), "--as", "kernel-line", "--profile", "plover-4")
                        .json()
                        .get("findings")
                        .findValuesAsText("code"))
                .contains("kernel-line-break");
        assertThat(terminal.run("lint", line.toString(), "--as", "poem", "--profile", "plover-4")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void firstStartEditsArePlannedThenMade() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Path intents = Files.writeString(
                folder.resolve("intents.yaml"),
                "profile: plover-4\nremoteLogin: true\nfixedAddress: 169.254.20.7\nrootByIdentifier: true\n");
        String before = terminal.json("inspect", disk.toString(), "--digest")
                .json()
                .get("sha256")
                .asText();
        JsonNode plan = terminal.json("firststart", "plan", intents.toString(), disk.toString())
                .json();
        assertThat(plan.get("edits").findValuesAsText("file")).containsExactly("ssh", "cmdline.txt");
        assertThat(terminal.json("inspect", disk.toString(), "--digest")
                        .json()
                        .get("sha256")
                        .asText())
                .isEqualTo(before);
        assertThat(terminal.run("firststart", "apply", intents.toString(), disk.toString())
                        .code())
                .isZero();
        Path fat = folder.resolve("fat.img");
        GeneralTools.run("dd", "if=" + disk, "of=" + fat, "bs=1M", "skip=4", "count=40", "status=none");
        assertThat(GeneralTools.run("mtype", "-i", fat.toString(), "::cmdline.txt"))
                .contains("ip=169.254.20.7:::255.255.0.0::eth0:off root=");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", fat.toString())).isZero();
    }

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
    }

    @Test
    void aScenarioThatBreaksItsSchemaIsNamed() throws IOException {
        Path scenario = Files.writeString(folder.resolve("scenario.yaml"), "board: {profile: plover-5}\nattached: 7\n");
        Terminal.Ran ran = terminal.run("rehearse", scenario.toString());
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).isEqualTo("scenario.yaml, line 2: attached is \"7\", which is wanted as a list.");
    }

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
        Workspace.open(house, Clock.systemUTC()).settings().pcie(3);
        assertThat(new Terminal(house)
                        .json("choose", needs.toString())
                        .json()
                        .get("candidates")
                        .get(0)
                        .get("bottleneck")
                        .asText())
                .isEqualTo("PCIe 3.0 x1");
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
}
