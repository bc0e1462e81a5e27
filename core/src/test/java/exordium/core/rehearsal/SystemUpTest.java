// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;
import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Finding;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.rehearsal.contents.RootFacts;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** From the mounted root to the login, on real disks: memory over the root, growth, mounts, network and remote login in time. */
class SystemUpTest {
    private static final String BOARD = "plover-5";
    private static final String ROOT = "root=PARTUUID=5eed0001-02 rootwait";
    private static final Bench.Network LINK_ONLY = new Bench.Network(true, false, false, Optional.empty(), List.of());

    @TempDir
    private Path folder;

    private DiskBuilder disk(String words) {
        return new DiskBuilder(folder).start("cmdline.txt", ROOT + words + "\n");
    }

    private static List<String> texts(Trace trace) {
        return trace.steps().stream()
                .filter(event -> event.stage() == Trace.Stage.SYSTEM)
                .map(Trace.Event::text)
                .toList();
    }

    private Trace start(Path disk, Bench.Network network) throws IOException {
        return Rehearsal.of(
                bench(BOARD, "0xf1", attached(BOARD, "card", "card", disk)).withNetwork(network));
    }

    /** A first start that fills its medium takes minutes, once; marks by common practice and cloud-init's documentation. */
    @ParameterizedTest
    @CsvSource({
        "etc/init.d/grow-root, #!/bin/sh, '', true",
        "etc/systemd/system/resize2fs-once.service, [Unit], '', true",
        "etc/cloud/cloud.cfg, 'cloud_init_modules: [growpart, resizefs]', '', true",
        "usr/lib/first/resize-rootfs.sh, #!/bin/sh, ' init=/usr/lib/first/resize-rootfs.sh', true",
        "etc/init.d/grow-root, #!/bin/sh, ' overlayroot=tmpfs', false",
        "etc/hostname, plain, '', false"
    })
    void aFirstStartThatFillsTheMediumTakesItsTime(String file, String text, String words, boolean grows)
            throws IOException {
        Path disk = disk(words).root(file, text).build("card.img");
        double tight = start(disk, Bench.Network.USUAL).seconds();
        DiskBuilder.blank(disk, 6L << 30);
        Trace roomy = start(disk, Bench.Network.USUAL);
        assertThat(texts(roomy).stream().anyMatch(each -> each.startsWith("First start: the last partition is made")))
                .isEqualTo(grows);
        assertThat(roomy.seconds() - tight).isBetween(grows ? 239.9 : -0.1, grows ? 240.1 : 0.1);
        // Where nothing says that the system does it, it is only said that room is left.
        assertThat(roomy.findings().stream().map(Finding::code).anyMatch("start-grows"::equals))
                .isEqualTo(!grows);
    }

    @Test
    void memoryOverTheRootIsAStepBeforeTheMounts() throws IOException {
        Path disk = disk(" overlayroot=tmpfs")
                .root(
                        "etc/fstab",
                        "PARTUUID=5eed0001-02 / ext4 defaults 0 1\nPARTUUID=5eed0001-01 /boot vfat defaults 0 2\n"
                                + "server:/share /share nfs defaults 0 0\n")
                .build("card.img");
        assertThat(texts(start(disk, Bench.Network.NONE)))
                .satisfiesExactly(
                        text -> assertThat(text).startsWith("Memory is laid over the root"),
                        text -> assertThat(text).contains("server:/share").endsWith("it goes on without."),
                        text -> assertThat(text).isEqualTo("It mounts /boot, as /etc/fstab says."),
                        text -> assertThat(text).isEqualTo("Remote login is off."),
                        text -> assertThat(text).contains("No network cable"),
                        text -> assertThat(text).isEqualTo("The system is up."));
    }

    /**
     * The address of the wired socket counts wherever it is fixed: systemd.network(5), nm-settings-keyfile(5), interfaces(5),
     * dhcpcd.conf(5), cloud-init documentation (network config version 2).
     */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "etc/systemd/network/10-wired.network|[Match]\\nName=eth0\\n\\n[Network]\\nAddress=192.168.7.20/24\\n|true",
                "etc/systemd/network/10-air.network|[Match]\\nName=wlan0\\n\\n[Network]\\nAddress=192.168.7.20/24\\n|false",
                "etc/NetworkManager/system-connections/w.nmconnection"
                        + "|[connection]\\ntype=ethernet\\n\\n[ipv4]\\nmethod=manual\\naddress1=192.168.7.20/24,192.168.7.1\\n|true",
                "etc/NetworkManager/system-connections/w.nmconnection"
                        + "|[connection]\\ntype=wifi\\n\\n[ipv4]\\nmethod=manual\\naddress1=192.168.7.20/24\\n|false",
                "etc/network/interfaces|auto eth0\\niface eth0 inet static\\n  netmask 255.255.255.0\\n  address 192.168.7.20\\n|true",
                "etc/network/interfaces|auto eth0\\niface eth0 inet dhcp\\n|false",
                "etc/dhcpcd.conf|hostname\\ninterface eth0\\n  static ip_address=192.168.7.20/24\\n|true",
                "network-config|version: 2\\nethernets:\\n  eth0:\\n    addresses: [192.168.7.20/24]\\n|true",
                "network-config|version: 2\\nethernets:\\n  eth0:\\n    dhcp4: true\\n|false",
                "network-config|version: 2\\nethernets: [unclosed|false"
            })
    void anAddressFixedOnTheMediumNeedsNobodyToHandOneOut(String file, String text, boolean comes) throws IOException {
        String content = text.replace("\\n", "\n");
        DiskBuilder builder = disk("").start("ssh", "").start("userconf.txt", "keeper:$6$salt$hash\n");
        Path disk = (file.contains("/") ? builder.root(file, content) : builder.start(file, content)).build("card.img");
        Trace alone = start(disk, LINK_ONLY);
        assertThat(alone.reachable()).isEqualTo(comes);
        assertThat(texts(alone))
                .contains(
                        comes
                                ? "The network comes up with its fixed address, 192.168.7.20."
                                : "Nobody gives it an address: it goes on without one.");
        assertThat(start(disk, Bench.Network.USUAL).reachable()).isTrue();
        assertThat(start(disk, Bench.Network.NONE).reachable()).isFalse();
    }

    /** A root on a server is read the same way; its folder may hold anything. */
    @Test
    void theFolderOfAServerIsReadForItsAddressToo() throws IOException {
        Path root = folder.resolve("root");
        Files.createDirectories(root.resolve("etc/network"));
        Files.createDirectories(root.resolve("sbin"));
        Files.write(root.resolve("sbin/init"), new byte[] {0x7F, 'E', 'L', 'F', 2, 0});
        Files.writeString(
                root.resolve("etc/network/interfaces"),
                "iface eth0 inet static\n  address 10.0.0.9\n",
                StandardCharsets.UTF_8);
        assertThat(RootFacts.of(root).flatMap(MediumContents.RootFiles::address))
                .contains("10.0.0.9");
    }
}
