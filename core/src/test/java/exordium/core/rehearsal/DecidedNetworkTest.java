// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;
import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.rehearsal.contents.Cause;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Starts over the network, and who can be reached. */
class DecidedNetworkTest extends DecidedCases {
    private static final String PASSWD = "root:x:0:0::/root:/bin/sh\nkeeper:x:1000:1000::/home/keeper:/bin/sh\n";

    private static final String SHADOW = "root:*:20000::::::\nkeeper:$6$salt$hash:20000::::::\n";

    private static Bench.Network network(boolean link, boolean dhcp, Path tftp, Bench.Export... exports) {
        return new Bench.Network(link, dhcp, false, Optional.ofNullable(tftp), List.of(exports));
    }

    private Path tftp(String serial, String line, String board) throws IOException {
        Path tftp = Files.createDirectories(folder.resolve("tftp-" + board));
        Path files = Files.createDirectories(tftp.resolve(serial));
        for (String name : List.of("config.txt", "start.elf", "kernel-64.img", board + "-b.dtb")) {
            Files.writeString(files.resolve(name), "x");
        }
        Files.writeString(files.resolve("cmdline.txt"), line);
        return tftp;
    }

    // Network

    @Test
    void aRootOnTheServerNamedByACardNeedsLinkAddressAndExport() throws IOException {
        Path disk = disk().start("cmdline.txt", "root=/dev/nfs nfsroot=10.0.0.1:/srv/clock,vers=4 ip=dhcp\n")
                .build("nfs.img");
        Path fixed = disk().start(
                        "cmdline.txt",
                        "root=/dev/nfs nfsroot=10.0.0.1:/srv/clock ip=10.0.0.9:::255.255.255.0::eth0:off\n")
                .build("fixed.img");
        Path root = Files.createDirectories(folder.resolve("srv/clock/sbin")).getParent();
        Files.write(root.resolve("sbin/init"), new byte[] {0x7F, 'E', 'L', 'F', 2, 1});
        Bench.Export above = new Bench.Export("/srv", Optional.of(folder.resolve("srv")));
        assertThat(Rehearsal.of(Benches.with(card(disk), network(false, false, null)))
                        .cause())
                .isEqualTo(Cause.NETWORK_NO_LINK);
        assertThat(Rehearsal.of(Benches.with(card(disk), network(true, false, null, above)))
                        .cause())
                .isEqualTo(Cause.NETWORK_NO_LEASE);
        assertThat(Rehearsal.of(Benches.with(card(disk), network(true, true, null)))
                        .cause())
                .isEqualTo(Cause.NETWORK_NO_EXPORT);
        Trace found = Rehearsal.of(Benches.with(card(disk), network(true, true, null, above)));
        assertThat(found.runs()).isTrue();
        assertThat(found.startedFrom()).contains("card");
        assertThat(found.rootFrom()).contains("network");
        assertThat(Rehearsal.of(Benches.with(card(fixed), network(true, false, null, above)))
                        .runs())
                .isTrue();
        Bench.Export empty =
                new Bench.Export("/srv/clock", Optional.of(Files.createDirectories(folder.resolve("none"))));
        assertThat(Rehearsal.of(Benches.with(card(disk), network(true, true, null, empty)))
                        .cause())
                .isEqualTo(Cause.ROOT_UNREADABLE);
    }

    @Test
    void aServersRootThatStillMountsTheCardHalts() throws IOException {
        Path tftp = tftp("c4a81d07", "root=/dev/nfs nfsroot=10.0.0.1:/srv/clock\n", "plover-5");
        Path root = Files.createDirectories(folder.resolve("clock/sbin")).getParent();
        Files.write(root.resolve("sbin/init"), new byte[] {0x7F, 'E', 'L', 'F', 2, 1});
        Files.createDirectories(root.resolve("etc"));
        Files.writeString(root.resolve("etc/fstab"), "PARTUUID=7c41e0b2-01 /boot vfat defaults 0 2\n");
        Bench.Export export = new Bench.Export("/srv/clock", Optional.of(root));
        Bench bench = Benches.with(bench(BOARD, "0xf2"), network(true, true, tftp, export));
        assertThat(Rehearsal.of(bench).cause()).isEqualTo(Cause.FSTAB_MISSING_DEVICE);
    }

    @Test
    void aServersFilesMayBeAnotherFamilysOrStillNameTheCard() throws IOException {
        Path other = tftp("c4a81d07", "root=/dev/nfs nfsroot=10.0.0.1:/srv\n", "plover-4");
        assertThat(Rehearsal.of(Benches.with(bench(BOARD, "0xf2"), network(true, true, other)))
                        .cause())
                .isEqualTo(Cause.KERNEL_FOR_OTHER_BOARD);
        Path stale = tftp("c4a81d07", "root=PARTUUID=7c41e0b2-02\n", "plover-5");
        Trace gone = Rehearsal.of(Benches.with(bench(BOARD, "0xf2"), network(true, true, stale)));
        assertThat(gone.cause()).isEqualTo(Cause.ROOT_NOT_FOUND);
        assertThat(gone.startedFrom()).contains("network");
        Trace there = Rehearsal.of(Benches.with(
                bench(BOARD, "0xf2", attached(BOARD, "card", "card-quick", good)), network(true, true, stale)));
        assertThat(there.rootFrom()).contains("card");
    }

    @Test
    void networkInstallNeedsItsFirmwareAndTheServerBeyond() throws IOException {
        Bench.Network beyond = new Bench.Network(true, true, true, Optional.empty(), List.of());
        Bench bench = Benches.with(bench(BOARD, "0xf7"), beyond);
        Trace trace = Rehearsal.of(bench);
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.INSTALLING);
        assertThat(trace.startedFrom()).contains("install");
        assertThat(trace.cause()).isEqualTo(Cause.NONE);
        assertThat(Rehearsal.of(bench.withFirmware(LocalDate.parse("2025-06-01")))
                        .cause())
                .isEqualTo(Cause.FIRMWARE_TOO_OLD);
        assertThat(Rehearsal.of(Benches.with(bench, network(false, false, null)))
                        .cause())
                .isEqualTo(Cause.NETWORK_NO_LINK);
    }

    @Test
    void aMenuByTheHardwareAddressComesBeforeTheDefaultOne() throws IOException {
        Path tftp = Files.createDirectories(folder.resolve("pxe"));
        Path menus = Files.createDirectories(tftp.resolve("pxelinux.cfg"));
        Files.writeString(tftp.resolve("kernel-32.img"), "k");
        Files.writeString(tftp.resolve("curlew-e-b.dtb"), "t");
        String menu = "label a\n kernel /kernel-32.img\n fdt /curlew-e-b.dtb\n append root=/dev/nfs nfsroot=10.0.0.1:";
        Files.writeString(menus.resolve("default"), menu + "/srv/other\n");
        Files.writeString(menus.resolve("01-02-00-5e-10-00-07"), menu + "/srv/own\n");
        Bench bench = Benches.with(
                bench("curlew-e", "pxe"), network(true, true, tftp, new Bench.Export("/srv/own", Optional.empty())));
        assertThat(Rehearsal.of(bench).rootFrom()).contains("network");
    }

    // Reachable

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "good | true",
                "no-account | false",
                "locked | false",
                "barred | false",
                "no-shell | false",
                "key | true",
                "locked-key | false",
                "locked-key-pam | true",
                "user-file | true",
                "no-marker | false",
                "cloud | true"
            })
    void reachableNeedsALoginAnAccountAndANetwork(String kind, boolean reachable) throws IOException {
        DiskBuilder builder =
                disk().start("SSH", "x").root("etc/passwd", PASSWD).root("etc/shadow", SHADOW);
        switch (kind) {
            case "no-account" -> builder.without("etc/passwd").without("etc/shadow");
            case "locked" -> builder.root("etc/shadow", SHADOW.replace("$6$", "!$6$"));
            case "barred" -> builder.root("etc/ssh/sshd_config", "DenyUsers keeper\n");
            case "no-shell" -> builder.root("etc/passwd", PASSWD.replace("keeper:/bin/sh", "keeper:/usr/sbin/nologin"));
            case "key" ->
                builder.root("etc/shadow", SHADOW.replace("$6$salt$hash", "*"))
                        .root("home/keeper/.ssh/authorized_keys", "ssh-ed25519 AAAA keeper\n");
            // sshd_config(5), UsePAM: it looks at the account, which is not barred by a password that is locked.
            case "locked-key", "locked-key-pam" ->
                builder.root("etc/shadow", SHADOW.replace("$6$", "!$6$"))
                        .root("etc/ssh/sshd_config", kind.endsWith("pam") ? "UsePAM yes\n" : "# UsePAM yes\n")
                        .root("home/keeper/.ssh/authorized_keys", "ssh-ed25519 AAAA keeper\n");
            case "user-file" -> builder.without("etc/passwd").start("userconf.txt", "keeper:$6$salt$hash\n");
            case "no-marker" -> builder.without("SSH");
            case "cloud" ->
                builder.without("SSH")
                        .without("etc/passwd")
                        .start(
                                "user-data",
                                "#cloud-config\nusers:\n  - name: keeper\n    ssh_authorized_keys: [ssh-ed25519 AAAA]\n");
            default -> builder.sizes(40, 16);
        }
        Path disk = builder.build("login.img");
        Bench bench = Benches.with(card(disk), network(true, true, null));
        assertThat(Rehearsal.of(bench).reachable()).isEqualTo(reachable);
        assertThat(Rehearsal.of(Benches.with(bench, network(false, true, null))).reachable())
                .isFalse();
        assertThat(Rehearsal.of(Benches.with(bench, network(true, false, null))).reachable())
                .isFalse();
    }
}
