// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import exordium.core.block.LinuxDrives;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A prepared card handed to a real Linux kernel that runs as a process (User Mode Linux): it finds the root by the kernel line. */
class RealKernelTest {
    @TempDir
    private Path folder;

    private String boot(Path disk, String line) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                "timeout",
                "-k",
                "2",
                "120",
                "linux.uml",
                "mem=128M",
                "con=null",
                "con0=fd:0,fd:1",
                "uml_dir=" + Files.createDirectories(folder.resolve("run")),
                "ubd0=" + folder.resolve("cow") + "," + disk,
                "panic=1"));
        for (String word : line.split(" ")) {
            // Nothing ever comes of a wait for a root that is nowhere, and this kernel speaks on a console of its own.
            if (!word.equals("rootwait") && !word.startsWith("console=")) {
                command.add(word);
            }
        }
        // What it says on a pipe is lost when it ends.
        Path log = folder.resolve("kernel.log");
        GeneralTools.said("sh", "-c", "'" + String.join("' '", command) + "' > '" + log + "' 2>&1 < /dev/null");
        return Files.readString(log, StandardCharsets.ISO_8859_1);
    }

    @Test
    void aRealKernelMountsTheRootOfACardWithAnIdentityOfItsOwn() throws IOException {
        assumeTrue(
                GeneralTools.exitOf("linux.uml", "--version") == 0 || System.getenv("CI") != null, "no linux.uml here");
        Path disk = new DiskBuilder(folder)
                .root("etc/hostname", "marsh\n")
                .root("etc/ssh/ssh_host_ed25519_key", "secret\n")
                .build("card.img");
        String old = GeneralTools.run("mtype", "-i", disk + "@@" + 4 * DiskBuilder.MIB, "::cmdline.txt");
        try (Workbench bench = Opening.at(folder.resolve("house"), Clock.systemUTC(), ZoneOffset.UTC)) {
            new FirstStartJob(bench)
                    .apply(new FirstStartJob.Order(
                            new Targets(new ProfileReader(), new LinuxDrives(), bench.folder(), false)
                                    .at(disk, ByteSize.ZERO),
                            bench.profiles().require("plover-4"),
                            IntentsReader.of(Map.of(
                                    "hostName",
                                    "tide-clock",
                                    "ownIdentity",
                                    true,
                                    "network",
                                    Map.of("kind", "fixed", "address", "192.168.4.20/24", "gateway", "192.168.4.1"),
                                    "off",
                                    List.of("splash"))),
                            Optional.empty()));
        }
        String line = GeneralTools.run("mtype", "-i", disk + "@@" + 4 * DiskBuilder.MIB, "::cmdline.txt");
        assertThat(boot(disk, line.strip())).contains("VFS: Mounted root (ext4 filesystem)");
        // The line of the image it came from no longer leads anywhere: the card is nobody's twin.
        Files.delete(folder.resolve("cow"));
        assertThat(boot(disk, old.strip())).contains("Cannot open root device");
    }
}
