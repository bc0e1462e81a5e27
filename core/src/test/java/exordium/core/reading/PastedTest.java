// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Texts in the forms of their manual pages (lsblk(8), findmnt(8), mount(8), df(1), free(1), proc(5), os-release(5), ip-address(8), lsusb(8),
 * lspci(8), smartctl(8), ssh(1), systemd-analyze(1), sha256sum(1)), and what the tools of this machine print; figures are invented.
 */
class PastedTest {
    @TempDir
    Path folder;

    private static List<String> facts(String text) throws UnreadableInput {
        return Pasted.of(text.getBytes(StandardCharsets.UTF_8)).facts().stream()
                .map(each -> each.line() + " " + each.of().code() + " " + each.fact() + " "
                        + (each.value() instanceof Map<?, ?> fields
                                ? String.join(
                                        ",",
                                        fields.values().stream()
                                                .map(String::valueOf)
                                                .toList())
                                : each.value())
                        + each.name().map(name -> " " + name).orElse(""))
                .toList();
    }

    static Stream<Arguments> texts() {
        return Stream.of(
                Arguments.of(
                        """
                        NAME        MAJ:MIN RM   SIZE RO TYPE MOUNTPOINTS
                        loop0         7:0    0  63.2M  1 loop /snap/core
                        sda           8:0    0 223.6G  0 disk
                        mmcblk0     179:0    0  29.7G  0 disk
                        ├─mmcblk0p1 179:1    0   256M  0 part /boot
                        └─mmcblk0p2 179:2    0  29.5G  0 part /
                        """,
                        List.of(
                                "3 medium drive sda,240088671846,null,null sda",
                                "4 medium drive mmcblk0,31890132173,null,mmc mmcblk0",
                                "5 board mount /dev/mmcblk0p1,/boot,null,null",
                                "6 board mount /dev/mmcblk0p2,/,null,null",
                                "6 board rootDevice /dev/mmcblk0p2")),
                Arguments.of(
                        "NAME=\"sda\" SIZE=\"240057409536\" TYPE=\"disk\" MOUNTPOINT=\"\" MODEL=\"Kelpline 240\" TRAN=\"usb\"\n"
                                + "NAME=\"sda2\" SIZE=\"239000000000\" TYPE=\"part\" MOUNTPOINT=\"/\" MODEL=\"\" TRAN=\"\"\n",
                        List.of(
                                "1 medium drive sda,240057409536,Kelpline 240,usb sda",
                                "2 board mount /dev/sda2,/,null,null",
                                "2 board rootDevice /dev/sda2")),
                Arguments.of(
                        """
                        keeper@tide-clock:~$ df
                        Filesystem     1K-blocks    Used Available Use% Mounted on
                        udev              930000       0    930000   0% /dev
                        /dev/root       30000000 9000000  20000000  32% /
                        /dev/mmcblk0p1    258095   52000    206095  21% /boot
                        """,
                        List.of(
                                "4 board mount /dev/root,/,30720000000,9216000000",
                                "5 board mount /dev/mmcblk0p1,/boot,264289280,53248000")),
                Arguments.of(
                        """
                        [    0.000000] Machine model: Saltmarsh plover-4
                        [    0.000000] Kernel command line: console=ttyS0 root=PARTUUID=1c0c4a06-02 rootwait
                        [    0.100000] Memory: 1800000K/1966080K available (1024K kernel code)
                        [    3.500000] sd 0:0:0:0: [sda] 468862128 512-byte logical blocks: (240 GB/224 GiB)
                        [   12.000000] hwmon hwmon1: Undervoltage detected!
                        [   99.000000] EXT4-fs error (device mmcblk0p2): ext4_lookup:1855: inode #12: comm ls: deleted inode referenced: 13
                        """,
                        List.of(
                                "1 board model Saltmarsh plover-4",
                                "2 board kernelLine console=ttyS0 root=PARTUUID=1c0c4a06-02 rootwait",
                                "3 board memoryBytes 2013265920",
                                "4 medium drive sda,240057409536,null,null sda",
                                "5 board underVoltage true",
                                "6 medium fileSystemError EXT4-fs error (device mmcblk0p2): ext4_lookup:1855: inode #12: comm ls: deleted inode referenced: 13 mmcblk0p2")),
                Arguments.of(
                        """
                        BOOT_ORDER=0xf416
                        17:3020000a
                        CURRENT: Wed  2 Sep 10:00:00 UTC 2026 (1788343200)
                        current: 2026-09-02
                        LATEST: Tue Sep  2 10:00:00 UTC 2026 (1788343200)
                        RELEASE: default
                        serial: 10000000D90B6B9C
                        RAM: 2 GB
                        """,
                        List.of(
                                "1 board order 0xf416",
                                "2 board fuseRegister 3020000a",
                                "3 board firmwareDate 2026-09-02",
                                "5 board firmwareNewest 2026-09-02",
                                "6 board channel default",
                                "7 board serial 10000000d90b6b9c",
                                "8 board memoryBytes 2147483648")),
                Arguments.of(
                        """
                        Bus 002 Device 003: ID 0bda:9210 Some bridge
                        /:  Bus 02.Port 1: Dev 1, Class=root_hub, Driver=xhci_hcd/4p, 5000M
                            |__ Port 1: Dev 3, If 0, Class=Mass Storage, Driver=uas, 5000M
                        01:00.0 Non-Volatile memory controller: Some drive [1d79:2263] (rev 03)
                        \t\tLnkSta:\tSpeed 5GT/s, Width x1
                        """,
                        List.of(
                                "1 board usb 0bda:9210,Some bridge,null",
                                "2 board usb null,root_hub, xhci_hcd/4p,625000000",
                                "3 board usb null,Mass Storage, uas,625000000",
                                "4 board pcie 1d79:2263,Non-Volatile memory controller: Some drive [1d79:2263] (rev 03),625000000")),
                Arguments.of(
                        """
                        smartctl 7.3 2022-02-28 r5338 [aarch64-linux-6.1.0] (local build)
                        Model Number:                       Kelpline 256
                        Serial Number:                      KP256-0001
                        Percentage Used:                    7%
                        eMMC Life Time Estimation A [EXT_CSD_DEVICE_LIFE_TIME_EST_TYP_A]: 0x02
                        eMMC Life Time Estimation B [EXT_CSD_DEVICE_LIFE_TIME_EST_TYP_B]: 0x05
                        """,
                        List.of(
                                "2 medium model Kelpline 256",
                                "3 medium serial KP256-0001",
                                "4 medium lifeUsed 7",
                                "6 medium lifeUsed 50")),
                Arguments.of(
                        """
                        2: eth0: <BROADCAST,MULTICAST,UP,LOWER_UP> mtu 1500 qdisc mq state UP group default qlen 1000
                            link/ether 02:47:50:00:00:06 brd ff:ff:ff:ff:ff:ff
                            inet 192.168.4.20/24 brd 192.168.4.255 scope global eth0
                        ssh: connect to host 192.168.4.20 port 22: Connection refused
                        keeper@192.168.4.21: Permission denied (publickey,password).
                        ssh: Could not resolve hostname tide-clock.local: Name or service not known
                        Startup finished in 3.200s (kernel) + 1min 2.400s (userspace) = 1min 5.600s
                        PRETTY_NAME="Marshlinux 2026.10"
                        """,
                        List.of(
                                "2 board mac 02:47:50:00:00:06",
                                "3 board address 192.168.4.20",
                                "4 board loginFault refused",
                                "5 board loginFault denied",
                                "6 board loginFault no-such-name",
                                "7 board startSeconds 65.6",
                                "8 board systemVersion Marshlinux 2026.10")),
                Arguments.of(
                        """
                        [    0.000000] Linux version 6.1.0-18-amd64 (build@host) (gcc-12 12.2.0) #1 SMP
                        [    0.000000] Command line: BOOT_IMAGE=/boot/vmlinuz-6.1.0-18-amd64 root=UUID=aaaa ro quiet
                        """,
                        List.of("2 pc kernelLine BOOT_IMAGE=/boot/vmlinuz-6.1.0-18-amd64 root=UUID=aaaa ro quiet")));
    }

    @ParameterizedTest
    @MethodSource("texts")
    void allFactsAreFoundAndNoneInvented(String text, List<String> expected) throws UnreadableInput {
        assertThat(facts(text)).containsExactlyElementsOf(expected);
        // As a terminal paints it, and with the line ends of another system.
        assertThat(facts("\u001b[1;32m" + text.replace("\n", "\u001b[0m\r\n"))).containsExactlyElementsOf(expected);
    }

    static Stream<Arguments> corpus() throws IOException {
        String all;
        try (InputStream in = PastedTest.class.getResourceAsStream("/exordium/pasted/texts.txt")) {
            all = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        return Arrays.stream(all.split("(?m)^#### ")).skip(1).map(each -> {
            String[] halves = each.split("(?m)^---- facts\\R", 2);
            int name = halves[0].indexOf('\n');
            return Arguments.of(
                    halves[0].substring(0, name),
                    halves[0].substring(name + 1).replace("<ESC>", "\u001b"),
                    halves[1].lines().filter(line -> !line.isBlank()).toList());
        });
    }

    /** More than fifty texts of the tools people have on their screens. */
    @ParameterizedTest(name = "{0}")
    @MethodSource("corpus")
    void textsOfManyToolsAreKnown(String name, String text, List<String> expected) throws UnreadableInput {
        assertThat(facts(text)).as(name).containsExactlyElementsOf(expected);
    }

    /** The script that is run at a board, run here by a shell: what it prints between its marks is known, and it is portable. */
    @Test
    void whatTheScriptAsksIsUnderstood() throws Exception {
        Path script = Files.writeString(folder.resolve("ask.sh"), BoardScript.text());
        String printed = GeneralTools.said("sh", script.toString());
        assertThat(printed).contains(BoardScript.BEGIN, BoardScript.END);
        Pasted pasted = Pasted.of(printed.getBytes(StandardCharsets.UTF_8));
        assertThat(pasted.facts()).extracting(Fact::fact).contains("systemVersion", "memoryBytes");
        assertThat(pasted.unread())
                .noneMatch(each -> each.text().startsWith("== ") || each.text().startsWith("----"));
        assertThat(pasted.hosts()).isNotEmpty();
    }

    @Test
    void whatBelongsToNothingIsUnreadAndWhatIsNoTextIsRefused() throws UnreadableInput {
        Pasted rubbish = Pasted.of("lorem ipsum\n\n<html>\n".getBytes(StandardCharsets.UTF_8));
        assertThat(rubbish.facts()).isEmpty();
        assertThat(rubbish.kinds()).isEmpty();
        assertThat(rubbish.unread()).extracting(Pasted.Unread::line).containsExactly(1, 3);
        assertThatThrownBy(() -> Pasted.of(" \n".getBytes(StandardCharsets.UTF_8)))
                .isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> Pasted.of(new byte[] {0, 1, 2, 'a', 'b'})).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> Pasted.of(new byte[(8 << 20) + 1])).isInstanceOf(UnreadableInput.class);
    }

    /** What the tools of this machine print is told apart by content, whatever stands in it. */
    @Test
    void theToolsOfThisMachineAreKnown() throws Exception {
        for (List<String> tool : List.of(
                List.of("df", "drives mounts"),
                List.of("mount", "mounts"),
                List.of("lsblk", "drives"),
                List.of("cat /proc/meminfo", "board"),
                List.of("cat /etc/os-release", "board"),
                List.of("cat /proc/cpuinfo", "board"))) {
            String text = GeneralTools.run(tool.get(0).split(" "));
            Pasted pasted = Pasted.of(text.getBytes(StandardCharsets.UTF_8));
            assertThat(tool.get(1)).as(tool.get(0)).contains(pasted.kinds().get(0));
        }
    }

    /** Whatever is done to a text, it is read in time and without an error. */
    @Test
    void spoiledTextsHarmNothing() throws UnreadableInput {
        List<String> all = texts().map(each -> (String) each.get()[0]).toList();
        long seed = System.nanoTime();
        System.out.println("spoiled texts from seed " + seed);
        Random random = new Random(seed);
        for (int i = 0; i < Integer.getInteger("exordium.spoiled", 2000); i++) {
            StringBuilder text = new StringBuilder(all.get(random.nextInt(all.size())));
            for (int k = random.nextInt(12); k >= 0; k--) {
                int at = random.nextInt(text.length());
                switch (random.nextInt(4)) {
                    case 0 -> text.setCharAt(at, (char) (32 + random.nextInt(95)));
                    case 1 -> text.delete(at, Math.min(text.length() - 1, at + random.nextInt(40)));
                    case 2 -> text.insert(at, text.substring(at, Math.min(text.length(), at + random.nextInt(60))));
                    default -> text.insert(at, "\u001b[31m".substring(0, 1 + random.nextInt(5)));
                }
            }
            Pasted pasted = Pasted.of(text.toString().getBytes(StandardCharsets.UTF_8));
            assertThat(pasted.facts()).allMatch(each -> each.line() >= 1);
            // No board is named that does not stand there: nothing of one comes to another.
            String plain = String.join("\n", PlainLines.of(text.toString().getBytes(StandardCharsets.UTF_8)))
                    .toLowerCase(java.util.Locale.ROOT);
            assertThat(pasted.facts().stream().filter(each -> each.fact().equals("serial")))
                    .allMatch(
                            each -> plain.contains(String.valueOf(each.value()).toLowerCase(java.util.Locale.ROOT)));
        }
    }
}
