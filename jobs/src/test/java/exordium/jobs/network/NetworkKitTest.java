// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.network.BoardAsk;
import exordium.core.network.NetworkPlan;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A kit as a folder: what is in it, what a board more or less changes, what was tampered with. */
class NetworkKitTest {
    @TempDir
    static Path images;

    @TempDir
    Path folder;

    private Workbench workbench;
    private NetworkPlan plan;

    @BeforeAll
    static void make() throws IOException {
        Kits.images(images);
    }

    @BeforeEach
    void open() throws IOException {
        workbench = Kits.workbench(folder);
        plan = Kits.plan(images);
    }

    @AfterEach
    void close() {
        workbench.close();
    }

    private static Map<String, String> all(Path kit) throws IOException {
        Map<String, String> all = new TreeMap<>();
        try (Stream<Path> files = Files.walk(kit)) {
            for (Path each : files.filter(Files::isRegularFile).toList()) {
                all.put(
                        kit.relativize(each).toString(),
                        GeneralTools.run("sha256sum", each.toString()).substring(0, 64));
            }
        }
        return all;
    }

    @Test
    void eachBoardComesUpFromAPlayedServer() throws IOException {
        NetworkKit kit = Kits.kit(workbench, plan);
        NetworkTry.Report report = new NetworkTry(workbench, kit).played(Optional.empty(), Optional.empty());
        assertThat(report.boards()).hasSize(5).allMatch(NetworkTry.Seen::starts).allMatch(NetworkTry.Seen::agrees);
        assertThat(report.good()).isTrue();
        assertThat(report.boards()).extracting(each -> each.asked().reached()).containsOnly(BoardAsk.Reached.ROOT);
        assertThat(report.log())
                .anyMatch(line -> line.contains("sent /srv/boards/tftp/d90b6c02/start.elf to 192.168.40."));
    }

    @Test
    void filesAreWhatTheFamilyAsksFor() throws IOException {
        Path kit = Kits.kit(workbench, plan).folder();
        assertThat(kit.resolve("tftp/d90b6c02/cmdline.txt"))
                .hasContent("console=tty1 ip=::::film-loop:eth0:dhcp root=/dev/nfs"
                        + " nfsroot=192.168.40.2:/srv/boards/roots/film-loop,vers=3,proto=tcp rw");
        assertThat(kit.resolve("tftp/pxelinux.cfg/01-02-47-50-00-00-05"))
                .content()
                .contains("kernel /door-counter/kernel-32.img", "fdt /door-counter/curlew-e-b.dtb", "root=/dev/nfs");
        assertThat(kit.resolve("tftp/booth/loader/entries/dunlin.conf"))
                .content()
                .contains("title dunlin", "root=/dev/nfs");
        assertThat(kit.resolve("dnsmasq.d/booth.conf"))
                .content()
                .contains("dhcp-boot=tag:booth,booth/EFI/BOOT/BOOTAA64.EFI");
        String fstab = GeneralTools.run(
                "tar", "-xOf", kit.resolve("roots/film-loop.tar").toString(), "./etc/fstab");
        assertThat(fstab)
                .contains("# on its medium: PARTUUID=5eed0001-02 / ext4")
                .contains("192.168.40.2:/srv/boards/tftp/d90b6c02 /boot nfs");
        assertThat(fstab.lines().filter(line -> !line.startsWith("#"))).noneMatch(line -> line.startsWith("PARTUUID"));
        assertThat(GeneralTools.run(
                        "tar", "-xOf", kit.resolve("roots/film-loop.tar").toString(), "./etc/hostname"))
                .isEqualToIgnoringNewLines("film-loop");
        assertThat(GeneralTools.run(
                        "tar", "-tf", kit.resolve("roots/film-loop.tar").toString()))
                .doesNotContain("ssh_host_ed25519_key");
        // dnsmasq itself reads what was written for it.
        String config = Files.readString(kit.resolve("dnsmasq.conf")).replace("/srv/boards", kit.toString());
        Path here = folder.resolve("here.conf");
        Files.writeString(here, config);
        assertThat(GeneralTools.said("/usr/sbin/dnsmasq", "--test", "--conf-file=" + here))
                .contains("syntax check OK");
    }

    @Test
    void aSharedRootHoldsNothingOfOneBoard() throws IOException {
        Path kit = Kits.kit(workbench, plan).folder();
        String names = GeneralTools.run(
                "tar", "-tf", kit.resolve("roots/shared-memory-marsh.tar").toString());
        assertThat(names).doesNotContain("etc/hostname", "ssh_host_").contains("50-host-key.conf");
        assertThat(Files.readString(kit.resolve("tftp/c4a81d12/cmdline.txt")))
                .contains(" ro ", "systemd.hostname=tide-clock", "systemd.machine_id=");
        String state = GeneralTools.run(
                "tar", "-tf", kit.resolve("roots/shared-state-marsh.tar").toString());
        assertThat(state).contains("./etc/systemd/system/var.mount").doesNotContain("var/log");
        assertThat(GeneralTools.run(
                        "tar", "-xOf", kit.resolve("state/engine-sound.tar").toString(), "./log/words"))
                .isEqualTo("of the image");
    }

    @Test
    void oneBoardMoreOrLessChangesOnlyItsOwnFiles() throws IOException {
        NetworkKit kit = Kits.kit(workbench, plan);
        Map<String, String> before = all(kit.folder());
        NetworkPlan.Client more = Kits.plan(Kits.SERVER
                        + "clients:\n  - {id: eleventh, profile: plover-4, serial: abc, mac: \"02:47:50:00:00:77\", image: "
                        + images + "/marsh.img}\n")
                .clients()
                .get(0)
                .withAddress("192.168.40.77");
        kit.add(more, NetworkKit.Roots.TAR, TransferWatch.NONE);
        Map<String, String> with = all(kit.folder());
        assertThat(with).containsAllEntriesOf(before);
        with.keySet().removeAll(before.keySet());
        assertThat(with.keySet()).allMatch(path -> path.contains("eleventh") || path.startsWith("tftp/abc/"));
        assertThatThrownBy(() -> kit.add(more, NetworkKit.Roots.TAR, TransferWatch.NONE))
                .hasMessageContaining("already");

        kit.remove("eleventh");
        assertThat(all(kit.folder())).isEqualTo(before);
        assertThat(Files.exists(kit.folder().resolve("tftp/abc"))).isFalse();
        assertThatThrownBy(() -> kit.remove("eleventh"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("booth");
        // The last that shares a root takes it along.
        kit.remove("tide-clock");
        assertThat(Files.exists(kit.folder().resolve("roots/shared-memory-marsh.tar")))
                .isFalse();
    }

    @Test
    void nothingThatStandsIsMadeAgain() throws IOException {
        NetworkKit kit = Kits.kit(workbench, plan);
        NetworkKit.Done again = kit.bringTo(plan, NetworkKit.Roots.TAR, TransferWatch.NONE);
        assertThat(again.written()).isEmpty();
        assertThat(again.kept()).hasSize(5);
        Files.writeString(kit.folder().resolve("tftp/d90b6c02/config.txt"), "other");
        assertThat(kit.broken("film-loop"))
                .hasValueSatisfying(what -> assertThat(what).contains("config.txt"));
        assertThat(new NetworkTry(workbench, kit)
                        .played(Optional.empty(), Optional.empty())
                        .good())
                .isFalse();
        assertThat(kit.bringTo(plan, NetworkKit.Roots.TAR, TransferWatch.NONE).written())
                .containsExactly("film-loop");
        NetworkKit.Done less = kit.bringTo(plan.without("booth"), NetworkKit.Roots.TAR, TransferWatch.NONE);
        assertThat(less.removed()).containsExactly("booth");
        assertThat(Files.exists(kit.folder().resolve("tftp/booth"))).isFalse();
    }

    /** sha256sum(1) and openssl-pkeyutl(1) say the same of the lists. */
    @Test
    void listsAreCheckedByGeneralTools() throws IOException {
        Path kit = Kits.kit(workbench, plan).folder();
        for (String id : List.of("film-loop", "booth")) {
            assertThat(GeneralTools.run(kit, "sha256sum", "-c", "clients/" + id + ".sha256"))
                    .doesNotContain("FAILED");
            assertThat(GeneralTools.run(
                            kit,
                            "openssl",
                            "pkeyutl",
                            "-verify",
                            "-pubin",
                            "-inkey",
                            "kit.pub",
                            "-rawin",
                            "-in",
                            "clients/" + id + ".sha256",
                            "-sigfile",
                            "clients/" + id + ".sha256.sig"))
                    .contains("Verified Successfully");
        }
    }

    @Test
    void aPlanThatCannotWorkIsRefused() {
        assertThatThrownBy(() ->
                        Kits.kit(workbench, plan.with(plan.clients().get(0).withAddress("192.168.40.2"))))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("192.168.40.2");
        assertThat(NetworkKit.of(workbench).exists()).isFalse();
    }

    @Test
    void playedFaultsAreToldApart() throws IOException {
        NetworkKit kit = Kits.kit(workbench, plan);
        NetworkJob job = new NetworkJob(workbench, kit);
        Map<String, Cause> expected = Map.of(
                "no-lease", Cause.NETWORK_NO_LEASE,
                "no-files", Cause.NETWORK_NO_FILES,
                "wrong-folder", Cause.NETWORK_NO_DIRECTORY,
                "no-export", Cause.NETWORK_NO_EXPORT,
                "server-late", Cause.NETWORK_NO_LEASE);
        for (Map.Entry<String, Cause> each : expected.entrySet()) {
            job.play("none", Optional.empty());
            job.play(each.getKey(), Optional.empty());
            NetworkTry.Seen seen = new NetworkTry(workbench, kit)
                    .played(Optional.of("film-loop"), Optional.empty())
                    .boards()
                    .get(0);
            assertThat(seen.rehearsed().cause()).as(each.getKey()).isEqualTo(each.getValue());
        }
        job.play("none", Optional.empty());
        job.play("cable-out", Optional.of("booth"));
        NetworkTry.Report report = new NetworkTry(workbench, kit).played(Optional.empty(), Optional.empty());
        assertThat(report.boards())
                .filteredOn(each -> !each.starts())
                .extracting(NetworkTry.Seen::board)
                .containsExactly("booth");
        assertThat(job.playedFaults()).containsExactly("booth: its cable is out");
        assertThatThrownBy(() -> job.play("moonlight", Optional.empty())).hasMessageContaining("no-lease");
        assertThatThrownBy(() -> job.play("cable-out", Optional.empty())).hasMessageContaining("at which board");
    }

    /** The router gives the addresses; the kit only adds where the files are. */
    @Test
    void besideARouterTheSameBoardsComeUp() throws IOException {
        NetworkPlan beside = Kits.plan(
                Kits.SERVER + "  besideRouter: true\nclients:\n  - {id: screen, profile: plover-4, serial: abc,"
                        + " mac: \"02:47:50:00:00:77\", image: " + images + "/marsh.img}\n");
        NetworkKit kit = Kits.kit(workbench, beside);
        assertThat(new NetworkTry(workbench, kit)
                        .played(Optional.empty(), Optional.empty())
                        .good())
                .isTrue();
        assertThat(new NetworkTry(workbench, kit).real(Optional.empty()).why()).isPresent();
        Path here = folder.resolve("here.conf");
        Files.writeString(
                here,
                Files.readString(kit.folder().resolve("dnsmasq.conf"))
                        .replace("/srv/boards", kit.folder().toString()));
        assertThat(Files.readString(here)).contains(",proxy,");
        assertThat(GeneralTools.said("/usr/sbin/dnsmasq", "--test", "--conf-file=" + here))
                .contains("syntax check OK");
    }

    /** Where the image is another, boards and the root they share are made anew. */
    @Test
    void aSharedRootFollowsItsImage() throws IOException {
        Path own = Files.createDirectories(folder.resolve("own"));
        Kits.images(own);
        NetworkPlan shared = Kits.plan(own)
                .without("film-loop")
                .without("door-counter")
                .without("booth")
                .without("engine-sound");
        NetworkKit kit = Kits.kit(workbench, shared);
        Path tar = kit.folder().resolve("roots/shared-memory-marsh.tar");
        String before = GeneralTools.run("sha256sum", tar.toString());
        new exordium.core.testing.DiskBuilder(own).root("etc/other", "changed").build("marsh.img");
        Files.setLastModifiedTime(own.resolve("marsh.img"), java.nio.file.attribute.FileTime.fromMillis(1));
        assertThat(kit.bringTo(shared, NetworkKit.Roots.TAR, TransferWatch.NONE).written())
                .containsExactly("tide-clock");
        assertThat(GeneralTools.run("sha256sum", tar.toString())).isNotEqualTo(before);
        assertThat(GeneralTools.run("tar", "-tf", tar.toString())).contains("./etc/other");
    }
}
