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
