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
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Images and drives from the terminal; what comes out is looked at by general tools. */
class ImageCommandsTest {
    @TempDir
    Path folder;

    private Terminal terminal;
    private Path disk;

    @BeforeEach
    void disk() throws IOException {
        terminal = new Terminal(folder.resolve("house"));
        disk = new DiskBuilder(folder)
                .root("lib/modules/6.12.1-v8/x", "")
                .root("etc/passwd", "keeper:x:1000:1000::/home/keeper:/bin/sh\n")
                .root("etc/shadow", "keeper:$6$salt$hash:20000:0:99999:7:::\n")
                .build("marsh.img");
    }

    private Path drive(String name, String... faults) {
        Path file = folder.resolve(name);
        String[] words = {"drive", "new", file.toString(), "--bytes", "200000512", "--bus", "sd"};
        String[] all = java.util.Arrays.copyOf(words, words.length + 2 * faults.length);
        for (int i = 0; i < faults.length; i++) {
            all[words.length + 2 * i] = "--fault";
            all[words.length + 2 * i + 1] = faults[i];
        }
        assertThat(terminal.run(all).code()).isZero();
        return file;
    }

    private boolean same(Path target) throws IOException {
        return GeneralTools.exitOf("cmp", "-n", String.valueOf(Files.size(disk)), disk.toString(), target.toString())
                == 0;
    }

    @Test
    void severalCardsAreWrittenFromOneReading() throws IOException {
        Path one = drive("one.img");
        Path two = drive("two.img");
        JsonNode reports = terminal.json(
                        "write",
                        disk.toString(),
                        one.toString(),
                        "--also",
                        two.toString(),
                        "--confirm",
                        "one.img",
                        "--confirm",
                        "two.img")
                .json()
                .get("reports");
        assertThat(reports.findValuesAsText("verdict")).containsExactly("verified", "verified");
        assertThat(same(one) && same(two)).isTrue();
        assertThat(terminal.run(
                                "write",
                                disk.toString(),
                                one.toString(),
                                "--also",
                                two.toString(),
                                "--confirm",
                                "one.img")
                        .sentence())
                .contains("2 targets and 1 names");
        List<String> nine = new ArrayList<>(List.of("write", disk.toString(), one.toString(), "--confirm", "one.img"));
        for (int i = 0; i < 8; i++) {
            nine.addAll(List.of("--also", folder.resolve("more" + i).toString(), "--confirm", "more" + i));
        }
        assertThat(terminal.run(nine.toArray(String[]::new)).sentence()).contains("At most 8 targets");
        assertThat(folder.resolve("more0")).doesNotExist();
    }

    /** What file systems and tables hold arrives; between them the target keeps what it had. */
    @Test
    void onlyWhatIsUsedIsWrittenAndTheSystemIsWhole() throws IOException {
        Path card = drive("card.img");
        JsonNode report = terminal.json(
                        "write", disk.toString(), card.toString(), "--confirm", "card.img", "--mode", "used")
                .json();
        assertThat(report.get("verdict").asText()).isEqualTo("verified");
        assertThat(report.get("writtenBytes").asLong()).isLessThan(Files.size(disk) / 2);
        assertThat(report.get("text").asText()).contains("hold nothing");
        GeneralTools.run(
                "sh",
                "-ec",
                "cd " + folder + "; dd if=card.img of=r bs=1M skip=44 count=16; e2fsck -f -n r;"
                        + " dd if=card.img of=f bs=1M skip=4 count=40; fsck.fat -n f");
        JsonNode compared =
                terminal.json("compare", disk.toString(), card.toString()).json();
        assertThat(compared.get("files")).isEmpty();
    }

    @Test
    void aWrittenCardIsGrownToTheHousesFreeTail() {
        Path card = drive("card.img");
        JsonNode report = terminal.json("write", disk.toString(), card.toString(), "--confirm", "card.img", "--grow")
                .json();
        assertThat(report.get("text").asText()).contains("Partition 2 grows");
        JsonNode root = terminal.json("inspect", card.toString())
                .json()
                .get("partitions")
                .get(1);
        // 1 % of 200 000 512 B stay free, and the end stands at a whole MiB.
        assertThat(root.get("startByte").asLong() + root.get("bytes").asLong()).isEqualTo(188L << 20);
        assertThat(GeneralTools.exitOf("sfdisk", "-V", card.toString())).isZero();
    }

    @Test
    void aDriveIsProvenClearedAndGrownByItsName() {
        Path card = drive("card.img", "wrap:50003968");
        Terminal.Ran proof = terminal.json("drive", "prove", card.toString(), "--confirm", "card.img");
        assertThat(proof.code()).isEqualTo(ExitCode.DIFFERENT);
        assertThat(proof.json().get("realBytes").asLong()).isEqualTo(50_003_968);
        Path sound = drive("sound.img");
        assertThat(terminal.json("drive", "prove", sound.toString(), "--confirm", "sound.img", "--how", "whole")
                        .json()
                        .get("sound")
                        .asBoolean())
                .isTrue();
        assertThat(terminal.run("drive", "clear", sound.toString(), "--confirm", "other")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
        assertThat(terminal.json("drive", "clear", sound.toString(), "--confirm", "sound.img")
                        .json()
                        .get("text")
                        .asText())
                .contains("is cleared");
        assertThat(terminal.run("drive", "grow", sound.toString(), "--confirm", "sound.img")
                        .sentence())
                .contains("no partition");
        assertThat(terminal.run("drive", "eject", sound.toString()).sentence()).contains("no drive of this machine");
        assertThat(terminal.run("drive", "prove", folder.resolve("none").toString(), "--confirm", "none")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void whatAnImageBringsAlongIsTold() {
        JsonNode start = terminal.json("inspect", disk.toString()).json().get("start");
        assertThat(start.get("boards")).extracting(JsonNode::asText).contains("plover-4", "plover-5");
        assertThat(start.get("kernel").asText()).isEqualTo("6.12.1-v8");
        assertThat(start.get("width").asInt()).isEqualTo(64);
        assertThat(start.get("root").asText()).isEqualTo("PARTUUID=5eed0001-02");
        assertThat(start.get("remoteLogin").asBoolean()).isFalse();
        assertThat(start.get("account").asBoolean()).isTrue();
        String sum = GeneralTools.run("md5sum", disk.toString()).split(" ")[0];
        assertThat(terminal.json("inspect", disk.toString(), "--sum", sum)
                        .json()
                        .get("publishedChecksum")
                        .asText())
                .isEqualTo("agrees");
        assertThat(terminal.run("inspect", disk.toString(), "--sum", "12").sentence())
                .contains("is no checksum");
    }

    @Test
    void filesAreListedAndCopiedOutOfAContainer() throws IOException {
        GeneralTools.run("xz", "-0", "--block-size=4MiB", "-k", disk.toString());
        String packed = disk + ".xz";
        assertThat(terminal.json("files", packed, "/etc", "--partition", "2")
                        .json()
                        .findValuesAsText("name"))
                .contains("os-release", "fstab");
        Path out = folder.resolve("out.txt");
        assertThat(terminal.run("files", packed, "/etc/os-release", "--partition", "2", "--to", out.toString())
                        .code())
                .isZero();
        assertThat(Files.readString(out)).contains("marshlinux");
        assertThat(terminal.run("files", packed, "/etc/os-release", "--partition", "2", "--to", out.toString())
                        .sentence())
                .contains("is not replaced");
        assertThat(terminal.run("files", packed, "/etc/none", "--partition", "2", "--to", out + "2")
                        .sentence())
                .contains("There is no file /etc/none");
        assertThat(terminal.run("files", packed, "--partition", "7").sentence())
                .contains("no partition 7; there are 1, 2");
        assertThat(terminal.run("files", packed, "/etc/fstab", "--partition", "2")
                        .sentence())
                .contains("--to FILE");
    }

    @Test
    void twoImagesAreHeldAgainstEachOther() throws IOException {
        Path other = new DiskBuilder(folder).root("etc/motd", "high tide\n").build("other.img");
        Terminal.Ran ran = terminal.json("compare", disk.toString(), other.toString());
        assertThat(ran.code()).isEqualTo(ExitCode.DIFFERENT);
        assertThat(ran.json().get("files").findValuesAsText("path")).contains("/etc/motd", "/etc/shadow");
        assertThat(terminal.run("compare", disk.toString(), disk.toString()).code())
                .isZero();
    }
}
