// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.block.MachineDrive;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the process with leave does with whatever it is given: one plan, its own look at the drive, and not one byte more. */
class DriveHelperTest {
    private static final ObjectMapper JSON = new ObjectMapper();

    @TempDir
    Path folder;

    private Path file;
    private String loop;
    private final ByteArrayOutputStream asked = new ByteArrayOutputStream();
    private final DataOutputStream ask = new DataOutputStream(asked);
    private byte[] answered;

    @BeforeEach
    void loop() throws IOException {
        Needs.here(GeneralTools.exitOf("losetup", "-f") == 0, "no loop devices here");
        file = folder.resolve("card");
        Files.write(file, new byte[1 << 20]);
        loop = GeneralTools.run("losetup", "-f", "--show", file.toString()).strip();
    }

    @AfterEach
    void letGo() {
        if (loop != null) {
            GeneralTools.exitOf("losetup", "-d", loop);
        }
    }

    private MachineDrive drive() throws IOException {
        return new LinuxDrives().find(Path.of(loop), Path.of("/")).orElseThrow();
    }

    private int run(List<JsonNode> told) throws IOException {
        ByteArrayOutputStream events = new ByteArrayOutputStream();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        int code = new DriveHelper(
                        new ByteArrayInputStream(asked.toByteArray()),
                        out,
                        new PrintStream(events, true, StandardCharsets.UTF_8),
                        new LinuxDrives(),
                        loop)
                .run();
        answered = out.toByteArray();
        for (String line : events.toString(StandardCharsets.UTF_8).lines().toList()) {
            told.add(JSON.readTree(line));
        }
        return code;
    }

    private void plan(HelperPlan plan) throws IOException {
        ask.write((plan.line() + "\n").getBytes(StandardCharsets.UTF_8));
    }

    private void ask(int what, long position, int length, byte... bytes) throws IOException {
        ask.writeByte(what);
        ask.writeLong(position);
        ask.writeInt(length);
        ask.write(bytes);
    }

    private boolean untouched() throws IOException {
        return Arrays.equals(Files.readAllBytes(file), new byte[1 << 20]);
    }

    @Test
    void readsAndWritesTheOneDriveAndTellsOfIt() throws IOException {
        plan(HelperPlan.of(drive(), true));
        ask(DriveHelper.WRITE, 700, 3, (byte) 1, (byte) 2, (byte) 3);
        ask(DriveHelper.READ, 699, 5);
        ask(DriveHelper.FLUSH, 0, 0);
        List<JsonNode> told = new ArrayList<>();
        assertThat(run(told)).isZero();
        // Opened, past the cache or not; written; read, and five bytes; flushed.
        assertThat(answered).hasSize(2 + 1 + 1 + 5 + 1).startsWith(0).endsWith(0, 1, 2, 3, 0, 0);
        assertThat(Files.readAllBytes(file)[702]).isEqualTo((byte) 3);
        assertThat(told)
                .extracting(each -> each.get("event").asText())
                .startsWith("opened")
                .endsWith("ended");
        assertThat(told.get(told.size() - 1).get("writtenBytes").asLong()).isEqualTo(3);
        assertThat(told.get(told.size() - 1).get("readBytes").asLong()).isEqualTo(5);
    }

    @Test
    void whatIsNotInThePlanIsNotDone() throws IOException {
        plan(HelperPlan.of(drive(), false));
        ask(DriveHelper.WRITE, 0, 1, (byte) 9);
        List<JsonNode> told = new ArrayList<>();
        assertThat(run(told)).isEqualTo(2);
        assertThat(told.get(told.size() - 1).get("event").asText()).isEqualTo("failed");
        assertThat(untouched()).isTrue();
    }

    @Test
    void aDriveThatIsNotWhatItWasWhenItWasPlannedIsRefused() throws IOException {
        HelperPlan right = HelperPlan.of(drive(), true);
        List<HelperPlan> wrong = List.of(
                new HelperPlan(1, right.drive(), right.bytes() + 512, right.serial(), right.sequence(), true),
                new HelperPlan(1, right.drive(), right.bytes(), "another", right.sequence(), true),
                new HelperPlan(1, right.drive(), right.bytes(), right.serial(), "0", true),
                new HelperPlan(1, "nowhere", right.bytes(), right.serial(), right.sequence(), true));
        for (HelperPlan plan : wrong) {
            asked.reset();
            plan(plan);
            ask(DriveHelper.WRITE, 0, 1, (byte) 9);
            List<JsonNode> told = new ArrayList<>();
            assertThat(run(told)).as(plan.line()).isEqualTo(3);
            assertThat(told.get(0).get("event").asText()).isEqualTo("refused");
            assertThat(told.get(0).get("code").asText()).isEqualTo("target-changed");
            assertThat(answered).isEmpty();
        }
        assertThat(untouched()).isTrue();
    }

    /** The drive of the running system, whatever the plan says of it. */
    @Test
    void theHelperLooksForItselfWhatIsInUse() throws IOException {
        MachineDrive system = new LinuxDrives()
                .list(Path.of("/")).stream()
                        .filter(each ->
                                !each.refusals().isEmpty() && !each.mounted().isEmpty())
                        .findFirst()
                        .orElse(null);
        Needs.ofKernel(system != null, "nothing here is mounted from a drive");
        for (boolean write : new boolean[] {true, false}) {
            asked.reset();
            plan(HelperPlan.of(system, write));
            List<JsonNode> told = new ArrayList<>();
            assertThat(run(told)).isEqualTo(3);
            assertThat(answered).isEmpty();
        }
    }

    @Test
    void anythingElseThanAPlanEndsItWithOneLine() throws IOException {
        String right = HelperPlan.of(drive(), true).line();
        for (String line : List.of(
                "",
                "{}",
                "null",
                "[1]",
                "x".repeat(10_000),
                right.replace("\"plan\":1", "\"plan\":2"),
                right.replace(drive().id(), "../" + drive().id()),
                right.replace("true", "null"),
                right + right)) {
            asked.reset();
            ask.write((line + "\n").getBytes(StandardCharsets.UTF_8));
            List<JsonNode> told = new ArrayList<>();
            assertThat(run(told)).as(line).isEqualTo(2);
            assertThat(told).hasSize(1);
            assertThat(told.get(0).get("text").asText()).doesNotContain("Exception");
            assertThat(answered).isEmpty();
        }
        // Asked for what it does not know, or for too much at once.
        for (int[] odd : new int[][] {{'x', 4}, {DriveHelper.READ, DriveHelper.PIECE + 1}, {DriveHelper.READ, -1}}) {
            asked.reset();
            plan(HelperPlan.of(drive(), true));
            ask(odd[0], 0, odd[1]);
            run(new ArrayList<>());
            assertThat(answered.length).isLessThan(200);
        }
        assertThat(untouched()).isTrue();
    }

    /** As the service's own documentation writes object paths: each other character as an underscore and its code. */
    @Test
    void namesOfKernelsBecomePathsOfTheService() {
        assertThat(DiskService.element("mmcblk0")).isEqualTo("mmcblk0");
        assertThat(DiskService.element("cciss!c0d0")).isEqualTo("cciss_21c0d0");
    }
}
