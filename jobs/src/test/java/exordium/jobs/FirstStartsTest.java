// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.CarrierKind;
import exordium.core.block.linux.LinuxDrives;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.dialect.StartedBut;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Reach;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.firststart.ReachCheck;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** First starts set up on whole disks, looked at from behind with mtools, debugfs, fsck.fat and e2fsck. */
class FirstStartsTest extends WholeDisks {
    @Test
    void whatIsWantedStandsOnTheMediumAndNothingElseIsTouched() throws IOException {
        Path disk = disk("disk.img");
        Map<String, String> before = everyFile(disk);
        FirstStartPlan plan = job.apply(order(disk, everything()));
        sound(disk);
        assertThat(start(disk, "ssh")).isEmpty();
        assertThat(start(disk, "userconf.txt")).isEqualTo("keeper:*\n");
        assertThat(start(disk, "config.txt")).contains("disable_overscan=1");
        String id = plan.identifier().orElseThrow().text();
        assertThat(start(disk, "cmdline.txt"))
                .isEqualTo("console=tty1 cfg80211.ieee80211_regdom=PT root=PARTUUID=" + id + "-02 rootwait\n");
        assertThat(GeneralTools.run("sfdisk", "--disk-id", disk.toString()).strip())
                .isEqualTo("0x" + id);
        assertThat(root(disk, "cat /etc/fstab")).startsWith("PARTUUID=" + id + "-02 /");
        assertThat(root(disk, "cat /etc/hostname")).isEqualTo("tide-clock\n");
        assertThat(root(disk, "cat /etc/hosts")).isEqualTo("127.0.0.1\tlocalhost\n127.0.1.1\ttide-clock\n");
        assertThat(root(disk, "stat /etc/localtime")).contains("../usr/share/zoneinfo/Europe/Lisbon");
        assertThat(root(disk, "cat /etc/default/keyboard")).contains("XKBLAYOUT=\"de\"");
        assertThat(root(disk, "cat /etc/ssh/authorized_keys/keeper")).isEqualTo(KEY + "\n");
        assertThat(root(disk, "ls /etc/ssh")).doesNotContain("ssh_host_");
        assertThat(root(disk, "cat /etc/machine-id")).isEmpty();
        assertThat(root(disk, "cat /etc/systemd/system/ssh.service.d/50-host-keys.conf"))
                .contains("ssh-keygen -A");
        String connection = "/etc/NetworkManager/system-connections/first-start.nmconnection";
        assertThat(root(disk, "cat " + connection))
                .contains("ssid=IEEE\n")
                .contains("psk=f42c6fc52df0ebef9ebb4b90b38a5f902e83fe1b135a70e23aed762e9710a12e")
                .doesNotContain("=password");
        assertThat(root(disk, "stat " + connection)).contains("Mode:  0600");
        Set<String> changed = new HashSet<>();
        plan.edits().forEach(edit -> changed.add((edit.inRoot() ? "root" : "start/") + edit.file()));
        Map<String, String> after = everyFile(disk);
        before.forEach((file, content) -> {
            if (!changed.contains(file)) {
                assertThat(after).containsEntry(file, content);
            }
        });
        // Reached, and by whom: the rehearsal reads the same bytes.
        Reach reach = new ReachCheck(bench)
                .of(targets().at(disk, ByteSize.ZERO), bench.profiles().require("plover-4"), "");
        assertThat(reach.reachable()).as(reach.why()).isTrue();
        assertThat(reach.connect()).contains("ssh keeper@tide-clock.local");
        assertThat(reach.fingerprints()).isEmpty();
    }

    /** Taken back from the logbook: the very bytes of every file, and the disk's own identifier. */
    @Test
    void whatWasSetUpIsTakenBack() throws IOException {
        Path disk = disk("disk.img");
        Map<String, String> before = everyFile(disk);
        job.apply(order(disk, everything()));
        job.apply(order(disk, Map.of("hostName", "film-loop")));
        job.undo(order(disk, Map.of()));
        assertThat(root(disk, "cat /etc/hostname")).isEqualTo("tide-clock\n");
        job.undo(order(disk, Map.of()));
        sound(disk);
        assertThat(everyFile(disk)).isEqualTo(before);
        assertThat(GeneralTools.run("sfdisk", "--disk-id", disk.toString()).strip())
                .isEqualTo("0x5eed0001");
        assertThatThrownBy(() -> job.undo(order(disk, Map.of())))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("nothing set up");
    }

    @Test
    void whatWasChangedSinceIsNotTakenBack() throws IOException {
        Path disk = disk("disk.img");
        job.apply(order(disk, Map.of("fixedAddress", "169.254.20.7")));
        Path other =
                Files.writeString(folder.resolve("cmdline.txt"), "somebody else was here root=PARTUUID=5eed0001-02\n");
        GeneralTools.run("mcopy", "-o", "-i", disk + "@@" + FAT, other.toString(), "::cmdline.txt");
        byte[] now = Files.readAllBytes(disk);
        assertThatThrownBy(() -> job.undo(order(disk, Map.of()))).hasMessageContaining("cmdline.txt");
        assertThat(Files.readAllBytes(disk)).isEqualTo(now);
    }

    @Test
    void appliedAgainNothingIsDoubled() throws IOException {
        Path disk = disk("disk.img");
        Map<String, Object> wanted = new java.util.HashMap<>(everything());
        wanted.remove("ownIdentity");
        job.apply(order(disk, wanted));
        byte[] once = Files.readAllBytes(disk);
        assertThat(job.apply(order(disk, wanted)).edits()).isEmpty();
        assertThat(Files.readAllBytes(disk)).isEqualTo(once);
    }

    /** The last partition reaches to the end, the system's own tool takes the rest, and both are taken back. */
    @Test
    void aMediumIsFilledByTheSystemsOwnTool() throws IOException {
        Path disk = disk("disk.img");
        GeneralTools.run("truncate", "-s", "200M", disk.toString());
        String table = GeneralTools.run("sfdisk", "-d", disk.toString());
        assertThat(job.apply(order(disk, Map.of("grow", true))).grows()).isTrue();
        assertThat(root(disk, "cat /etc/fstab")).contains("defaults,x-systemd.growfs");
        assertThat(GeneralTools.run("sfdisk", "-d", disk.toString())).isNotEqualTo(table);
        assertThat(job.plan(order(disk, Map.of("grow", true))).nothing()).isTrue();
        job.undo(order(disk, Map.of()));
        assertThat(GeneralTools.run("sfdisk", "-d", disk.toString())).isEqualTo(table);
    }

    /** cloud-init documentation, NoCloud: three files; what stood in them stays. */
    @Test
    void aSystemThatTakesItsFirstStartFromTheCloudFilesGetsThose() throws IOException {
        Path disk = new DiskBuilder(folder)
                .start("user-data", "#cloud-config\npackages:\n- tmux\n")
                .start("meta-data", "instance-id: first\n")
                .build("cloud.img");
        job.apply(order(
                disk,
                Map.of(
                        "remoteLogin",
                        true,
                        "account",
                        Map.of("name", "keeper", "keys", List.of(KEY)),
                        "hostName",
                        "tide-clock",
                        "network",
                        Map.of("kind", "fixed", "address", "192.168.4.20/24", "gateway", "192.168.4.1"))));
        assertThat(start(disk, "user-data"))
                .startsWith("#cloud-config\n")
                .contains("tmux", "hostname: tide-clock", "ssh_pwauth: false", KEY);
        assertThat(start(disk, "network-config")).contains("192.168.4.20/24", "via: 192.168.4.1");
        assertThat(start(disk, "meta-data"))
                .contains("local-hostname: tide-clock")
                .doesNotContain("instance-id: first\n");
        Reach reach = new ReachCheck(bench)
                .of(targets().at(disk, ByteSize.ZERO), bench.profiles().require("plover-4"), "");
        assertThat(reach.reachable()).as(reach.why()).isTrue();
        assertThat(reach.address()).contains("192.168.4.20");
    }

    @Test
    void whatIsSeenIsExplainedByWhatStandsOnTheMedium() throws IOException {
        Path disk = new DiskBuilder(folder)
                .start("config.txt", "hdmi_ignore_hotplug=1\ndtoverlay=disable-wifi\noverscan_left=24\n")
                .start("cmdline.txt", "console=tty1 ip=169.254.0.9:::255.255.0.0::eth0:off root=PARTUUID=5eed0001-02\n")
                .start("ssh.txt", "")
                .root("etc/default/keyboard", "XKBLAYOUT=\"us\"\n")
                .build("odd.img");
        Map<StartedBut.Symptom, String> wanted = Map.of(
                StartedBut.Symptom.NO_PICTURE, "hdmi_ignore_hotplug",
                StartedBut.Symptom.BLACK_BORDERS, "overscan_left",
                StartedBut.Symptom.KEYS_SWAPPED, "us",
                StartedBut.Symptom.NO_NETWORK, "169.254.0.9",
                StartedBut.Symptom.WRONG_ADDRESS, "169.254.0.9",
                StartedBut.Symptom.LOGIN_REFUSED, "ssh.txt",
                StartedBut.Symptom.TIME_WRONG, "time zone");
        for (StartedBut.Symptom symptom : StartedBut.Symptom.values()) {
            List<StartedBut.Reason> reasons = StartedBut.of(
                    symptom,
                    job.found(
                            targets().at(disk, ByteSize.ZERO), bench.profiles().require("plover-4")),
                    bench.profiles().require("plover-4"));
            assertThat(reasons)
                    .as(symptom::title)
                    .anyMatch(each -> each.sure() && each.text().contains(wanted.get(symptom)));
            // What is offered as a mend can be carried out, and then no longer explains anything.
            for (StartedBut.Reason reason : reasons) {
                if (reason.mend().isPresent()) {
                    Intents mend = reason.mend().get();
                    FirstStartJob.Order order = new FirstStartJob.Order(
                            targets().at(disk, ByteSize.ZERO),
                            bench.profiles().require("plover-4"),
                            mend,
                            Optional.empty());
                    assertThat(job.plan(order).edits()).as(reason.text()).isNotEmpty();
                }
            }
        }
    }

    @Test
    void addressesOfOtherBoardsAreKnown() throws IOException {
        Neighboured house = new Neighboured(bench, folder);
        house.setUp("one", "192.168.4.20");
        assertThatThrownBy(() -> house.setUp("two", "192.168.4.20"))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("192.168.4.20");
        assertThat(house.plan("two", "192.168.4.20").findings().stream().map(Finding::code))
                .contains("address-clash", "name-clash");
        house.setUp("one", "192.168.4.20");
    }

    /** A GPT: the disk and each partition get another identifier, both tables stay whole for sgdisk, and all is taken back. */
    @Test
    void aMediumWithAGptIsNobodysTwinEither() throws IOException {
        Path mbr = disk("mbr.img");
        Path gpt = folder.resolve("gpt.img");
        GeneralTools.run("truncate", "-s", "64M", gpt.toString());
        GeneralTools.feed(
                "label: gpt\nstart=8192, size=81920, type=U\nstart=90112, size=32768, type=L\n",
                "sfdisk",
                "-q",
                gpt.toString());
        GeneralTools.run(
                "dd", "if=" + mbr, "of=" + gpt, "bs=1M", "skip=4", "seek=4", "count=56", "conv=notrunc", "status=none");
        String root =
                GeneralTools.run("sfdisk", "--part-uuid", gpt.toString(), "2").strip();
        Path line =
                Files.writeString(folder.resolve("cmdline.txt"), "console=tty1 root=PARTUUID=" + root + " rootwait\n");
        GeneralTools.run("mcopy", "-o", "-i", gpt + "@@" + FAT, line.toString(), "::cmdline.txt");
        String table = GeneralTools.run("sfdisk", "-d", gpt.toString());
        job.apply(order(gpt, Map.of("ownIdentity", true, "hostName", "tide-clock")));
        String now =
                GeneralTools.run("sfdisk", "--part-uuid", gpt.toString(), "2").strip();
        assertThat(now).isNotEqualTo(root);
        assertThat(start(gpt, "cmdline.txt")).containsIgnoringCase("root=PARTUUID=" + now + " ");
        assertThat(GeneralTools.run("sgdisk", "-v", gpt.toString())).contains("No problems found");
        String identifiers = "(label-id|uuid)[:=] ?[0-9A-F-]+";
        String after = GeneralTools.run("sfdisk", "-d", gpt.toString());
        assertThat(after).isNotEqualTo(table);
        assertThat(after.replaceAll(identifiers, "")).isEqualTo(table.replaceAll(identifiers, ""));
        job.undo(order(gpt, Map.of()));
        assertThat(GeneralTools.run("sfdisk", "-d", gpt.toString())).isEqualTo(table);
        assertThat(start(gpt, "cmdline.txt")).isEqualTo(Files.readString(line));
    }

    /** A board whose card was set up elsewhere, by the address its kernel line fixes. */
    @Test
    void addressesOnOtherBoardsMediaAreKnownToo() throws IOException {
        Path disk = new DiskBuilder(folder)
                .start(
                        "cmdline.txt",
                        "console=tty1 ip=192.168.4.33:::255.255.255.0::eth0:off root=PARTUUID=5eed0001-02\n")
                .build("elsewhere.img");
        ByteSize size = ByteSize.of(Files.size(disk));
        Path drive = bench.driveFile("elsewhere.img");
        VirtualDrive.create(bench.reader(), drive, DriveDescription.plain("elsewhere", "sd", size));
        Files.copy(disk, drive, StandardCopyOption.REPLACE_EXISTING);
        Media.Medium card = new Media.Medium(
                "elsewhere",
                "elsewhere",
                "card-quick",
                "",
                size,
                "elsewhere.img",
                Optional.empty(),
                ByteSize.ZERO,
                "drawer");
        bench.workspace().media().add(card);
        new BoardRegister(bench).add(BoardRegister.Description.of("Elsewhere", "plover-4", "4 GB"));
        new BoardJobs(bench, new BenchReader(bench))
                .plug(bench.board("elsewhere"), "card", card, CarrierKind.ANNOUNCING);
        Path own = new DiskBuilder(folder).build("own.img");
        assertThat(job.plan(order(own, Map.of("fixedAddress", "192.168.4.33"))).findings().stream()
                        .map(Finding::code))
                .contains("address-clash");
    }

    /** Two boards, each with a card of its own. */
    private record Neighboured(Workbench bench, Path folder) {
        private FirstStartJob.Order order(String board, String address) throws IOException {
            Path disk = folder.resolve(board + ".img");
            if (!Files.exists(disk)) {
                Files.copy(new DiskBuilder(folder).build("one-" + board + ".img"), disk);
                new BoardRegister(bench).add(BoardRegister.Description.of(board, "plover-4", "4 GB"));
            }
            return new FirstStartJob.Order(
                    new Targets(new ProfileReader(), new LinuxDrives(), bench.folder(), false).at(disk, ByteSize.ZERO),
                    bench.profiles().require("plover-4"),
                    IntentsReader.of(Map.of("fixedAddress", address, "hostName", "same")),
                    Optional.of(board));
        }

        void setUp(String board, String address) throws IOException {
            new FirstStartJob(bench).apply(order(board, address));
        }

        FirstStartPlan plan(String board, String address) throws IOException {
            return new FirstStartJob(bench).plan(order(board, address));
        }
    }
}
