// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.Machine;
import exordium.core.block.MachineDrives;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whole processes on a system of which nothing is known but what Java tells: files and virtual drives work, real drives are not reached. */
class ElsewhereTest {
    @TempDir
    Path folder;

    private record Ran(int code, String said) {}

    private Ran run(String... words) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=1",
                "-D" + Machine.PROPERTY + "=plain",
                "-cp",
                System.getProperty("java.class.path"),
                "exordium.cli.Main"));
        command.addAll(List.of(words));
        command.addAll(List.of("--workspace", folder.resolve("house").toString()));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        try {
            return new Ran(process.waitFor(), said);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
    }

    @Test
    void virtualDrivesAndFilesWorkAndRealDrivesAreNotReached() throws IOException {
        Path image = new DiskBuilder(folder).start("ssh", "").build("card.img");
        GeneralTools.run("xz", "-k", "-1", "--block-size=1MiB", image.toString());
        assertThat(run("workspace", "new", folder.resolve("house").toString(), "--name", "Elsewhere"))
                .extracting(Ran::code)
                .isEqualTo(0);
        Path drive = folder.resolve("house/drives/card.img");
        assertThat(run("drive", "new", drive.toString(), "--bytes", String.valueOf(Files.size(image)), "--bus", "sd"))
                .extracting(Ran::code)
                .isEqualTo(0);
        Ran written = run("write", image + ".xz", drive.toString(), "--confirm", "card.img", "--json");
        assertThat(written.said()).contains("\"verdict\" : \"verified\"");
        assertThat(GeneralTools.exitOf("cmp", image.toString(), drive.toString()))
                .isZero();
        Ran drives = run("drives");
        assertThat(drives.said())
                .contains("card.img (simulated)")
                .contains(MachineDrives.NOT_REACHED.text())
                .doesNotContain("holds the running system");
        Ran refused = run("write", image.toString(), "/dev/null", "--confirm", "null", "--allow-real-drives");
        assertThat(refused.code()).isEqualTo(3);
        assertThat(refused.said()).contains("drives of the machine are not reached");
        assertThat(run("inspect", drive.toString()).code()).isZero();
        assertThat(run("log").said()).contains("card.img");
    }
}
