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
import java.util.List;
import org.junit.jupiter.api.Test;

/** Settings looked through, and the first start planned and made. */
class FirstStartCommandTest extends Commands {
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

    /** Planned, made, looked at and taken back by the command line alone. */
    @Test
    void whatWasMadeIsTakenBackAndToldOf() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Path intents = Files.writeString(
                folder.resolve("intents.yaml"),
                "profile: plover-4\nremoteLogin: true\nhostName: tide-clock\naccount: {name: keeper, password: seven long words}\n");
        String before = terminal.json("inspect", disk.toString(), "--digest")
                .json()
                .get("sha256")
                .asText();
        JsonNode made = terminal.json("firststart", "apply", intents.toString(), disk.toString())
                .json();
        assertThat(made.get("edits").findValuesAsText("file")).contains("ssh", "userconf.txt", "/etc/hostname");
        assertThat(made.toString()).doesNotContain("seven long words");
        JsonNode reach = terminal.json("firststart", "reach", disk.toString(), "--profile", "plover-4")
                .json();
        assertThat(reach.get("reachable").asBoolean()).isTrue();
        assertThat(reach.get("connect").asText()).isEqualTo("ssh keeper@tide-clock.local");
        Path sheet = folder.resolve("reach.pdf");
        terminal.run("firststart", "reach", disk.toString(), "--profile", "plover-4", "--sheet", sheet.toString());
        assertThat(Files.readString(sheet, java.nio.charset.StandardCharsets.ISO_8859_1))
                .startsWith("%PDF-");
        JsonNode back = terminal.json("firststart", "undo", disk.toString(), "--profile", "plover-4")
                .json();
        assertThat(back.get("edits").findValuesAsText("file")).contains("ssh", "userconf.txt", "/etc/hostname");
        assertThat(terminal.json("firststart", "plan", intents.toString(), disk.toString())
                        .json()
                        .get("edits")
                        .findValuesAsText("file"))
                .contains("ssh", "userconf.txt", "/etc/hostname");
        assertThat(terminal.run("firststart", "undo", disk.toString(), "--profile", "plover-4")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(before).isNotEmpty();
        JsonNode why = terminal.json("firststart", "why", "login-refused", disk.toString(), "--profile", "plover-4")
                .json();
        assertThat(why.get("reasons").get(0).get("text").asText()).contains("Remote login is off");
        assertThat(why.get("reasons").get(0).get("mend").get("remoteLogin").asBoolean())
                .isTrue();
    }

    @Test
    void setsAreKeptAndBuiltUpon() throws IOException {
        Path disk = new DiskBuilder(folder).build("disk.img");
        Path shared = Files.writeString(
                folder.resolve("shared.yaml"),
                "profile: plover-4\nremoteLogin: true\nhostName: one\ndisplay: {borders: false}\n");
        assertThat(terminal.run("firststart", "keep", "exhibit wired", shared.toString())
                        .code())
                .isZero();
        assertThat(terminal.json("firststart", "sets").json().get("sets").get(0).asText())
                .isEqualTo("exhibit wired");
        Path own = Files.writeString(
                folder.resolve("own.yaml"), "profile: plover-4\nset: exhibit wired\nremoteLogin: false\n");
        JsonNode plan = terminal.json("firststart", "plan", own.toString(), disk.toString())
                .json();
        assertThat(plan.get("edits").findValuesAsText("file")).containsExactly("config.txt");
        Path unknown = Files.writeString(folder.resolve("own.yaml"), "profile: plover-4\nset: nothing\n");
        assertThat(terminal.run("firststart", "plan", unknown.toString(), disk.toString())
                        .sentence())
                .contains("\"nothing\"");
    }

    @Test
    void aBatchIsPlannedThenMade() throws IOException {
        new DiskBuilder(folder).build("image.img");
        for (String name : List.of("a.img", "b.img")) {
            DiskBuilder.blank(folder.resolve(name), 64 * DiskBuilder.MIB);
        }
        Path batch = Files.writeString(
                folder.resolve("batch.yaml"),
                "profile: plover-4\nimage: image.img\nintents: {remoteLogin: true}\ncards:\n"
                        + "  - {target: a.img, confirm: a.img, hostName: one}\n  - {target: b.img, confirm: b.img, hostName: two}\n");
        assertThat(terminal.json("firststart", "batch", "--plan", batch.toString())
                        .json()
                        .get("cards")
                        .findValuesAsText("verdict"))
                .containsExactly("planned", "planned");
        JsonNode cards =
                terminal.json("firststart", "batch", batch.toString()).json().get("cards");
        assertThat(cards.findValuesAsText("verdict")).containsExactly("ready", "ready");
        assertThat(java.util.Set.copyOf(cards.findValuesAsText("diskId")))
                .hasSize(2)
                .doesNotContain("5eed0001");
        Path wrong = Files.writeString(
                folder.resolve("batch.yaml"), Files.readString(batch).replace("confirm: b.img", "confirm: a.img"));
        assertThat(terminal.run("firststart", "batch", wrong.toString()).code()).isEqualTo(ExitCode.REFUSED);
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
