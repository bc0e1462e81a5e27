// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.linux.LinuxDrives;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A prepared card handed to a real Linux kernel that runs as a process (User Mode Linux): it finds the root by the kernel line. */
class PreparedCardTest {
    @TempDir
    private Path folder;

    @Test
    void aRealKernelMountsTheRootOfACardWithAnIdentityOfItsOwn() throws IOException {
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
        assertThat(root(disk, "own")).isEqualTo(new Compared.Point("root", "mounted from card", "mounted from card"));
        // The line of the image it came from no longer leads anywhere: the card is nobody's twin.
        Path line = Files.writeString(folder.resolve("cmdline.txt"), old);
        GeneralTools.run("mcopy", "-o", "-i", disk + "@@" + 4 * DiskBuilder.MIB, line.toString(), "::");
        assertThat(root(disk, "old")).isEqualTo(new Compared.Point("root", "not found", "not found"));
    }

    private Compared.Point root(Path disk, String name) throws IOException {
        RealBench real = RealBench.of(
                Benches.bench("plover-4", "0xf1", Benches.attached("plover-4", "card", "card-quick", disk)),
                Map.of("card", RealFirmwareTest.drive(disk)),
                Files.createDirectory(folder.resolve(name)));
        LinuxKernel kernel = new LinuxKernel();
        Needs.here(kernel.silent(real).isEmpty(), "no linux.uml here");
        return kernel.compare(real).points().get(0);
    }
}
