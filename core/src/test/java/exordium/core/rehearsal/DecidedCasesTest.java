// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;
import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.storage.Supply;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Where the facts leave it open what a start comes to: each case as it was decided, on real disks made with general tools. */
class DecidedCasesTest {
    private static final String BOARD = "plover-5";
    private static final String PASSWD = "root:x:0:0::/root:/bin/sh\nkeeper:x:1000:1000::/home/keeper:/bin/sh\n";
    private static final String SHADOW = "root:*:20000::::::\nkeeper:$6$salt$hash:20000::::::\n";

    @TempDir
    Path folder;

    private Path good;

    @BeforeEach
    void goodDisk() throws IOException {
        good = disk().build("good.img");
    }

    private DiskBuilder disk() {
        return new DiskBuilder(folder).id("7c41e0b2");
    }

    private Bench card(Path disk) throws IOException {
        return bench(BOARD, "0xf41", attached(BOARD, "card", "card-quick", disk));
    }

    private Path blank(String name) throws IOException {
        Path file = folder.resolve(name);
        DiskBuilder.blank(file, 8 * DiskBuilder.MIB);
        return file;
    }

    private static Bench.Network network(boolean link, boolean dhcp, Path tftp, Bench.Export... exports) {
        return new Bench.Network(link, dhcp, false, Optional.ofNullable(tftp), List.of(exports));
    }

    private static List<String> codes(Trace trace) {
        return trace.findings().stream().map(Finding::code).toList();
    }

    // Which cause, when several sources failed

    @Test
    void theFaultNearestToStartingIsTheCauseWhateverWasTriedFirst() throws IOException {
        Path noFiles = disk().without("start.elf").without("config.txt").build("nofiles.img");
        Bench.Attached bare = attached(BOARD, "card", "card-quick", blank("blank.img"));
        Bench.Attached near = attached(BOARD, "usb1", "stick", noFiles);
        assertThat(Rehearsal.of(bench(BOARD, "0xf41", bare, near)).cause()).isEqualTo(Cause.NO_START_FILES);
        assertThat(Rehearsal.of(bench(BOARD, "0xf14", bare, near)).cause()).isEqualTo(Cause.NO_START_FILES);
    }

    @Test
    void aMediumWithAFaultOfItsOwnComesBeforeWhatTheOrderSays() throws IOException {
        Bench.Attached bare = attached(BOARD, "card", "card-quick", blank("blank.img"));
        assertThat(Rehearsal.of(bench(BOARD, "0xe1", bare)).cause()).isEqualTo(Cause.NO_PARTITION_TABLE);
        assertThat(Rehearsal.of(bench(BOARD, "0xe1")).cause()).isEqualTo(Cause.STOPPED_BY_ORDER);
        assertThat(Rehearsal.of(bench(BOARD, "0x1")).cause()).isEqualTo(Cause.NO_SOURCE_LEFT);
    }

    @Test
    void aMediumsFaultComesBeforeAFuseThatIsThenAFinding() throws IOException {
        Path usb = new DiskBuilder(folder)
                .without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("plover-3-b.dtb", "t")
                .build("usb.img");
        Trace trace = Rehearsal.of(bench(
                "plover-3",
                "1020000a",
                attached("plover-3", "card", "card-quick", blank("blank.img")),
                attached("plover-3", "usb1", "stick", usb)));
        assertThat(trace.cause()).isEqualTo(Cause.NO_PARTITION_TABLE);
        assertThat(codes(trace)).contains("start-fuse-not-set");
    }

    @Test
    void theClosingSentenceNamesCauseAndMend() throws IOException {
        Trace trace = Rehearsal.of(bench(BOARD, "0xf1", attached(BOARD, "card", "card-quick", blank("blank.img"))));
        assertThat(trace.findings().get(0).text())
                .contains("no partition table")
                .contains("Write an image");
    }

    // Order

    @ParameterizedTest
    @CsvSource({"0xF41", "rubbish", "f41", "''"})
    void anOrderThatCannotBeReadIsTheUsualOne(String value) throws IOException {
        Trace trace = Rehearsal.of(bench(BOARD, value, attached(BOARD, "card", "card-quick", good)));
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.RUNNING);
        assertThat(trace.findings()).noneMatch(Finding::stops);
    }

    @Test
    void aDigitOrANameNoPortHasIsPassedOver() throws IOException {
        assertThat(Rehearsal.of(bench(BOARD, "0xf1a", attached(BOARD, "card", "card-quick", good)))
                        .runs())
                .isTrue();
        assertThat(Rehearsal.of(bench("plover-4", "0xf16", attached("plover-4", "card", "card-quick", good)))
                        .runs())
                .isTrue();
    }

    // Firmware's place, recovery card

    @Test
    void aFamilyWithItsFirmwareOnTheCardDoesNothingWithoutIt() throws IOException {
        Trace trace = Rehearsal.of(bench("dunlin-u", "0003", attached("dunlin-u", "usb1", "stick", good)));
        assertThat(trace.cause()).isEqualTo(Cause.FIRMWARE_MISSING);
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.HALTED);
    }

    @Test
    void aRecoveryCardWritesTheChipWhateverTheOrderSays() throws IOException {
        Path recovery = disk().start("recovery.bin", "r").build("recovery.img");
        Trace trace = Rehearsal.of(bench(
                BOARD,
                "0xf6",
                attached(BOARD, "card", "card-quick", recovery),
                attached(BOARD, "nvme", "ssd-nvme", good)));
        assertThat(trace.cause()).isEqualTo(Cause.RECOVERY_WRITTEN);
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.HALTED);
        assertThat(trace.startedFrom()).contains("card");
    }

    // Settings and kernel line

    @ParameterizedTest
    @CsvSource({"crlf", "bom", "curly", "open", "twice"})
    void settingsThatAnEditorSpoiledStillRunWithTheLintersFindings(String kind) throws IOException {
        String content = java.util.Map.of(
                        "crlf", "enable_uart=1\r\n",
                        "bom", "\u00EF\u00BB\u00BFenable_uart=1\n",
                        "curly", "kernel=\u00E2\u0080\u009Cx\u00E2\u0080\u009D\n",
                        "open", "[all\nenable_uart=1\n",
                        "twice", "gpu_mem=16\ngpu_mem=32\n")
                .get(kind);
        Trace trace = Rehearsal.of(card(disk().start("config.txt", content).build(kind + ".img")));
        assertThat(trace.runs()).isTrue();
        assertThat(trace.findings()).isNotEmpty();
    }

    @ParameterizedTest
    @CsvSource({"zero", "wide"})
    void settingsThatAreNoTextAreBroken(String kind) throws IOException {
        String content = kind.equals("zero") ? "a=1\n\u0000\u0000" : "\u00FF\u00FEa\u0000=\u00001\u0000";
        Trace trace = Rehearsal.of(card(disk().start("config.txt", content).build(kind + ".img")));
        assertThat(trace.cause()).isEqualTo(Cause.SETTINGS_BROKEN);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "console=tty1~root=PARTUUID=7c41e0b2-02 | KERNEL_LINE_BROKEN",
                "'' | KERNEL_LINE_BROKEN",
                "console=tty1 | KERNEL_LINE_BROKEN",
                "root=/dev/nfs ip=dhcp | KERNEL_LINE_BROKEN",
                "root=/dev/nfs nfsroot=10.0.0.1:/srv/a | KERNEL_LINE_BROKEN",
                "root=PARTUUID=7c41e0b2-02~quiet splash | NONE",
                "root=PARTUUID=7c41e0b2-02 quiet~~ ~ | NONE",
                "root=PARTUUID=7c41e0b2-02^~ | ROOT_NOT_FOUND",
                "root=PARTUUID=7c41e0b2-02 quiet^~ | NONE",
                "root=PARTUUID=00000000-02 root=PARTUUID=7c41e0b2-02 | NONE",
                "root=PARTUUID=7C41E0B2-02 | NONE",
                "root=LABEL=root | ROOT_NOT_FOUND",
                "root=/dev/disk/by-partuuid/7c41e0b2-02 | ROOT_NOT_FOUND"
            })
    void theKernelLineIsReadAsTheKernelReadsIt(String line, Cause cause) throws IOException {
        String content = line.replace('~', '\n').replace('^', '\r');
        Path disk = disk().start("cmdline.txt", content).build("line.img");
        assertThat(Rehearsal.of(card(disk)).cause()).isEqualTo(cause);
    }

    @Test
    void aRootByItsLabelNeedsAnInitramfs() throws IOException {
        Path disk = disk().start("cmdline.txt", "root=LABEL=root\n")
                .start("config.txt", "initramfs initrd.img followkernel\n")
                .start("initrd.img", "i")
                .build("initramfs.img");
        assertThat(Rehearsal.of(card(disk)).runs()).isTrue();
    }

    @Test
    void aRootThatFailsIsTriedAgainWherePanicSaysSo() throws IOException {
        Path disk =
                disk().start("cmdline.txt", "root=PARTUUID=gone-02 panic=10\n").build("panic.img");
        assertThat(Rehearsal.of(card(disk)).outcome()).isEqualTo(Trace.Outcome.LOOPING);
    }

    // fstab

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "UUID=gone / ext4 defaults 0 1 | NONE",
                "/dev/sda9 none swap sw 0 0 | NONE",
                "server:/x /mnt nfs defaults 0 0 | NONE",
                "UUID=gone /data ext4 defaults 0 2 | FSTAB_MISSING_DEVICE",
                "UUID=gone /data ext4 nofail 0 2 | NONE",
                "LABEL=gone /data | FSTAB_MISSING_DEVICE",
                "/dev/disk/by-label/root /data ext4 defaults 0 2 | NONE",
                "/dev/disk/by-label/gone /data ext4 defaults 0 2 | FSTAB_MISSING_DEVICE"
            })
    void fstabHaltsOnlyForALocalMountThatIsGone(String line, Cause cause) throws IOException {
        Path disk = disk().root("etc/fstab", line + "\n").build("fstab.img");
        Trace trace = Rehearsal.of(card(disk));
        assertThat(trace.cause()).isEqualTo(cause);
        assertThat(trace.seconds() > 80).isEqualTo(line.contains("swap"));
    }

    // Power and carriers

    @Test
    void usbDrivesThatWantMoreThanThePortsGiveAreNotSeen() throws IOException {
        Bench bench = bench(BOARD, "0xf14", attached(BOARD, "usb1", "ssd-sata", good));
        assertThat(Rehearsal.of(bench).runs()).isTrue();
        Trace weak = Rehearsal.of(bench.withSupply(new Supply(5, 3, "adapter")));
        assertThat(weak.cause()).isEqualTo(Cause.SUPPLY_TOO_WEAK);
        assertThat(weak.outcome()).isEqualTo(Trace.Outcome.LOOPING);
        Bench both = bench(
                BOARD, "0xf14", attached(BOARD, "usb1", "ssd-sata", good), attached(BOARD, "card", "card-quick", good));
        Trace without = Rehearsal.of(both.withSupply(new Supply(5, 3, "adapter")));
        assertThat(without.startedFrom()).contains("card");
        assertThat(without.cause()).isEqualTo(Cause.NONE);
    }

    @Test
    void aPortThatIsSwitchedOffSeesNothing() throws IOException {
        Bench bench = bench(BOARD, "0xf6", attached(BOARD, "nvme", "ssd-nvme", good));
        assertThat(Rehearsal.of(bench.withConfig(new FirmwareConfig("PCIE=0"))).cause())
                .isEqualTo(Cause.PCIE_OFF);
    }

    @Test
    void aKernelStartedFromElsewhereSeesNvmeWithoutProbing() throws IOException {
        Path start = disk().id("5eed0003")
                .start("cmdline.txt", "root=PARTUUID=7c41e0b2-02\n")
                .build("start.img");
        Trace trace = Rehearsal.of(bench(
                BOARD,
                "0xf1",
                attached(BOARD, "card", "card-quick", start),
                Benches.silent(attached(BOARD, "nvme", "ssd-nvme", good))));
        assertThat(trace.rootFrom()).contains("nvme");
    }

    // Tables and worn places

    @Test
    void anEmptyTableIsATableAndAWholeFatStarts() throws IOException {
        Path empty = blank("empty.img");
        GeneralTools.feed("label: dos\n", "sfdisk", "-q", empty.toString());
        assertThat(Rehearsal.of(card(empty)).cause()).isEqualTo(Cause.NO_START_PARTITION);
        Path whole = folder.resolve("whole.img");
        DiskBuilder.blank(whole, 40 * DiskBuilder.MIB);
        DiskBuilder.place(fatOf(good), whole, 0);
        Trace trace = Rehearsal.of(bench(
                BOARD,
                "0xf1",
                attached(BOARD, "card", "card-quick", whole),
                attached(BOARD, "nvme", "ssd-nvme", good)));
        assertThat(trace.startedFrom()).contains("card");
        assertThat(trace.rootFrom()).contains("nvme");
    }

    private Path fatOf(Path disk) throws IOException {
        Path fat = folder.resolve("only.fat");
        GeneralTools.run("dd", "if=" + disk, "of=" + fat, "bs=1M", "skip=4", "count=40", "status=none");
        return fat;
    }

    @Test
    void aWornTableOrRootIsAVerdictAndNoError() throws IOException {
        try (var worn = new Worn(exordium.core.block.FileDevice.forReading(good), 0, 512)) {
            MediumContents contents =
                    ContentsReader.read(worn, Benches.profile(BOARD).startFiles());
            assertThat(cause(contents)).isEqualTo(Cause.NO_PARTITION_TABLE);
        }
        try (var worn = new Worn(exordium.core.block.FileDevice.forReading(good), 44L << 20, 16 << 20)) {
            MediumContents contents =
                    ContentsReader.read(worn, Benches.profile(BOARD).startFiles());
            assertThat(cause(contents)).isIn(Cause.ROOT_UNREADABLE, Cause.ROOT_NOT_FOUND);
        }
    }

    private Cause cause(MediumContents contents) {
        return Rehearsal.of(bench(
                        BOARD,
                        "0xf1",
                        new Bench.Attached("card", "worn", Benches.kind("card-quick"), false, true, contents)))
                .cause();
    }

    private static final class Worn extends exordium.core.block.DelegatingDevice {
        private final long from;
        private final int length;

        Worn(exordium.core.block.BlockDevice inner, long from, int length) {
            super(inner);
            this.from = from;
            this.length = length;
        }

        @Override
        public void read(long position, java.nio.ByteBuffer target) throws IOException {
            if (position < from + length && from < position + target.remaining()) {
                throw new exordium.core.block.MediumException(name(), position, "worn");
            }
            super.read(position, target);
        }
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

    private Path tftp(String serial, String line, String board) throws IOException {
        Path tftp = Files.createDirectories(folder.resolve("tftp-" + board));
        Path files = Files.createDirectories(tftp.resolve(serial));
        for (String name : List.of("config.txt", "start.elf", "kernel-64.img", board + "-b.dtb")) {
            Files.writeString(files.resolve(name), "x");
        }
        Files.writeString(files.resolve("cmdline.txt"), line);
        return tftp;
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

    // Menus

    @Test
    void theDefaultLabelOfAMenuIsTakenAndAnAbsentFilePassesItOver() throws IOException {
        String menu =
                "default b\nlabel a\n kernel /gone.img\n append root=PARTUUID=gone\nlabel b\n kernel /kernel-32.img\n"
                        + " fdt /curlew-e-b.dtb\n append root=PARTUUID=7c41e0b2-02\n";
        assertThat(Rehearsal.of(curlew(menu)).runs()).isTrue();
        assertThat(Rehearsal.of(curlew(menu.replace("default b", "default a"))).cause())
                .isEqualTo(Cause.NO_START_FILES);
        assertThat(Rehearsal.of(curlew(menu.replace("default b\n", ""))).cause())
                .isEqualTo(Cause.NO_START_FILES);
    }

    private Bench curlew(String menu) throws IOException {
        Path disk = disk().without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("curlew-e-b.dtb", "t")
                .root("sbin/init", "\u007fELF\u0001")
                .build("curlew.img");
        Path file = Files.writeString(folder.resolve("extlinux.conf"), menu);
        String at = disk + "@@4194304";
        GeneralTools.run("mmd", "-i", at, "::extlinux");
        GeneralTools.run("mcopy", "-i", at, file.toString(), "::extlinux/extlinux.conf");
        return bench("curlew-e", "mmc0", attached("curlew-e", "card", "card-quick", disk));
    }
}
