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
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Firmware, orders and starts of boards of one's own, in a workspace that is no demo. */
class FirmwareCommandTest extends Commands {
    private static List<String> codes(JsonNode findings) {
        List<String> codes = new ArrayList<>();
        findings.forEach(each -> codes.add(each.get("code").asText()));
        return codes;
    }

    private String board(String profile, String memory, String... words) {
        List<String> line = new ArrayList<>(List.of("board", "new", "Lamp", "--profile", profile, "--memory", memory));
        line.addAll(List.of(words));
        Terminal.Ran made = terminal.json(line.toArray(String[]::new));
        assertThat(made.code()).as(made.err()).isZero();
        return made.json().get("board").asText();
    }

    @Test
    void firmwareIsJudgedStagedCutAndRecovered() throws IOException {
        String board = board("plover-4", "2 GB", "--reach", "simulated", "--firmware", "2025-01-15");
        JsonNode status = terminal.json("firmware", "status", board).json();
        assertThat(status.get("verdict").asText()).isEqualTo("update");
        assertThat(status.get("updateTo").asText()).isEqualTo("2026-09-02");
        assertThat(status.get("gates").get(0).get("gate").asText()).isEqualTo("copy");
        assertThat(status.get("gates").get(0).get("state").asText()).isEqualTo("open");
        assertThat(terminal.json("firmware", "apply", board).code()).isZero();
        JsonNode cut =
                terminal.json("board", "restart", board, "--cut-after", "20000").json();
        assertThat(cut.get("firmware").isNull()).isTrue();
        assertThat(cut.get("cause").asText()).isEqualTo("firmware-missing");
        assertThat(terminal.json("firmware", "apply", board).code()).isEqualTo(ExitCode.REFUSED);
        assertThat(terminal.json("rehearse", "--board", board)
                        .json()
                        .get("cause")
                        .asText())
                .isEqualTo("firmware-missing");

        Path card = folder.resolve("card.img");
        DiskBuilder.blank(card, 80 * DiskBuilder.MIB);
        assertThat(terminal.json("firmware", "recovery-card", board, card.toString())
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.json("firmware", "recovery-card", board, card.toString(), "--confirm", "other")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
        Terminal.Ran made = terminal.json(
                "firmware", "recovery-card", board, card.toString(), "--confirm", "card.img", "--order", "0xf14");
        assertThat(made.code()).as(made.err()).isZero();
        assertThat(made.json().get("verdict").asText()).isEqualTo("verified");
        assertThat(made.json().get("steps").size()).isGreaterThan(4);
        assertThat(terminal.json("firmware", "recovery-card", board, "--order", "0xF14")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
    }

    /** A board that starts from a stick, with nothing but its firmware in the slot. */
    @Test
    void aCardThatCarriesTheFirmwareIsPlannedRehearsedAndMade() throws IOException {
        String board = board("dunlin-u", "4 GB", "--reach", "simulated");
        Path tree = Files.createDirectories(folder.resolve("tree/uefi-7"));
        Files.writeString(tree.resolve("DUNLIN.fd"), "firmware");
        Files.writeString(tree.resolve("Readme.md"), "words");
        Path archive = folder.resolve("uefi.zip");
        GeneralTools.run("sh", "-c", "cd " + tree.getParent() + " && zip -qr " + archive + " uefi-7");
        JsonNode alone =
                terminal.json("firmware", "card", board, archive.toString()).json();
        assertThat(alone.get("outcome").asText()).isEqualTo("halted");

        Path system = new DiskBuilder(folder)
                .id("5eed0099")
                .start("EFI/BOOT/BOOTAA64.EFI", "loader")
                .start("kernel-64.img", "kernel")
                .start(
                        "loader/entries/dunlin.conf",
                        "linux /kernel-64.img\noptions root=PARTUUID=5eed0099-02 rootwait\n")
                .build("system.img");
        assertThat(terminal.json("shelf", "drive", "Stick", "--kind", "stick", "--size", "200 MB")
                        .code())
                .isZero();
        Files.copy(system, folder.resolve("workspace/drives/stick.img"), StandardCopyOption.REPLACE_EXISTING);
        DiskBuilder.blank(folder.resolve("workspace/drives/stick.img"), 200_000_000);
        assertThat(terminal.json("board", "attach", board, "usb1", "stick").code())
                .isZero();
        JsonNode planned =
                terminal.json("firmware", "card", board, archive.toString()).json();
        assertThat(planned.get("startedFrom").asText()).isEqualTo("usb1");
        assertThat(planned.get("outcome").asText()).isEqualTo("running");
        assertThat(planned.get("settings").asText()).isEqualTo("gpu_mem=16");
        assertThat(planned.get("leftOut").get(0).asText()).isEqualTo("Readme.md");
        // Entries of the network come first and are waited for; another order does without.
        assertThat(codes(planned.get("findings"))).contains("firmware-card-order", "firmware-card-memory-cap");
        assertThat(planned.get("order").asText()).startsWith("0003");

        Path card = folder.resolve("card.img");
        DiskBuilder.blank(card, 100 * DiskBuilder.MIB);
        assertThat(terminal.json("firmware", "card", board, archive.toString(), card.toString())
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.json("firmware", "card", board, archive.toString(), card.toString(), "--confirm", "it")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
        Terminal.Ran made =
                terminal.json("firmware", "card", board, archive.toString(), card.toString(), "--confirm", "card.img");
        assertThat(made.json().get("verdict").asText()).isEqualTo("verified");
        assertThat(GeneralTools.run("mtype", "-i", card + "@@1M", "::DUNLIN.fd"))
                .isEqualTo("firmware");
    }

    @Test
    void whatAnInstallOverTheNetworkNeedsIsSaid() {
        String board = board("plover-4", "4 GB", "--reach", "simulated", "--firmware", "2025-02-11");
        JsonNode install = terminal.json("order", "install", board).json();
        assertThat(install.get("ready").asBoolean()).isFalse();
        assertThat(install.get("needs").get(0).get("state").asText()).isEqualTo("lacking");
        assertThat(install.get("order").asText()).isEqualTo("0xf741");
        assertThat(install.get("steps")).hasSizeGreaterThan(3);
    }

    @Test
    void settingsAreShownChangedAndSetBack() {
        String board = board("plover-5", "4 GB", "--reach", "simulated", "--firmware", "2026-09-02");
        Terminal.Ran planned = terminal.json("firmware", "settings", board, "--set", "BOOT_ORDER=0xf416");
        assertThat(planned.json().get("staged").asBoolean()).isFalse();
        assertThat(planned.json().get("added").get(0).asText()).isEqualTo("BOOT_ORDER=0xf416");
        assertThat(terminal.json("firmware", "settings", board, "--set", "BOOT_ORDER=0xF416", "--stage")
                        .code())
                .isEqualTo(ExitCode.REFUSED);
        assertThat(terminal.json("firmware", "settings", board, "--set", "BOOT_ORDER=0xf416", "--stage")
                        .code())
                .isZero();
        assertThat(terminal.json("board", "restart", board).json().get("order").asText())
                .isEqualTo("0xf416");
        assertThat(terminal.json("firmware", "settings", board, "--factory", "--stage")
                        .json()
                        .get("added")
                        .get(0)
                        .asText())
                .isEqualTo("BOOT_ORDER=0xf461");
    }

    @Test
    void aBundleIsPackedCheckedAndTakenIn() throws IOException {
        String board = board("plover-5", "4 GB", "--reach", "by-hand", "--firmware", "2025-06-03");
        Path payload = Files.writeString(folder.resolve("payload.bin"), "what goes in");
        Path bundle = folder.resolve("release.zip");
        Terminal.Ran packed = terminal.json(
                "firmware",
                "shelf",
                "pack",
                "--for",
                "plover-5",
                "--version",
                "2026-12-01",
                "--channel",
                "stable",
                "--notes",
                "Mends the lamp.",
                "--mends",
                "the lamp flickers",
                "--signs",
                "lamp,flickers",
                "--payload",
                payload.toString(),
                bundle.toString());
        assertThat(packed.code()).as(packed.err()).isZero();
        assertThat(terminal.json("firmware", "shelf", "check", bundle.toString())
                        .json()
                        .get("signed")
                        .asText())
                .isEqualTo("no");
        assertThat(terminal.json("firmware", "shelf", "import", bundle.toString())
                        .code())
                .isZero();
        assertThat(terminal.json("firmware", "list", board).json().toString()).contains("Mends the lamp.");
        terminal.run("board", "told", board, "--trouble", "the lamp flickers at the start");
        JsonNode status = terminal.json("firmware", "status", board).json();
        assertThat(status.get("updateTo").asText()).isEqualTo("2026-12-01");
        assertThat(codes(status.get("reasons"))).contains("firmware-mends");
        // Nothing but a virtual board runs the stand-in, and a release is not the set that a chip is written anew with.
        for (String version : List.of("2026-09-02", "2026-12-01")) {
            Terminal.Ran card = terminal.run("firmware", "recovery-card", board, "--version", version);
            assertThat(card.code()).as(card.err()).isEqualTo(ExitCode.REFUSED);
        }
        Files.writeString(bundle, "broken");
        assertThat(terminal.run("firmware", "shelf", "import", bundle.toString())
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        assertThat(terminal.run("firmware", "shelf", "add", "--for", "plover-5", "--version", "soon", "--notes", "x")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
    }

    @Test
    void ordersAreOfferedPlannedAndTheFuseIsAskedForTwice() {
        String board = board("plover-3", "1 GB", "--reach", "simulated");
        assertThat(terminal.json("order", "presets", board)
                        .json()
                        .get(0)
                        .get("value")
                        .asText())
                .isEqualTo("3020000a");
        JsonNode fuse = terminal.json("order", "fuse", board, "--register", "17:1020000a")
                .json();
        assertThat(fuse.get("after").asText()).isEqualTo("3020000a");
        assertThat(fuse.get("set").asBoolean()).isFalse();
        assertThat(terminal.json("order", "fuse", board, "--confirm", board).code())
                .isEqualTo(ExitCode.REFUSED);
        assertThat(terminal.json("order", "fuse", board, "--confirm", board, "--again", "bit 29")
                        .code())
                .isZero();
        assertThat(terminal.json("order", "fuse", board).code()).isEqualTo(ExitCode.REFUSED);
    }

    @Test
    void whatWasSeenIsRankedAndTheNextQuestionAsked() throws IOException {
        Path image = new DiskBuilder(folder).build("lamp.img");
        Path scenario = Files.writeString(
                folder.resolve("lamp.yaml"),
                "board: {profile: plover-5, buttonHeld: false}\nfirmware: {version: 2026-09-02, config: \"BOOT_ORDER=0xf1\"}\n"
                        + "attached: [{port: card, medium: card-quick, image: " + image.getFileName() + "}]\n");
        JsonNode asked = terminal.json("diagnose", "--scenario", scenario.toString(), "--seen", "screen=kernel-stops")
                .json();
        assertThat(asked.get("next").get("sign").asText()).isEqualTo("panic");
        Path log = Files.writeString(
                folder.resolve("boot.log"),
                "VFS: Cannot open root device \"PARTUUID=1\" or unknown-block(0,0): error -6\n");
        JsonNode found = terminal.json(
                        "diagnose",
                        "--scenario",
                        scenario.toString(),
                        "--log",
                        log.toString(),
                        "--seen",
                        "panic=names-root")
                .json();
        assertThat(found.get("suspects").get(0).get("fault").asText()).isEqualTo("root-moved");
        assertThat(terminal.run("diagnose", "--scenario", scenario.toString(), "--seen", "screen=odd")
                        .code())
                .isEqualTo(ExitCode.BAD_INPUT);
        JsonNode beside = terminal.json("rehearse", scenario.toString(), "--beside-order", "0xe4")
                .json()
                .get("beside");
        assertThat(beside.get("cause").asText()).isEqualTo("stopped-by-order");
        assertThat(beside.get("text").asText()).contains("they part");
    }
}
