// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A real Linux kernel that runs as a process (User Mode Linux, Debian's package); disks are ubda, ubdb and on, and stay as they are. */
public final class RealKernel {
    private final Path folder;

    /** Where there is none the test is left out, but not where everything is installed. */
    public RealKernel(Path folder) {
        assumeTrue(
                GeneralTools.exitOf("linux.uml", "--version") == 0 || System.getenv("CI") != null, "no linux.uml here");
        this.folder = folder;
    }

    /** What the kernel says until it ends, with these words of a kernel line; it waits for no root and speaks on a console of its own. */
    public String boot(List<Path> disks, String line) throws IOException {
        Path run = Files.createTempDirectory(folder, "run");
        List<String> command = new ArrayList<>(List.of(
                "timeout",
                "-k",
                "2",
                "240",
                "linux.uml",
                "mem=128M",
                "con=null",
                "con0=fd:0,fd:1",
                "uml_dir=" + run,
                "panic=1"));
        for (int i = 0; i < disks.size(); i++) {
            command.add("ubd" + i + "=" + run.resolve("cow" + i) + "," + disks.get(i));
        }
        for (String word : line.strip().split(" ")) {
            if (!word.equals("rootwait") && !word.startsWith("console=")) {
                command.add(word);
            }
        }
        // What it says on a pipe is lost when it ends.
        Path log = run.resolve("kernel.log");
        GeneralTools.said("sh", "-c", "'" + String.join("' '", command) + "' > '" + log + "' 2>&1 < /dev/null");
        return Files.readString(log, StandardCharsets.ISO_8859_1);
    }
}
