// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Writing as a process of its own, with the memory the command line gives it: a large image, a loop device, a full disk,
 * a kill half-way. Drives of the machine are touched only as loop devices made here.
 */
class WriteProcessTest {
    private static final long LARGE = 330_000_000L;
    private static final long SMALL = 200_000_000L;
    private static final long NOISY_FROM = 70_000_000L;
    private static final int NOISES = 20;
    private static final int HEAD = 9;
    private static final long MOST_MEMORY_KIB = 300 * 1024;

    @TempDir
    static Path shared;

    @TempDir
    Path folder;

    private static Image small;
    private Path workspace;

    private record Image(Path plain, Path packed, long bytes) {
        boolean isOn(Path drive) {
            return GeneralTools.exitOf("cmp", "-n", String.valueOf(bytes), plain.toString(), drive.toString()) == 0;
        }

        /** A table, a FAT32 start partition and an ext4 root, 20 MB of it incompressible. */
        static Image of(String name, long bytes, String ending, String... packer) throws IOException {
            Path plain = new DiskBuilder(shared).sizes(64, 70).build(name);
            byte[] noise = new byte[1 << 20];
            Random random = new Random(20261124);
            try (RandomAccessFile file = new RandomAccessFile(plain.toFile(), "rw")) {
                file.setLength(bytes);
                for (int i = 0; i < NOISES; i++) {
                    random.nextBytes(noise);
                    file.seek(noisy(bytes, i));
                    file.write(noise);
                }
            }
            List<String> words = new ArrayList<>(List.of(packer));
            words.add(plain.toString());
            GeneralTools.run(words.toArray(String[]::new));
            return new Image(plain, shared.resolve(name + ending), bytes);
        }
    }

    private static long noisy(long bytes, int part) {
        return NOISY_FROM + part * ((bytes - NOISY_FROM) / NOISES);
    }

    @BeforeAll
    static void image() throws IOException {
        small = Image.of("small.img", SMALL, ".zst", "zstd", "-q", "-1");
    }

    @BeforeEach
    void workspace() {
        workspace = folder.resolve("workspace");
    }

    private Process start(String... words) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=1",
                "-Xmx160m",
                "-XX:MaxDirectMemorySize=192m",
                "-cp",
                System.getProperty("java.class.path"),
                "exordium.cli.Main"));
        command.addAll(List.of(words));
        command.addAll(List.of("--json", "--workspace", workspace.toString()));
        return new ProcessBuilder(command)
                .redirectError(folder.resolve("err.txt").toFile())
                .redirectOutput(folder.resolve("out.txt").toFile())
                .start();
    }

    private record Ended(int code, JsonNode json, String err, long peakKib) {
        String verdict() {
            return json.get("verdict").asText();
        }
    }

    /** Waits for the end and notes the most memory the process ever held (proc(5), VmHWM). */
    private Ended ended(Process process) throws IOException {
        long peak = 0;
        try {
            while (!process.waitFor(50, TimeUnit.MILLISECONDS)) {
                peak = Math.max(peak, peakOf(process.pid()));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new AssertionError(e);
        }
        String out = Files.readString(folder.resolve("out.txt"));
        return new Ended(
                process.exitValue(),
                out.isBlank() ? null : new ObjectMapper().readTree(out),
                Files.readString(folder.resolve("err.txt")),
                peak);
    }

    private static long peakOf(long pid) {
        try {
            for (String line : Files.readAllLines(Path.of("/proc/" + pid + "/status"), StandardCharsets.UTF_8)) {
                if (line.startsWith("VmHWM:")) {
                    return Long.parseLong(line.replaceAll("\\D", ""));
                }
            }
        } catch (IOException e) {
            // Gone between the question and the answer.
            return 0;
        }
        return 0;
    }

    private Path drive(long bytes, String... more) {
        Path drive = folder.resolve("card.img");
        List<String> words =
                new ArrayList<>(List.of("drive", "new", drive.toString(), "--bytes", "" + bytes, "--bus", "sd"));
        words.addAll(List.of(more));
        assertThat(new Terminal(workspace).run(words.toArray(String[]::new)).code())
                .isZero();
        return drive;
    }

    @Test
    void aLargeCompressedImageReachesAVirtualDriveInLittleMemory() throws IOException {
        Image large = Image.of("large.img", LARGE, ".xz", "xz", "-k", "-0", "-T2");
        Path drive = drive(350_000_000L);
        Ended ended = ended(start("write", large.packed().toString(), drive.toString(), "--confirm", "card.img"));
        assertThat(ended.err()).doesNotContain("rror");
        assertThat(ended.verdict()).isEqualTo("verified");
        assertThat(ended.code()).isZero();
        assertThat(ended.json().get("writtenBytes").asLong()).isEqualTo(LARGE);
        assertThat(ended.json().get("verification").get("checkedBytes").asLong())
                .isEqualTo(LARGE);
        assertThat(ended.peakKib()).isBetween(1L, MOST_MEMORY_KIB);
        assertThat(large.isOn(drive)).isTrue();

        DiskBuilder.flip(drive, 300_432_109L);
        Ended compared = ended(start("verify", large.packed().toString(), drive.toString()));
        assertThat(compared.code()).isEqualTo(ExitCode.DIFFERENT);
        assertThat(compared.json().get("verification").get("differences")).hasSize(1);
        assertThat(compared.json()
                        .get("verification")
                        .get("differences")
                        .get(0)
                        .get("offset")
                        .asLong())
                .isEqualTo(300_432_109L);
        assertThat(compared.peakKib()).isLessThan(MOST_MEMORY_KIB);
    }

    @Test
    void aLoopDeviceIsRefusedUntilAllowedThenWrittenAndProven() throws IOException {
        Path behind = folder.resolve("behind.img");
        DiskBuilder.blank(behind, 210_000_384L);
        String loop = loop(behind);
        try {
            String name = Path.of(loop).getFileName().toString();
            Ended refused = ended(start("write", small.packed().toString(), loop, "--confirm", name));
            assertThat(refused.code()).isEqualTo(ExitCode.REFUSED);
            assertThat(refused.err()).contains("--allow-real-drives");
            Ended unnamed =
                    ended(start("write", small.packed().toString(), loop, "--confirm", "card", "--allow-real-drives"));
            assertThat(unnamed.code()).isEqualTo(ExitCode.REFUSED);
            assertThat(unnamed.err()).contains(name);
            Ended written =
                    ended(start("write", small.packed().toString(), loop, "--confirm", name, "--allow-real-drives"));
            assertThat(written.verdict()).isEqualTo("verified");
            assertThat(written.json().get("verification").get("pastCache").asBoolean())
                    .isTrue();
            assertThat(small.isOn(Path.of(loop))).isTrue();
        } finally {
            GeneralTools.run("losetup", "-d", loop);
        }
    }

    /** The superuser's tools are there in the project's own test runs; elsewhere this part is left out. */
    private static String loop(Path file) {
        Needs.here(GeneralTools.exitOf("losetup", "-f") == 0, "no loop devices here");
        return GeneralTools.run("losetup", "-f", "--show", file.toString()).strip();
    }

    @Test
    void aMountedLoopDeviceIsAlwaysRefused() throws IOException {
        Path behind = folder.resolve("behind.img");
        DiskBuilder.blank(behind, 64 << 20);
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", behind.toString());
        String loop = loop(behind);
        Path place = Files.createDirectory(folder.resolve("mounted"));
        try {
            Needs.here(GeneralTools.exitOf("mount", loop, place.toString()) == 0, "nothing can be mounted here");
            String name = Path.of(loop).getFileName().toString();
            Ended refused =
                    ended(start("write", small.packed().toString(), loop, "--confirm", name, "--allow-real-drives"));
            assertThat(refused.code()).isEqualTo(ExitCode.REFUSED);
            assertThat(refused.err()).contains("is mounted at " + place);
        } finally {
            GeneralTools.exitOf("umount", place.toString());
            GeneralTools.run("losetup", "-d", loop);
        }
    }

    @Test
    void aFullDiskUnderTheDriveEndsFailed() throws IOException {
        Path full = folder.resolve("disk.img");
        DiskBuilder.blank(full, 64 << 20);
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", full.toString());
        String loop = loop(full);
        Path place = Files.createDirectory(folder.resolve("full"));
        try {
            Needs.here(GeneralTools.exitOf("mount", loop, place.toString()) == 0, "nothing can be mounted here");
            Path drive = place.resolve("card.img");
            assertThat(new Terminal(workspace)
                            .run("drive", "new", drive.toString(), "--bytes", "500000000", "--bus", "sd")
                            .code())
                    .isZero();
            Ended ended = ended(start("write", small.packed().toString(), drive.toString(), "--confirm", "card.img"));
            assertThat(ended.code()).isEqualTo(ExitCode.FAILED);
            assertThat(ended.verdict()).isEqualTo("failed");
            assertThat(ended.json().get("text").asText())
                    .contains("No space left")
                    .contains("not to be used");
        } finally {
            GeneralTools.exitOf("umount", place.toString());
            GeneralTools.run("losetup", "-d", loop);
        }
    }

    @Test
    void aWriteKilledHalfWayIsNeverShownAsGood() throws IOException, InterruptedException {
        Path drives = workspace.resolve("drives");
        Files.createDirectories(drives);
        Path drive = drives.resolve("card.img");
        assertThat(new Terminal(workspace)
                        .run(
                                "drive",
                                "new",
                                drive.toString(),
                                "--bytes",
                                "250000000",
                                "--bus",
                                "sd",
                                "--write-rate",
                                "30000000")
                        .code())
                .isZero();
        Process process = start("write", small.packed().toString(), drive.toString(), "--confirm", "card.img");
        while (process.isAlive() && !hasSettled()) {
            Thread.sleep(20);
        }
        assertThat(process.isAlive()).as("still writing").isTrue();
        process.destroyForcibly().waitFor();
        Terminal terminal = new Terminal(workspace);
        JsonNode log = terminal.json("log").json();
        assertThat(log.findValuesAsText("kind")).containsExactly("write-interrupted");
        assertThat(log.get(0).get("text").asText()).contains("not to be used");
        assertThat(terminal.json("inspect", drive.toString())
                        .json()
                        .get("table")
                        .asText())
                .isEqualTo("none");
        JsonNode stands = terminal.json("writes").json().get(0);
        assertThat(stands.get("doneBytes").asLong()).isBetween(1L, SMALL - 1);
        assertThat(stands.get("text").asText()).contains("It can go on from there");
        Ended again =
                ended(start("write", small.packed().toString(), drive.toString(), "--confirm", "card.img", "--resume"));
        assertThat(again.verdict()).isEqualTo("verified");
        assertThat(again.json().get("skippedBytes").asLong()).isPositive();
        assertThat(terminal.json("writes").json()).isEmpty();
        assertThat(small.isOn(drive)).isTrue();
    }

    /** Whether the journal of the write has its first chunk, which is behind the nine lines of its head. */
    private boolean hasSettled() throws IOException {
        Path journals = workspace.resolve("writes");
        if (!Files.isDirectory(journals)) {
            return false;
        }
        try (Stream<Path> files = Files.list(journals)) {
            for (Path journal : files.toList()) {
                if (Files.readAllLines(journal).size() > HEAD) {
                    return true;
                }
            }
        }
        return false;
    }
}
