// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.rehearsal.Bench;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Sixty made-up observations: what somebody standing at the board sees, written down by hand for each fault and not taken from the rehearsal
 * (common practice, no source). One thing is told at first, the rest only where it is asked for.
 */
class DiagnosisTest {
    /** board; fault, with the port it befalls; what is told at first; what is there to be seen when asked. */
    private static final String OBSERVATIONS =
            """
            nvme ; root-moved nvme ; screen=kernel-waits ; light=busy-then-still plugged=all network=silent started=nvme
            nvme ; root-moved nvme ; light=busy-then-still ; screen=kernel-waits plugged=all network=silent started=nvme
            nvme ; kernel-line nvme ; screen=kernel-stops ; panic=no-root light=busy-then-still plugged=all network=silent started=nvme
            nvme ; root-broken nvme ; log=EXT4-fs error (device nvme0n1p2): bad superblock ; plugged=all started=nvme
            nvme ; fstab nvme ; screen=emergency ; light=busy-then-still plugged=all network=silent
            nvme ; fstab nvme ; log=Timed out waiting for device /dev/disk/by-uuid/1 ; plugged=all started=nvme
            nvme ; out nvme ; started=card ; plugged=nvme screen=login network=answers root=card
            nvme ; loose nvme ; started=card ; plugged=all screen=login network=answers root=card light=busy
            nvme ; loose nvme ; root=card ; plugged=all screen=login network=answers started=card light=busy
            nvme ; login-off nvme ; network=silent ; screen=login light=busy started=nvme root=nvme plugged=all
            nvme ; login-off nvme ; screen=login ; network=silent light=busy started=nvme root=nvme plugged=all
            nvme ; nothing ; screen=login ; network=answers started=nvme root=nvme plugged=all light=busy
            nvme ; nothing ; network=answers ; screen=login started=nvme root=nvme plugged=all light=busy
            nvme ; weak-supply ; light=flickers ; screen=nothing plugged=all network=silent
            nvme ; weak-supply ; screen=nothing ; light=flickers plugged=all network=silent
            nvme ; chip-dead ; screen=nothing ; light=still plugged=all network=silent
            nvme ; chip-dead ; light=still ; screen=nothing plugged=all network=silent
            nvme ; recovery-card card ; screen=green ; light=steady-blink plugged=all
            nvme ; recovery-card card ; light=steady-blink ; screen=green plugged=all
            nvme ; twin nvme ; started=nvme ; root=card screen=login network=answers plugged=all light=busy
            card ; loose card ; screen=start-screen ; light=again plugged=all says=not-seen network=silent started=none
            card ; loose card ; light=again ; screen=start-screen plugged=all says=not-seen network=silent started=none
            card ; out card ; screen=start-screen ; plugged=card light=again says=not-seen started=none
            card ; out card ; light=again ; plugged=card screen=start-screen says=not-seen started=none
            card ; blank card ; screen=start-screen ; plugged=all light=again says=no-table started=none
            card ; blank card ; log=** No partition table - mmc 0 ** ; plugged=all light=again says=no-table
            card ; no-start-files card ; screen=start-screen ; plugged=all light=again says=no-files started=none
            card ; no-start-files card ; light=again ; plugged=all screen=start-screen says=no-files started=none
            card ; other-board card ; screen=start-screen ; plugged=all light=again says=other-board started=none
            card ; other-board card ; light=again ; plugged=all screen=start-screen says=other-board started=none
            card ; kernel-line card ; log=VFS: Cannot open root device "" or unknown-block(0,0): error -6 ; started=card
            card ; kernel-line card ; screen=kernel-stops ; panic=no-root light=busy-then-still started=card plugged=all
            card ; root-moved card ; log=Waiting for root device PARTUUID=0badcafe-02... ; started=card plugged=all
            card ; root-moved card ; screen=kernel-waits ; started=card plugged=all light=busy-then-still
            card ; root-broken card ; log=Kernel panic - not syncing: No working init found. ; started=card plugged=all
            card ; fstab card ; screen=emergency ; started=card plugged=all light=busy-then-still
            card ; fstab card ; log=You are in emergency mode. After logging in, type ; plugged=all
            card ; settings card ; screen=start-screen ; light=busy-then-still says=no-files plugged=all started=card
            card ; settings card ; light=busy-then-still ; screen=start-screen says=no-files plugged=all started=card
            card ; login-off card ; network=silent ; screen=login plugged=all light=busy started=card root=card
            card ; login-off card ; root=card ; network=silent screen=login plugged=all light=busy started=card
            card ; weak-supply ; light=flickers ; screen=nothing plugged=all
            card ; weak-supply ; log=Under-voltage detected! ; light=flickers screen=nothing plugged=all
            card ; chip-dead ; light=still ; screen=nothing plugged=all
            card ; recovery-card card ; screen=green ; light=steady-blink plugged=all
            card ; nothing ; screen=login ; network=answers plugged=all light=busy started=card root=card
            net ; no-lease ; server=asks ; screen=start-screen light=again plugged=all started=none
            net ; no-lease ; log=BOOTP broadcast 17 ; server=asks light=again plugged=all
            net ; no-directory ; server=no-directory ; screen=start-screen light=again plugged=all started=none
            net ; no-directory ; screen=start-screen ; server=no-directory light=again plugged=all started=none
            net ; no-export ; screen=kernel-waits ; server=no-export light=busy-then-still started=network
            net ; no-export ; log=mount.nfs: access denied by server while mounting ; server=no-export
            net ; cable ; server=silent ; screen=start-screen light=again plugged=all started=none network=silent
            net ; cable ; light=again ; server=silent screen=start-screen plugged=all started=none
            net ; nothing ; server=served ; screen=login network=answers light=busy started=network root=network
            emmc ; kernel-line emmc ; screen=kernel-stops ; panic=no-root light=busy-then-still started=emmc plugged=all
            emmc ; root-moved emmc ; log=VFS: Cannot open root device "PARTUUID=0badcafe-02" or unknown-block(0,0): error -6 ; started=emmc
            emmc ; no-start-files emmc ; log=** File not found /kernel-32.img ** ; plugged=all says=no-files
            emmc ; fstab emmc ; screen=emergency ; light=busy-then-still started=emmc
            emmc ; login-off emmc ; network=silent ; screen=login light=busy started=emmc root=emmc plugged=all
            """;

    @TempDir
    private Path folder;

    @Test
    void theTrueFaultComesFirst() throws IOException {
        Map<String, Bench> benches =
                Map.of("nvme", withNvme(), "card", withCard(), "net", overNetwork(), "emmc", withEmmc());
        List<String> first = new ArrayList<>();
        List<String> later = new ArrayList<>();
        List<String> lines = OBSERVATIONS.lines().toList();
        assertThat(lines).hasSize(60);
        for (String line : lines) {
            String[] parts = line.split(" ; ");
            Bench bench = benches.get(parts[0].strip());
            Map<Sign, String> seen = signs(parts[3]);
            Diagnosis.Seen told = parts[2].startsWith("log=")
                    ? BootLog.read(parts[2].substring(4), bench)
                    : new Diagnosis.Seen(signs(parts[2]), Set.of());
            assertThat(told).as(line).isNotEqualTo(Diagnosis.Seen.nothing());
            Set<Sign> asked = EnumSet.noneOf(Sign.class);
            Diagnosis diagnosis = Diagnosis.of(bench, told, asked);
            while (diagnosis.next().isPresent()) {
                Diagnosis.Question question = diagnosis.next().get();
                assertThat(asked.add(question.sign())).as("asked twice").isTrue();
                String answer = seen.get(question.sign());
                told = answer == null ? told : told.with(question.sign(), answer);
                diagnosis = Diagnosis.of(bench, told, asked);
            }
            assertThat(asked).as(line).hasSizeLessThanOrEqualTo(Diagnosis.MOST_QUESTIONS);
            int rank = rank(diagnosis, parts[1].strip());
            String found = line + "\n   asked " + asked + ", rank " + rank + ": "
                    + diagnosis.ranked().subList(0, 3).stream()
                            .map(each -> each.suspect().kind().code() + " " + Math.round(each.share() * 100))
                            .toList();
            (rank == 0 ? first : later).add(found);
            assertThat(rank).as(found).isBetween(0, 2);
        }
        System.out.println(first.size() + " of 60 true faults named first, all among the first three");
        assertThat(first.size()).as(String.join("\n", later)).isGreaterThanOrEqualTo(48);
    }

    private static int rank(Diagnosis diagnosis, String truth) {
        for (int i = 0; i < diagnosis.ranked().size(); i++) {
            Suspect suspect = diagnosis.ranked().get(i).suspect();
            String is = suspect.kind().code()
                    + suspect.port().map(port -> " " + port).orElse("");
            if (is.equals(truth)) {
                return i;
            }
        }
        return -1;
    }

    private static Map<Sign, String> signs(String text) {
        Map<Sign, String> signs = new LinkedHashMap<>();
        for (String each : text.strip().split(" ")) {
            String[] pair = each.split("=");
            signs.put(Sign.valueOf(pair[0].toUpperCase(java.util.Locale.ROOT)), pair[1]);
        }
        return signs;
    }

    private DiskBuilder disk(String id) {
        return new DiskBuilder(folder)
                .id(id)
                .start("ssh", "")
                .root("etc/passwd", "keeper:x:1000:1000::/home/keeper:/bin/sh\n")
                .root("etc/shadow", "keeper:$6$salt$" + "a".repeat(86) + ":20000:0:99999:7:::\n");
    }

    private Bench withNvme() throws IOException {
        return net(Benches.bench(
                "plover-5",
                "0xf16",
                Benches.attached(
                        "plover-5", "nvme", "ssd-nvme", disk("5eed0011").build("nvme.img")),
                Benches.attached(
                        "plover-5", "card", "card-quick", disk("5eed0012").build("card.img"))));
    }

    private Bench withCard() throws IOException {
        return net(Benches.bench(
                "plover-4",
                "0xf1",
                Benches.attached(
                        "plover-4", "card", "card-quick", disk("5eed0013").build("only.img"))));
    }

    private Bench withEmmc() throws IOException {
        Path emmc = disk("5eed0014")
                .start(
                        "extlinux/extlinux.conf",
                        "label a\n  kernel /kernel-32.img\n  append root=PARTUUID=5eed0014-02\n")
                .start("kernel-32.img", "kernel")
                .root("sbin/init", "\u007fELF\u0001")
                .build("emmc.img");
        return net(Benches.bench("curlew-e", "mmc1 mmc0 usb0", Benches.attached("curlew-e", "emmc", "emmc", emmc)));
    }

    private static Bench net(Bench bench) {
        return bench.withNetwork(Bench.Network.USUAL);
    }

    private Bench overNetwork() throws IOException {
        Path files = Files.createDirectories(folder.resolve("tftp/c4a81d07"));
        for (String name : List.of("start.elf", "kernel-64.img", "plover-4-b.dtb", "ssh")) {
            Files.writeString(files.resolve(name), "x");
        }
        Files.writeString(
                files.resolve("cmdline.txt"), "root=/dev/nfs nfsroot=10.0.0.1:/srv/one,vers=3 ip=dhcp rootwait\n");
        Path root = Files.createDirectories(folder.resolve("root/sbin")).getParent();
        Files.write(root.resolve("sbin/init"), new byte[] {0x7f, 'E', 'L', 'F', 2});
        Files.createDirectories(root.resolve("etc"));
        Files.writeString(root.resolve("etc/passwd"), "keeper:x:1000:1000::/home/keeper:/bin/sh\n");
        Files.writeString(root.resolve("etc/shadow"), "keeper:$6$salt$" + "a".repeat(86) + ":20000:0:99999:7:::\n");
        return Benches.bench("plover-4", "0xf2")
                .withNetwork(new Bench.Network(
                        true,
                        true,
                        false,
                        Optional.of(folder.resolve("tftp")),
                        List.of(new Bench.Export("/srv/one", Optional.of(root)))));
    }

    @Test
    void aLogIsReadAsItsProgramsSayIt() throws IOException {
        Bench bench = withNvme();
        assertThat(BootLog.read("/      /dev/mmcblk0p2 ext4   rw,relatime\n", bench)
                        .signs())
                .containsEntry(Sign.ROOT, "card");
        assertThat(BootLog.read("/dev/nvme0n1p2 on / type ext4 (rw,relatime)\n", bench)
                        .signs())
                .containsEntry(Sign.ROOT, "nvme");
        assertThat(BootLog.read(
                        "Under-voltage detected!\n[  OK  ] Reached target Multi-User System.\ntide login: ", bench))
                .satisfies(seen -> assertThat(seen.named()).isEmpty())
                .satisfies(seen -> assertThat(seen.signs()).containsEntry(Sign.SCREEN, "login"));
        assertThat(BootLog.read("nothing of the kind " + "x".repeat(3_000_000), bench))
                .isEqualTo(Diagnosis.Seen.nothing());
    }
}
