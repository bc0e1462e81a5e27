// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Network start and multi-boot by command, on a workspace of one's own. */
class NetworkCommandsTest {
    @TempDir
    static Path folder;

    private static Terminal terminal;
    private static Path plan;

    @BeforeAll
    static void aWorkspaceWithABoardAndAnImage() throws IOException {
        terminal = new Terminal(folder.resolve("space"));
        new DiskBuilder(folder).build("marsh.img");
        assertThat(terminal.run(
                                "board",
                                "new",
                                "lobby",
                                "--profile",
                                "plover-5",
                                "--memory",
                                "4 GB",
                                "--reach",
                                "simulated",
                                "--serial",
                                "00000000abcd0001",
                                "--mac",
                                "02:00:5e:10:00:07",
                                "--order",
                                "0xf41")
                        .code())
                .isZero();
        plan = folder.resolve("plan.yaml");
        Files.writeString(
                plan,
                "server: {name: server, address: 192.168.40.2, folder: /srv/boards, room: 100 GB}\nclients:\n"
                        + "  - {id: screen, profile: plover-4, serial: \"0000c4a8\", mac: \"02:00:5e:10:00:01\", image: "
                        + folder.resolve("marsh.img") + "}\n");
    }

    @Test
    void aNetworkIsPlannedMadeTriedAndChanged() throws IOException {
        JsonNode planned = terminal.json("network", "plan", plan.toString()).json();
        JsonNode screen = planned.get("boards").get(0);
        assertThat(screen.get("folder").asText()).isEqualTo("c4a8");
        assertThat(screen.get("address").asText()).isEqualTo("192.168.40.11");
        assertThat(screen.get("secondsTogether").asDouble()).isPositive();
        assertThat(planned.get("neededBytes").asLong()).isGreaterThan(2_000_000_000L);
        assertThat(terminal.run("network", "try").code()).isEqualTo(ExitCode.BAD_INPUT);
        JsonNode shown =
                terminal.json("network", "kit", plan.toString(), "--dry-run").json();
        assertThat(shown.get("files").findValuesAsText("path"))
                .contains(
                        "dnsmasq.conf", "exports.d/screen.exports", "tftp/c4a8/cmdline.txt", "roots/screen/etc/fstab");
        assertThat(Files.exists(folder.resolve("space/network"))).isFalse();
        assertThat(terminal.json("network", "kit", plan.toString())
                        .json()
                        .get("written")
                        .get(0)
                        .asText())
                .isEqualTo("screen");

        String image = folder.resolve("marsh.img").toString();
        JsonNode added = terminal.json("network", "add", "lobby", "--image", image, "--root", "memory")
                .json();
        assertThat(added.get("written").get(0).asText()).isEqualTo("lobby");
        assertThat(terminal.run("network", "add", "moon", "--image", image).code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("network", "add", "x", "--image", image, "--profile", "plover-4", "--mac", "rubbish")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        JsonNode tried = terminal.json("network", "try", "--played").json();
        assertThat(tried.get("boards"))
                .hasSize(2)
                .allMatch(each ->
                        each.get("starts").asBoolean() && each.get("agrees").asBoolean());
        // A board of the register is rehearsed with the kit's network.
        assertThat(terminal.run("order", "stage", "lobby", "0xf2").code()).isZero();
        assertThat(terminal.run("board", "restart", "lobby").code()).isZero();
        JsonNode rehearsed = terminal.json("rehearse", "--board", "lobby").json();
        assertThat(rehearsed.get("outcome").asText()).isEqualTo("running");
        assertThat(rehearsed.get("rootFrom").asText()).isEqualTo("network");

        double usual = together(plan);
        assertThat(terminal.run("network", "fault", "slow-server").code()).isZero();
        assertThat(together(plan)).isGreaterThan(usual * 1.02);
        terminal.run("network", "fault", "none");
        assertThat(together(plan)).isEqualTo(usual);
        assertThat(terminal.run("network", "fault", "no-export").code()).isZero();
        Terminal.Ran refused = terminal.run("network", "try", "--played", "lobby");
        assertThat(refused.code()).isEqualTo(ExitCode.DIFFERENT);
        assertThat(refused.out()).contains("does not let it mount", "refused mount request");
        terminal.run("network", "fault", "none");
        Path log = folder.resolve("server.log");
        Files.writeString(log, "dnsmasq-dhcp: DHCPDISCOVER(eth0) 02:00:5e:10:00:01 no address available\n");
        JsonNode read = terminal.json("network", "read-log", log.toString()).json();
        assertThat(read.get(1).get("cause").asText()).isEqualTo("network-no-lease");
        assertThat(read.get(0).get("reached").asText()).isEqualTo("nothing");
        assertThat(terminal.run("network", "read-log", folder.resolve("none").toString())
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.json("network", "remove", "lobby")
                        .json()
                        .get("removed")
                        .get(0)
                        .asText())
                .isEqualTo("lobby");
        assertThat(terminal.run("network", "remove", "lobby").code()).isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void setsAreMadeProvenUsedAndFallenBackFrom() throws IOException {
        assertThat(terminal.run(
                                "board",
                                "new",
                                "booth",
                                "--profile",
                                "plover-5",
                                "--memory",
                                "4 GB",
                                "--reach",
                                "simulated")
                        .code())
                .isZero();
        Path card = folder.resolve("space/drives/card.img");
        Files.createDirectories(card.getParent());
        assertThat(terminal.run("drive", "new", card.toString(), "--bytes", "80000000", "--bus", "sd")
                        .code())
                .isZero();
        assertThat(terminal.run(
                                "write",
                                folder.resolve("marsh.img").toString(),
                                card.toString(),
                                "--confirm",
                                "card.img")
                        .code())
                .isZero();
        assertThat(terminal.run("sets", "new", "booth", "Bad Name").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("sets", "new", "booth", "x", "--order", "0xf4q").code())
                .isNotZero();
        JsonNode made = terminal.json("sets", "new", "booth", "lan", "--order", "network,restart")
                .json();
        assertThat(made.get("order").asText()).isEqualTo("0xf2");
        terminal.json("sets", "new", "booth", "everyday", "--order", "card,restart", "--title", "Every day");
        JsonNode listed = terminal.json("sets", "list", "booth").json();
        assertThat(listed.get("sets").findValuesAsText("name")).containsExactly("lan", "everyday");
        assertThat(terminal.run("sets", "use", "booth", "moon").code()).isEqualTo(ExitCode.BAD_INPUT);
        JsonNode used = terminal.json("sets", "use", "booth", "lan", "--once").json();
        assertThat(used.get("staged").asText()).contains("BOOT_ORDER=0xf2");
        assertThat(terminal.json("sets", "list", "booth")
                        .json()
                        .get("triedOnce")
                        .asText())
                .isEqualTo("lan");
        terminal.run("board", "restart", "booth");
        assertThat(terminal.run("board", "show", "booth").out()).contains("0xf2", "restarted into");
        terminal.run("board", "restart", "booth");
        assertThat(terminal.run("board", "show", "booth").out()).doesNotContain("0xf2");
        assertThat(terminal.run("sets", "use", "booth", "--back").code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.json("sets", "remove", "booth", "lan").json().get("sets"))
                .hasSize(1);
    }

    @Test
    void severalSystemsGoOntoOneDrive() throws IOException {
        new DiskBuilder(folder)
                .id("5eed0009")
                .start("kernel-32.img", "kernel")
                .start("curlew-e-b.dtb", "tree")
                .start(
                        "extlinux/extlinux.conf",
                        "label a\n  kernel /kernel-32.img\n  fdt /curlew-e-b.dtb\n  append root=PARTUUID=5eed0009-02\n")
                .root("sbin/init", "\u007fELF\u0001")
                .build("fenix.img");
        Path layout = folder.resolve("layout.yaml");
        String image = folder.resolve("fenix.img").toString();
        Files.writeString(
                layout,
                "profile: curlew-e\ndrive: 200 MB\nstart: 40 MiB\nsystems:\n  - {name: one, image: " + image
                        + ", size: 24 MiB}\n  - {name: two, image: " + image + ", size: 24 MiB}\n");
        assertThat(terminal.json("layout", "plan", layout.toString()).json().get("partitions"))
                .hasSize(3);
        Path target = folder.resolve("several.img");
        terminal.run("drive", "new", target.toString(), "--bytes", "200000000", "--bus", "sd");
        assertThat(terminal.run("layout", "apply", layout.toString(), target.toString(), "--confirm", "other")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
        JsonNode made = terminal.json(
                        "layout", "apply", layout.toString(), target.toString(), "--confirm", "several.img")
                .json();
        assertThat(made.get("verdict").asText()).isEqualTo("verified");
        assertThat(made.get("starts").findValuesAsText("outcome")).isEqualTo(List.of("running", "running"));
        assertThat(terminal.json("inspect", target.toString()).json().get("partitions"))
                .hasSize(3);
        Files.writeString(layout, Files.readString(layout).replace("200 MB", "90 MB"));
        assertThat(terminal.run("layout", "plan", layout.toString()).code()).isEqualTo(ExitCode.REFUSED);
    }

    @Test
    void systemsByEntriesComeWithAStoreOfThem() throws IOException {
        new DiskBuilder(folder)
                .id("5eed0008")
                .start("EFI/BOOT/BOOTAA64.EFI", "loader")
                .start("kernel-64.img", "kernel")
                .start(
                        "loader/entries/dunlin.conf",
                        "linux /kernel-64.img\noptions root=PARTUUID=5eed0008-02 rootwait\n")
                .build("dunlin.img");
        Path layout = folder.resolve("entries.yaml");
        String image = folder.resolve("dunlin.img").toString();
        String text = "profile: dunlin-u\ndrive: 240 MB\nstart: 40 MiB\nchoose: entries\nstandard: two\nsystems:\n"
                + "  - {name: one, image: " + image + ", size: 24 MiB}\n  - {name: two, image: " + image
                + ", size: 24 MiB, title: The second}\n";
        Files.writeString(layout, text);
        Path target = folder.resolve("entries.img");
        terminal.run("drive", "new", target.toString(), "--bytes", "240000000", "--bus", "usb");
        String[] apply = {"layout", "apply", layout.toString(), target.toString(), "--confirm", "entries.img", "--store"
        };
        for (Path wrong : List.of(layout, folder.resolve("nowhere/store.fd"))) {
            assertThat(terminal.json(with(apply, wrong)).code()).isEqualTo(ExitCode.BAD_INPUT);
        }
        Path store = folder.resolve("store.fd");
        JsonNode made = terminal.json(with(apply, store)).json();
        assertThat(made.get("verdict").asText()).isEqualTo("verified");
        assertThat(made.get("starts").findValuesAsText("outcome")).isEqualTo(List.of("running", "running"));
        assertThat(made.get("partitions")).hasSize(4);
        assertThat(made.get("entries").findValuesAsText("title")).isEqualTo(List.of("The second", "one"));
        assertThat(made.get("entries").get(0).get("variable").asText()).isEqualTo("Boot0011");
        Terminal.Ran read = terminal.run("order", "store", store.toString());
        assertThat(read.code()).as(read.err()).isZero();
        assertThat(read.out()).contains("The second");
        assertThat(Files.size(store)).isPositive();
        Files.writeString(layout, text.replace("choose: entries\n", ""));
        assertThat(terminal.run(with(apply, folder.resolve("other.fd"))).code()).isEqualTo(ExitCode.BAD_INPUT);
    }

    private static String[] with(String[] words, Path last) {
        String[] all = Arrays.copyOf(words, words.length + 1);
        all[words.length] = last.toString();
        return all;
    }

    private double together(Path plan) {
        return terminal.json("network", "plan", plan.toString())
                .json()
                .get("secondsTogether")
                .asDouble();
    }
}
