// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.Opening;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
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

    @Test
    void theRegisterIsTakenAsItIsPrinted() {
        assertThat(terminal.json("order", "decode", "--profile", "plover-3", "17:3020000a")
                        .json()
                        .get("sources")
                        .toString())
                .isEqualTo("[\"card\",\"usb\"]");
    }

    /** What was grown after the write is as expected; one byte more is not. */
    @ParameterizedTest
    @ValueSource(strings = {"dos", "gpt"})
    void aGrownTargetStillVerifies(String label) throws IOException {
        Path image = new DiskBuilder(folder).build("image.img");
        if (label.equals("gpt")) {
            DiskBuilder.blank(image, 0);
            DiskBuilder.blank(image, 32 * DiskBuilder.MIB);
            GeneralTools.feed("label: gpt\nsize=4MiB\nsize=8MiB\n", "sfdisk", "-q", image.toString());
        }
        Path card = folder.resolve("card.img");
        assertThat(terminal.run("drive", "new", card.toString(), "--bytes", "200MB", "--bus", "sd")
                        .code())
                .isZero();
        Terminal.Ran written =
                terminal.json("write", image.toString(), card.toString(), "--confirm", "card.img", "--grow");
        assertThat(written.code()).isZero();
        Terminal.Ran verified = terminal.json("verify", image.toString(), card.toString());
        assertThat(verified.json().get("verdict").asText()).isEqualTo("verified");
        assertThat(verified.json().get("text").asText()).contains("made larger since");
        DiskBuilder.flip(card, 20_000_000);
        assertThat(terminal.json("verify", image.toString(), card.toString()).code())
                .isEqualTo(ExitCode.DIFFERENT);
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

    /** In the order of the lines, each with its own; nothing a terminal would act on. */
    @Test
    void lintGoesByTheLines() throws IOException {
        Path file = Files.writeString(
                folder.resolve("config.txt"), "gpu_mem=16\n[all\nenable_uart=0X1\ngpu_mem=32\nenabel_uart=1\n");
        List<String> lines = terminal.run("lint", file.toString(), "--as", "settings", "--profile", "plover-4")
                .out()
                .lines()
                .toList();
        assertThat(lines).hasSize(3);
        assertThat(lines.get(0)).contains("Line 2:");
        assertThat(lines.get(1)).contains("Line 3:");
        assertThat(lines.get(2)).contains("Line 5:").contains("enable_uart");
        Files.write(file, new byte[] {'a', '=', 0, 27, '[', '2', 'J'});
        String out = terminal.run("lint", file.toString(), "--as", "settings", "--profile", "plover-4")
                .out();
        assertThat(out).contains("zero byte").doesNotContain("\u0000").doesNotContain("\u001b");
    }

    @Test
    void aFirstStartOnABlankTargetIsRefusedWithASentence() throws IOException {
        Path blank = folder.resolve("blank.img");
        DiskBuilder.blank(blank, 8 * DiskBuilder.MIB);
        Path intents = Files.writeString(folder.resolve("intents.yaml"), "profile: plover-5\nremoteLogin: true\n");
        Terminal.Ran ran = terminal.run("firststart", "apply", intents.toString(), blank.toString());
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.sentence()).contains("no start partition");
    }
}
