// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.TransferWatch;
import exordium.core.network.NetworkPlan;
import exordium.core.profile.ProfileReader;
import exordium.core.testing.DiskBuilder;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;

/** A server with five boards of three families, from small real images. */
final class Kits {
    static final String SERVER =
            """
            server:
              name: store-room server
              address: 192.168.40.2
              router: 192.168.40.1
              folder: /srv/boards
              room: 240 GB
            """;

    private Kits() {}

    static Workbench workbench(Path folder) throws IOException {
        return Opening.at(Files.createDirectories(folder), Clock.systemUTC(), ZoneOffset.UTC);
    }

    /** Images by family; each start file says whose it is. */
    static void images(Path folder) throws IOException {
        new DiskBuilder(folder)
                .start("cmdline.txt", "console=tty1 root=PARTUUID=5eed0001-02 rootfstype=ext4 rootwait\n")
                .start("ssh", "")
                .root(
                        "etc/fstab",
                        "PARTUUID=5eed0001-02 / ext4 defaults 0 1\nPARTUUID=5eed0001-01 /boot vfat defaults 0 2\n")
                .root("etc/hostname", "marsh\n")
                .root("etc/machine-id", "0123456789abcdef0123456789abcdef\n")
                .root("etc/ssh/ssh_host_ed25519_key", "secret")
                .root("usr/sbin/sshd", "x")
                .root("var/log/words", "of the image")
                .build("marsh.img");
        new DiskBuilder(folder)
                .id("5eed0002")
                .without("config.txt")
                .without("start.elf")
                .without("kernel-64.img")
                .without("plover-4-b.dtb")
                .without("plover-5-b.dtb")
                .start("kernel-32.img", "curlew kernel")
                .start("curlew-e-b.dtb", "curlew tree")
                .start(
                        "extlinux/extlinux.conf",
                        "default main\nlabel main\n  kernel /kernel-32.img\n  fdt /curlew-e-b.dtb\n"
                                + "  append console=ttyS0 root=PARTUUID=5eed0002-02 rootwait\n")
                .root("sbin/init", "\u007fELF\u0001")
                .build("fenix.img");
        new DiskBuilder(folder)
                .id("5eed0003")
                .without("config.txt")
                .without("start.elf")
                .without("plover-4-b.dtb")
                .without("plover-5-b.dtb")
                .start("kernel-64.img", "dunlin kernel")
                .start("EFI/BOOT/BOOTAA64.EFI", "loader")
                .start(
                        "loader/entries/dunlin.conf",
                        "title dunlin\nlinux /kernel-64.img\noptions console=ttyAMA0 root=PARTUUID=5eed0003-02 rootwait\n")
                .build("dunlin.img");
    }

    static NetworkPlan plan(Path images) throws IOException {
        return plan(SERVER
                + """
                clients:
                  - {id: film-loop, profile: plover-5, serial: "00000000D90B6C02", mac: "02:47:50:00:00:0A", image: %1$s/marsh.img}
                  - {id: tide-clock, profile: plover-4, serial: "00000000c4a81d12", mac: "02:47:50:00:00:02", image: %1$s/marsh.img, root: memory}
                  - {id: engine-sound, profile: plover-4, serial: "00000000c4a81d07", mac: "02:47:50:00:00:01", image: %1$s/marsh.img, root: state}
                  - {id: door-counter, profile: curlew-e, serial: "0000ce0041a7", mac: "02:47:50:00:00:05", image: %1$s/fenix.img}
                  - {id: booth, profile: dunlin-u, serial: "0000d0110042", mac: "02:47:50:00:00:08", image: %1$s/dunlin.img}
                """
                        .formatted(images));
    }

    static NetworkPlan plan(String text) throws IOException {
        return new ProfileReader()
                .user("plan", text.getBytes(StandardCharsets.UTF_8), NetworkPlan.SCHEMA, NetworkPlan.class)
                .settled();
    }

    static NetworkKit kit(Workbench workbench, NetworkPlan plan) throws IOException {
        NetworkKit kit = NetworkKit.of(workbench);
        kit.bringTo(plan, NetworkKit.Roots.TAR, TransferWatch.NONE);
        return kit;
    }
}
