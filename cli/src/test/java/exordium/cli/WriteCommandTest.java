// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.LoopCard;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Images written and verified, and writes that are refused. */
class WriteCommandTest extends Commands {
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

    /** A loop device of this test's own, in no register before; what the write proved belongs to it. */
    @Test
    void aDriveThatIsInNoRegisterIsTakenInWithTheWrite() throws IOException {
        Path disk = new DiskBuilder(folder).id("0c4d0c4f").build("disk.img");
        try (LoopCard card = new LoopCard(folder, 100 * DiskBuilder.MIB)) {
            Needs.here(card.isThere(), "no loop devices here");
            String node = "/dev/" + card.name();
            Terminal.Ran refused = terminal.run(
                    "write",
                    disk.toString(),
                    node,
                    "--confirm",
                    "another",
                    "--take-in",
                    "Attic card",
                    "--allow-real-drives");
            assertThat(refused.code()).isEqualTo(ExitCode.REFUSED);
            assertThat(terminal.json("medium", "list").json().get("media")).isEmpty();
            Terminal.Ran written = terminal.json(
                    "write",
                    disk.toString(),
                    node,
                    "--confirm",
                    card.name(),
                    "--take-in",
                    "Attic card",
                    "--allow-real-drives");
            assertThat(written.json().get("verdict").asText()).isEqualTo("verified");
            JsonNode medium =
                    terminal.json("medium", "list").json().get("media").get(0);
            assertThat(medium.get("id").asText()).isEqualTo("attic-card");
            assertThat(medium.toString()).contains("card-plain");
            assertThat(terminal.run("log").out())
                    .contains("Attic card M1 is in the register")
                    .contains("to Attic card");
            Terminal.Ran again = terminal.run(
                    "write",
                    disk.toString(),
                    node,
                    "--confirm",
                    card.name(),
                    "--take-in",
                    "Other",
                    "--allow-real-drives");
            assertThat(again.code()).isEqualTo(ExitCode.BAD_INPUT);
            assertThat(again.sentence()).contains("in the register already");
        }
    }

    /** Proving and clearing take a new drive in as well; with the wrong name nothing is taken in. */
    @Test
    void aDriveThatIsInNoRegisterIsTakenInWithOtherDeeds() throws IOException {
        try (LoopCard card = new LoopCard(folder, 64 * DiskBuilder.MIB)) {
            Needs.here(card.isThere(), "no loop devices here");
            String node = "/dev/" + card.name();
            assertThat(terminal.run("drive", "clear", node, "--confirm", "x", "--take-in", "New", "--allow-real-drives")
                            .code())
                    .isEqualTo(ExitCode.REFUSED);
            assertThat(terminal.json("medium", "list").json().get("media")).isEmpty();
            Terminal.Ran proven = terminal.json(
                    "drive",
                    "prove",
                    node,
                    "--confirm",
                    card.name(),
                    "--take-in",
                    "New",
                    "--kind",
                    "stick",
                    "--allow-real-drives");
            assertThat(proven.code()).as(proven.err()).isZero();
            JsonNode medium =
                    terminal.json("medium", "list").json().get("media").get(0);
            assertThat(medium.get("id").asText()).isEqualTo("new");
            assertThat(medium.toString()).contains("stick");
        }
    }

    /** A slip of the finger gets the nearest word there is. */
    @Test
    void whatIsMistypedIsAnsweredWithTheNearest() {
        assertThat(terminal.run("bord", "list").sentence()).contains("Did you mean \"board\"?");
        assertThat(terminal.run("board", "lst").sentence()).contains("Did you mean \"list\"?");
        assertThat(terminal.run("drives", "--jsn").sentence()).contains("Did you mean \"--json\"?");
        assertThat(terminal.run("profile", "show", "plover4").sentence()).contains("Did you mean \"plover-4\"?");
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
}
