// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.network.BoardAsk;
import exordium.core.network.NetworkPlan;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Kits served by a real dnsmasq and a real NFS server in a network of their own, asked by real clients. */
class RealNetworkTest {
    @TempDir
    static Path images;

    @TempDir
    Path folder;

    private Workbench workbench;

    @BeforeAll
    static void make() throws IOException {
        Kits.images(images);
    }

    @BeforeEach
    void open() throws IOException {
        workbench = Kits.workbench(folder);
        Needs.here(RealServers.silent(Kits.plan(images).server()).isEmpty(), "no servers here");
    }

    @AfterEach
    void close() {
        workbench.close();
    }

    @Test
    void fiveBoardsOfThreeFamiliesGetWhatTheyAskFor() throws IOException {
        NetworkPlan plan = Kits.plan(images);
        NetworkKit kit = Kits.kit(workbench, plan);
        NetworkTry.Report report = new NetworkTry(workbench, kit).real(Optional.empty());
        assertThat(report.real()).isTrue();
        assertThat(report.boards()).hasSize(5).allSatisfy(seen -> {
            assertThat(seen.asked().cause())
                    .as(seen.board() + ": " + seen.asked().text())
                    .isEqualTo(Cause.NONE);
            assertThat(seen.agrees()).isTrue();
            assertThat(seen.asked().steps())
                    .anyMatch(step -> step.log().stream().anyMatch(line -> line.contains("DHCPACK")));
        });
        assertThat(new NetworkJob(workbench, kit).readLog(String.join("\n", report.log())))
                .allSatisfy(line -> {
                    assertThat(line.line().reached()).isEqualTo(BoardAsk.Reached.ROOT);
                    assertThat(line.cause()).isEqualTo(Cause.NONE);
                });
    }

    /** A kit of somebody else's: what would run, read or hand out something else is refused, and nothing of it happens. */
    @Test
    void aKitThatWouldDoMoreIsNotServed() throws IOException {
        NetworkPlan plan = Kits.plan(images);
        NetworkKit kit = Kits.kit(workbench, plan);
        Path mark = folder.resolve("ran");
        Path program = Files.writeString(folder.resolve("evil.sh"), "#!/bin/sh\ntouch " + mark + "\n");
        GeneralTools.run("chmod", "755", program.toString());
        Path other = Files.writeString(folder.resolve("other.conf"), "dhcp-script=" + program + "\n");
        Path dnsmasq = kit.folder().resolve("dnsmasq.conf");
        String good = Files.readString(dnsmasq);
        for (String line : List.of(
                "dhcp-script=" + program,
                "conf-file=" + other,
                "conf-script=" + program,
                "dhcp-luascript=" + program,
                "addn-hosts=/etc/hosts",
                "listen-address=0.0.0.0")) {
            Files.writeString(dnsmasq, good + line + "\n");
            refused(kit);
        }
        Files.writeString(dnsmasq, good);
        Path more = Files.createSymbolicLink(kit.folder().resolve("dnsmasq.d/more.conf"), other);
        refused(kit);
        Files.delete(more);
        Path way = Files.createSymbolicLink(kit.folder().resolve("tftp/way"), Path.of("/etc"));
        refused(kit);
        Files.delete(way);
        Path exports = Files.writeString(
                kit.folder().resolve("exports.d/more.exports"), "/srv/boards/roots/way 192.168.40.11(rw)\n");
        Path root = Files.createSymbolicLink(kit.folder().resolve("roots/way"), Path.of("/"));
        refused(kit);
        Files.delete(root);
        Files.delete(exports);
        assertThat(mark).doesNotExist();
        assertThat(new NetworkTry(workbench, kit).real(Optional.of("film-loop")).real())
                .isTrue();
    }

    private void refused(NetworkKit kit) throws IOException {
        NetworkTry attempt = new NetworkTry(workbench, kit);
        assertThatThrownBy(() -> attempt.real(Optional.empty())).isInstanceOf(Refused.class);
    }

    /** A try that was killed leaves a folder; the next one takes it away. */
    @Test
    void whatAKilledTryLeftIsSwept() throws IOException {
        Path room = Files.createDirectories(folder.resolve("room"));
        Path left = Files.createDirectories(room.resolve("exordium-work-4194305-x/roots"));
        Path others = Files.createDirectories(room.resolve("exordium-worktop"));
        try (Folders.Working first = Folders.Working.in(room);
                Folders.Working second = Folders.Working.in(room)) {
            assertThat(left.getParent()).doesNotExist();
            assertThat(others).exists();
            assertThat(first.path()).exists();
            assertThat(second.path()).exists();
        }
    }

    /** Every start file and, of the root, those that were not to change: as mtools and debugfs take them out of the image. */
    @Test
    void filesAreTheImagesAndStrangersGetNothing() throws IOException {
        NetworkPlan plan = Kits.plan(images);
        NetworkKit kit = Kits.kit(workbench, plan);
        try (RealServers servers = RealServers.start(kit.folder(), plan)) {
            assertThat(servers.lease("02:47:50:00:00:99")).isEmpty();
            assertThat(servers.lease("02:47:50:00:00:0a").map(BoardAsk.Lease::address))
                    .contains("192.168.40.11");
            String volume = images.resolve("marsh.img") + "@@" + (4 << 20);
            for (String name : List.of("config.txt", "start.elf", "kernel-64.img", "plover-5-b.dtb")) {
                assertThat(new String(servers.fetch("d90b6c02/" + name).orElseThrow(), StandardCharsets.ISO_8859_1))
                        .isEqualTo(GeneralTools.run("mcopy", "-n", "-i", volume, "::" + name, "-"));
            }
            assertThat(servers.fetch("deadbeef/start.elf")).isEmpty();
            assertThat(servers.fetch("../clients/booth.yaml")).isEmpty();
            Path root = images.resolve("root.ext4");
            GeneralTools.run(
                    "dd", "status=none", "bs=1M", "skip=44", "if=" + images.resolve("marsh.img"), "of=" + root);
            String mounted = "/srv/boards/roots/film-loop";
            assertThat(servers.mounts(mounted)).isTrue();
            for (String path : List.of("/var/log/words", "/etc/os-release", "/usr/sbin/sshd")) {
                assertThat(new String(servers.look(mounted, path).orElseThrow(), StandardCharsets.UTF_8))
                        .isEqualTo(GeneralTools.run("debugfs", "-R", "cat " + path, root.toString()));
            }
            assertThat(servers.look(mounted, "/etc/ssh/ssh_host_ed25519_key")).isEmpty();
            // Another board's root is not for it.
            assertThat(servers.mounts("/srv/boards/roots/booth")).isFalse();
        }
    }

    private interface Breaks {
        void in(Path kit, NetworkPlan.Client client) throws IOException;
    }

    private record Fault(String profile, Cause cause, Breaks breaks) {}

    private static Path start(Path kit, NetworkPlan.Client client, String name) {
        return kit.resolve("tftp/" + client.plainSerial()).resolve(name);
    }

    private static void change(Path file, String from, String to) throws IOException {
        String text = Files.readString(file);
        assertThat(text).contains(from);
        Files.writeString(file, text.replace(from, to));
    }

    /** Puts a tar down that holds what is left of a root. */
    private static void root(Path kit, NetworkPlan.Client client, String... commands) throws IOException {
        Path tar = kit.resolve("roots/" + client.id() + ".tar");
        Path unpacked = Files.createTempDirectory("root");
        GeneralTools.run("tar", "-C", unpacked.toString(), "-xpf", tar.toString());
        for (String command : commands) {
            GeneralTools.run(unpacked, "sh", "-c", command);
        }
        GeneralTools.run("tar", "-C", unpacked.toString(), "-cf", tar.toString(), ".");
        GeneralTools.run("rm", "-r", unpacked.toString());
    }

    private static Map<String, Fault> faults() {
        Map<String, Fault> all = new LinkedHashMap<>();
        String four = "plover-4";
        all.put(
                "other-mac",
                new Fault(
                        four,
                        Cause.NETWORK_NO_LEASE,
                        (kit, board) -> change(
                                kit.resolve("dnsmasq.d/" + board.id() + ".conf"),
                                board.plainMac(),
                                "02:00:00:00:00:01")));
        all.put(
                "no-lease",
                new Fault(
                        four,
                        Cause.NETWORK_NO_LEASE,
                        (kit, board) -> Files.delete(kit.resolve("dnsmasq.d/" + board.id() + ".conf"))));
        all.put(
                "zeros",
                new Fault(
                        four,
                        Cause.NETWORK_NO_DIRECTORY,
                        (kit, board) ->
                                Files.move(start(kit, board, ""), kit.resolve("tftp/0000" + board.plainSerial()))));
        all.put(
                "capitals",
                new Fault(
                        four,
                        Cause.NETWORK_NO_DIRECTORY,
                        (kit, board) -> Files.move(
                                start(kit, board, ""),
                                kit.resolve("tftp/" + board.plainSerial().toUpperCase(java.util.Locale.ROOT)))));
        all.put(
                "no-folder",
                new Fault(
                        four,
                        Cause.NETWORK_NO_DIRECTORY,
                        (kit, board) -> GeneralTools.run(
                                "rm", "-r", start(kit, board, "").toString())));
        all.put(
                "no-loader",
                new Fault(four, Cause.NETWORK_NO_FILES, (kit, board) -> Files.delete(start(kit, board, "start.elf"))));
        all.put(
                "no-kernel",
                new Fault(
                        four,
                        Cause.NETWORK_NO_FILES,
                        (kit, board) -> Files.delete(start(kit, board, "kernel-64.img"))));
        all.put(
                "other-kernel",
                new Fault(
                        "plover-5",
                        Cause.KERNEL_FOR_OTHER_BOARD,
                        (kit, board) ->
                                Files.move(start(kit, board, "kernel-64.img"), start(kit, board, "kernel-32.img"))));
        all.put("no-tree", new Fault(four, Cause.NETWORK_NO_FILES, (kit, board) -> {
            Files.delete(start(kit, board, "plover-4-b.dtb"));
            Files.delete(start(kit, board, "plover-5-b.dtb"));
        }));
        all.put(
                "no-line",
                new Fault(
                        four,
                        Cause.KERNEL_LINE_BROKEN,
                        (kit, board) -> Files.delete(start(kit, board, "cmdline.txt"))));
        all.put(
                "local-root",
                new Fault(
                        four,
                        Cause.ROOT_NOT_FOUND,
                        (kit, board) -> change(
                                start(kit, board, "cmdline.txt"), "root=/dev/nfs", "root=PARTUUID=5eed0001-02")));
        all.put(
                "no-nfsroot",
                new Fault(
                        four,
                        Cause.KERNEL_LINE_BROKEN,
                        (kit, board) -> change(start(kit, board, "cmdline.txt"), "nfsroot=", "nsfroot=")));
        all.put(
                "line-break",
                new Fault(
                        four,
                        Cause.KERNEL_LINE_BROKEN,
                        (kit, board) -> change(start(kit, board, "cmdline.txt"), " root=/dev/nfs", "\nroot=/dev/nfs")));
        all.put(
                "no-export",
                new Fault(
                        four,
                        Cause.NETWORK_NO_EXPORT,
                        (kit, board) -> Files.delete(kit.resolve("exports.d/" + board.id() + ".exports"))));
        all.put(
                "other-export",
                new Fault(
                        four,
                        Cause.NETWORK_NO_EXPORT,
                        (kit, board) -> change(
                                kit.resolve("exports.d/" + board.id() + ".exports"),
                                board.address().orElseThrow(),
                                "192.168.40.250")));
        all.put(
                "other-path",
                new Fault(
                        four,
                        Cause.NETWORK_NO_EXPORT,
                        (kit, board) -> change(start(kit, board, "cmdline.txt"), "/roots/", "/rots/")));
        all.put("empty-root", new Fault(four, Cause.ROOT_UNREADABLE, (kit, board) -> root(kit, board, "rm -r *")));
        all.put("no-init", new Fault(four, Cause.ROOT_UNREADABLE, (kit, board) -> root(kit, board, "rm sbin/init")));
        all.put(
                "mounts-card",
                new Fault(
                        four,
                        Cause.FSTAB_MISSING_DEVICE,
                        (kit, board) ->
                                root(kit, board, "echo '/dev/mmcblk0p1 /data ext4 defaults 0 2' >> etc/fstab")));
        all.put(
                "no-menu",
                new Fault(
                        "curlew-e",
                        Cause.NETWORK_NO_FILES,
                        (kit, board) -> Files.delete(kit.resolve(
                                "tftp/pxelinux.cfg/01-" + board.plainMac().replace(':', '-')))));
        all.put(
                "menu-kernel",
                new Fault(
                        "curlew-e",
                        Cause.NETWORK_NO_FILES,
                        (kit, board) -> Files.delete(kit.resolve("tftp/" + board.id() + "/kernel-32.img"))));
        all.put(
                "no-boot-file",
                new Fault(
                        "dunlin-u",
                        Cause.NETWORK_NO_FILES,
                        (kit, board) -> Files.delete(kit.resolve("tftp/" + board.id() + "/EFI/BOOT/BOOTAA64.EFI"))));
        return all;
    }

    /** Each broken in its own way: named alike by whoever asks for everything, by rehearsal, and from the server's log. */
    @Test
    void brokenKitsAreDiagnosed() throws IOException {
        Map<String, Fault> faults = faults();
        StringBuilder clients = new StringBuilder("clients:\n");
        int number = 1;
        for (Map.Entry<String, Fault> each : faults.entrySet()) {
            String profile = each.getValue().profile();
            String image = profile.startsWith("plover") ? "marsh" : profile.startsWith("curlew") ? "fenix" : "dunlin";
            clients.append(String.format(
                    "  - {id: %s, profile: %s, serial: \"0000c4a8%04x\", mac: \"02:47:50:00:01:%02x\", image: %s/%s.img}%n",
                    each.getKey(), profile, number + 0xab00, number++, images, image));
        }
        NetworkPlan plan = Kits.plan(Kits.SERVER + clients);
        NetworkKit kit = NetworkKit.of(workbench);
        kit.bringTo(plan, NetworkKit.Roots.TAR, TransferWatch.NONE);
        for (Map.Entry<String, Fault> each : faults.entrySet()) {
            each.getValue().breaks().in(kit.folder(), plan.client(each.getKey()).orElseThrow());
        }
        NetworkTry.Report report = new NetworkTry(workbench, kit).real(Optional.empty());
        Map<String, String> wrong = new LinkedHashMap<>();
        Map<String, NetworkJob.LogLine> read = new LinkedHashMap<>();
        new NetworkJob(workbench, kit)
                .readLog(String.join("\n", report.log()))
                .forEach(line -> read.put(line.line().board(), line));
        for (NetworkTry.Seen seen : report.boards()) {
            String said = seen.asked().cause() + " / " + seen.rehearsed().cause() + " / "
                    + read.get(seen.board()).cause();
            Cause cause = faults.get(seen.board()).cause();
            if (!said.equals(cause + " / " + cause + " / " + cause)) {
                wrong.put(
                        seen.board(),
                        said + " for " + cause + ": " + read.get(seen.board()).line());
            }
        }
        assertThat(report.boards()).hasSizeGreaterThanOrEqualTo(20);
        assertThat(wrong).isEmpty();
        assertThat(read.get("zeros").line().text()).contains("c4a8");
    }

    /** Nothing of this machine was changed by any of it. */
    @Test
    void nothingIsLeftBehind() throws IOException {
        NetworkPlan plan = Kits.plan(images);
        NetworkKit kit = Kits.kit(workbench, plan);
        String before = GeneralTools.run("ip", "-o", "link");
        RealServers.start(kit.folder(), plan).close();
        assertThat(GeneralTools.run("ip", "-o", "link")).isEqualTo(before);
        assertThat(Files.exists(Path.of("/srv/boards"))).isFalse();
        try (Stream<Path> mounted = Files.lines(Path.of("/proc/mounts")).map(Path::of)) {
            assertThat(mounted.map(Path::toString))
                    .noneMatch(line -> line.contains(kit.folder().toString()));
        }
    }
}
