// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.network.NetworkPlan;
import exordium.core.profile.ProfileReader;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Workbench;
import exordium.jobs.network.NetworkKit;
import exordium.jobs.network.RealServers;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** U-Boot under qemu starts over the network from a kit: address, menu, kernel and the line it hands over. */
class NetworkStartTest {
    private static final String MAC = "02:47:50:00:00:05";

    @TempDir
    Path folder;

    @Test
    void uBootFetchesItsMenuAndKernelFromTheKit() throws IOException {
        String kernel;
        try (InputStream in = StandInFiles.class.getResourceAsStream("/exordium/real/kernel.img")) {
            kernel = new String(in.readAllBytes(), StandardCharsets.ISO_8859_1);
        }
        new DiskBuilder(folder)
                .without("config.txt")
                .start("kernel-32.img", kernel)
                .start(
                        "extlinux/extlinux.conf",
                        "label main\n  kernel /kernel-32.img\n  append console=ttyAMA0 root=PARTUUID=5eed0001-02\n")
                .root("sbin/init", "\u007fELF\u0001")
                .build("fenix.img");
        String text =
                "server: {name: server, address: 192.168.40.2, folder: /srv/boards}\nclients:\n  - {id: door, profile: curlew-e,"
                        + " serial: \"1\", mac: \"" + MAC + "\", image: " + folder + "/fenix.img}\n";
        NetworkPlan plan = new ProfileReader()
                .user("plan", text.getBytes(StandardCharsets.UTF_8), NetworkPlan.SCHEMA, NetworkPlan.class)
                .settled();
        boolean here = RealServers.silent(plan.server()).isEmpty()
                && Files.isReadable(UBoot.FIRMWARE)
                && Files.isExecutable(EmulatedBoard.PROGRAM);
        Needs.here(here, "no servers or no U-Boot here");
        try (Workbench workbench = Opening.at(folder.resolve("space"), Clock.systemUTC(), ZoneOffset.UTC)) {
            NetworkKit kit = NetworkKit.of(workbench);
            kit.bringTo(plan, NetworkKit.Roots.TAR, TransferWatch.NONE);
            Path flash = folder.resolve("flash.img");
            Files.write(
                    flash,
                    UBoot.environment("env default -f -a; env set -f ethaddr " + MAC
                            + "; pci enum; setenv autoload no; dhcp; pxe get; pxe boot; echo OVER; poweroff"));
            try (RealServers servers = RealServers.start(kit.folder(), plan)) {
                servers.beside("ip tuntap add tap0 mode tap && ip link set tap0 master eth0 && ip link set tap0 up");
                String command = String.join(
                        " ",
                        new EmulatedBoard("usb-ehci")
                                .with("-bios", UBoot.FIRMWARE.toString())
                                .flash(1, flash, false)
                                .command());
                command = command.replace(
                        "-nic none",
                        "-netdev tap,id=n0,ifname=tap0,script=no,downscript=no -device virtio-net-pci,romfile=,netdev=n0,mac="
                                + MAC);
                Path log = folder.resolve("uboot.log");
                // It ends by itself: the kernel that stands in switches off.
                servers.beside("timeout 240 " + command + " < /dev/null > " + log + " 2>&1");
                String said = Files.readString(log, StandardCharsets.ISO_8859_1);
                assertThat(said)
                        .as(() -> "the server: " + serversLog(servers))
                        .contains(
                                "pxelinux.cfg/01-02-47-50-00-00-05",
                                "Retrieving file: /door/kernel-32.img",
                                "PAYLOAD end");
                assertThat(said)
                        .contains("PAYLOAD bootargs=console=ttyAMA0 ip=::::door:eth0:dhcp root=/dev/nfs"
                                + " nfsroot=192.168.40.2:/srv/boards/roots/door,vers=3,proto=tcp rw");
                assertThat(servers.log())
                        .anyMatch(line -> line.contains("sent /srv/boards/tftp/door/kernel-32.img to 192.168.40.11"));
            }
        }
    }

    private static String serversLog(RealServers servers) {
        try {
            return String.join("\n", servers.log());
        } catch (IOException e) {
            return e.getMessage();
        }
    }
}
