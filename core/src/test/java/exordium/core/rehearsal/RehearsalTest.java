// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;
import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.storage.media.Supply;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Each cause is brought about on a real disk made with general tools, and must be the one that is named. */
class RehearsalTest {
    private static final String BOARD = "plover-5";

    @TempDir
    Path folder;

    private Path good;

    @BeforeEach
    void disk() throws IOException {
        good = new DiskBuilder(folder).id("7c41e0b2").build("good.img");
    }

    private Bench card(Path disk) throws IOException {
        return bench(BOARD, "0xf41", attached(BOARD, "card", "card-quick", disk));
    }

    private static Bench.Network network(boolean dhcp, Optional<Path> tftp, String... exports) {
        return new Bench.Network(
                true,
                dhcp,
                false,
                tftp,
                Stream.of(exports)
                        .map(path -> new Bench.Export(path, Optional.empty()))
                        .toList());
    }

    private static void halts(Bench bench, Cause cause) {
        Trace trace = Rehearsal.of(bench);
        assertThat(trace.cause()).isEqualTo(cause);
        assertThat(trace.runs()).isFalse();
        assertThat(trace.reachable()).isFalse();
        assertThat(trace.steps()).isNotEmpty();
    }

    @Test
    void aGoodCardRunsAndTheTraceSaysHow() throws IOException {
        Trace trace = Rehearsal.of(card(good));
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.RUNNING);
        assertThat(trace.startedFrom()).contains("card");
        assertThat(trace.rootFrom()).contains("card");
        assertThat(trace.steps())
                .extracting(Trace.Event::stage)
                .containsExactly(
                        Trace.Stage.POWER,
                        Trace.Stage.FIRMWARE,
                        Trace.Stage.SOURCE,
                        Trace.Stage.KERNEL,
                        Trace.Stage.ROOT,
                        Trace.Stage.SYSTEM,
                        Trace.Stage.SYSTEM,
                        Trace.Stage.SYSTEM);
        assertThat(trace.steps())
                .filteredOn(event -> event.stage() == Trace.Stage.SYSTEM)
                .extracting(Trace.Event::text)
                .containsExactly(
                        "Remote login is off.", "No network cable is in: it goes on without one.", "The system is up.");
        assertThat(trace.reachable()).isFalse();
        double end = trace.steps().stream().mapToDouble(Trace.Event::seconds).sum();
        assertThat(trace.seconds()).isBetween(end - 0.06, end + 0.06);
    }

    @Test
    void remoteLoginMakesItReachable() throws IOException {
        Path disk = withAccount().start("ssh", "").build("login.img");
        assertThat(Rehearsal.of(Benches.with(card(disk), Bench.Network.USUAL)).reachable())
                .isTrue();
        Path service = withAccount()
                .root("etc/systemd/system/multi-user.target.wants/ssh.service", "[Unit]\n")
                .build("service.img");
        assertThat(Rehearsal.of(Benches.with(card(service), Bench.Network.USUAL))
                        .reachable())
                .isTrue();
    }

    private DiskBuilder withAccount() {
        return new DiskBuilder(folder)
                .root("etc/passwd", "keeper:x:1000:1000::/home/keeper:/bin/sh\n")
                .root("etc/shadow", "keeper:$6$salt$hash:20000::::::\n");
    }

    @Test
    void theSameBenchGivesTheSameTrace() throws IOException {
        Bench bench = card(good);
        assertThat(Rehearsal.of(bench)).isEqualTo(Rehearsal.of(bench));
    }

    @Test
    void nvmeIsAboutTwoSecondsQuickerThanACard() throws IOException {
        // Common practice, no source: start-up only about 2 s sooner.
        double card = Rehearsal.of(bench(BOARD, "0xf1", attached(BOARD, "card", "card-quick", good)))
                .seconds();
        double nvme = Rehearsal.of(bench(BOARD, "0xf6", attached(BOARD, "nvme", "ssd-nvme", good)))
                .seconds();
        assertThat(card - nvme).isBetween(1.0, 3.0);
    }

    @Test
    void emptySourcesAreTriedInTheirOrderAndCostTime() throws IOException {
        Trace direct = Rehearsal.of(bench(BOARD, "0xf6", attached(BOARD, "nvme", "ssd-nvme", good)));
        Trace late = Rehearsal.of(bench(BOARD, "0xf641", attached(BOARD, "nvme", "ssd-nvme", good)));
        assertThat(late.startedFrom()).contains("nvme");
        assertThat(late.seconds() - direct.seconds()).isBetween(0.79, 0.81);
        assertThat(late.steps())
                .filteredOn(event -> event.stage() == Trace.Stage.SOURCE && event.result() == Trace.Result.PASSES_ON)
                .hasSize(2);
    }

    @Test
    void anOrderThatNeverReachesTheDriveLoops() throws IOException {
        Trace trace = Rehearsal.of(bench(BOARD, "0xf41", attached(BOARD, "nvme", "ssd-nvme", good)));
        assertThat(trace.outcome()).isEqualTo(Trace.Outcome.LOOPING);
        assertThat(trace.cause()).isEqualTo(Cause.NO_SOURCE_LEFT);
        assertThat(trace.findings().get(0).text()).contains("good.img on nvme");
        halts(bench(BOARD, "0x41"), Cause.NO_SOURCE_LEFT);
    }

    @Test
    void anOrderMaySayStop() throws IOException {
        halts(bench(BOARD, "0xe4", attached(BOARD, "card", "card-quick", good)), Cause.STOPPED_BY_ORDER);
    }

    @Test
    void aWeakSupplyStopsItAtOnce() throws IOException {
        Bench bench = card(good).withSupply(new Supply(5, 1, "adapter"));
        halts(bench, Cause.SUPPLY_TOO_WEAK);
        assertThat(Rehearsal.of(bench).steps()).hasSize(1);
    }

    @Test
    void aLooseCableAndAWrongKindOfDriveAreNamed() throws IOException {
        halts(bench(BOARD, "0xf6", Benches.unseated(attached(BOARD, "nvme", "ssd-nvme", good))), Cause.DRIVE_NOT_SEEN);
        halts(bench(BOARD, "0xf6", attached(BOARD, "nvme", "ssd-m2-sata", good)), Cause.DRIVE_WRONG_KIND);
    }

    @Test
    void aSilentCarrierNeedsProbing() throws IOException {
        Bench bench = bench(BOARD, "0xf6", Benches.silent(attached(BOARD, "nvme", "ssd-nvme", good)));
        halts(bench, Cause.PCIE_OFF);
        assertThat(Rehearsal.of(bench.withConfig(new FirmwareConfig("PCIE_PROBE=1")))
                        .runs())
                .isTrue();
    }

    @Test
    void oldFirmwareDoesNotStartFromNvme() throws IOException {
        Bench bench = bench(BOARD, "0xf6", attached(BOARD, "nvme", "ssd-nvme", good));
        halts(Benches.with(bench, LocalDate.parse("2025-01-15")), Cause.FIRMWARE_TOO_OLD);
        assertThat(Rehearsal.of(Benches.with(bench, LocalDate.parse("2025-03-10")))
                        .runs())
                .isTrue();
    }

    @Test
    void aFailingSourceIsPassedAndTheNextOneStarts() throws IOException {
        Path empty = folder.resolve("empty.img");
        DiskBuilder.blank(empty, DiskBuilder.MIB);
        Trace trace = Rehearsal.of(bench(
                BOARD,
                "0xf61",
                attached(BOARD, "card", "card-quick", empty),
                attached(BOARD, "nvme", "ssd-nvme", good)));
        assertThat(trace.startedFrom()).contains("nvme");
        assertThat(trace.cause()).isEqualTo(Cause.NONE);
        assertThat(trace.steps()).anyMatch(event -> event.result() == Trace.Result.FAILS);
    }

    @Test
    void whatIsMissingOnTheMediumIsNamed() throws IOException {
        Path empty = folder.resolve("empty.img");
        DiskBuilder.blank(empty, DiskBuilder.MIB);
        halts(card(empty), Cause.NO_PARTITION_TABLE);
        Path rootOnly = folder.resolve("rootonly.img");
        DiskBuilder.blank(rootOnly, 16 * DiskBuilder.MIB);
        GeneralTools.feed("label: dos\ntype=83\n", "sfdisk", "-q", rootOnly.toString());
        halts(card(rootOnly), Cause.NO_START_PARTITION);
        Path noLoader = new DiskBuilder(folder)
                .without("start.elf")
                .without("config.txt")
                .build("noloader.img");
        halts(card(noLoader), Cause.NO_START_FILES);
        Path otherBoard = new DiskBuilder(folder).without("plover-5-b.dtb").build("other.img");
        halts(card(otherBoard), Cause.KERNEL_FOR_OTHER_BOARD);
        Path noKernel = new DiskBuilder(folder)
                .without("kernel-64.img")
                .start("kernel-32.img", "k")
                .build("nokernel.img");
        halts(card(noKernel), Cause.KERNEL_FOR_OTHER_BOARD);
    }

    @Test
    void brokenSettingsAndKernelLinesAreNamed() throws IOException {
        halts(
                card(new DiskBuilder(folder).start("config.txt", "a=1\u0000\n").build("zero.img")),
                Cause.SETTINGS_BROKEN);
        halts(
                card(new DiskBuilder(folder)
                        .start("cmdline.txt", "console=tty1\nroot=PARTUUID=x\n")
                        .build("broken.img")),
                Cause.KERNEL_LINE_BROKEN);
        halts(
                card(new DiskBuilder(folder)
                        .start("cmdline.txt", "console=tty1\n")
                        .build("noroot.img")),
                Cause.KERNEL_LINE_BROKEN);
    }

    @Test
    void aRootNamedByAPlaceThatMovedIsNotFound() throws IOException {
        Path moved = new DiskBuilder(folder)
                .start("cmdline.txt", "root=/dev/mmcblk0p2 rootwait\n")
                .build("moved.img");
        assertThat(Rehearsal.of(card(moved)).runs()).isTrue();
        halts(bench(BOARD, "0xf6", attached(BOARD, "nvme", "ssd-nvme", moved)), Cause.ROOT_NOT_FOUND);
    }

    @Test
    void usbDrivesAreLetteredInTheOrderOfTheirPorts() throws IOException {
        Path second = new DiskBuilder(folder)
                .id("5eed0002")
                .start("cmdline.txt", "root=/dev/sdb2\n")
                .build("second.img");
        Trace trace = Rehearsal.of(bench(
                BOARD, "0xf4", attached(BOARD, "usb2", "stick", second), attached(BOARD, "usb1", "ssd-sata", good)));
        assertThat(trace.runs()).isTrue();
        assertThat(Rehearsal.of(bench(BOARD, "0xf4", attached(BOARD, "usb2", "stick", second)))
                        .cause())
                .isEqualTo(Cause.ROOT_NOT_FOUND);
    }

    @Test
    void twoCopiesOfOneMediumAreAmbiguous() throws IOException {
        Path clone = Files.copy(good, folder.resolve("clone.img"));
        Trace trace = Rehearsal.of(bench(
                BOARD,
                "0xf61",
                attached(BOARD, "card", "card-quick", good),
                attached(BOARD, "nvme", "ssd-nvme", clone)));
        assertThat(trace.cause()).isEqualTo(Cause.ROOT_AMBIGUOUS);
        assertThat(trace.findings().get(0).text()).contains("2 plugged-in drives");
    }

    @Test
    void aRootThatCannotBeReadOrIsTooWideIsNamed() throws IOException {
        halts(card(new DiskBuilder(folder).without("sbin/init").build("noinit.img")), Cause.ROOT_UNREADABLE);
        Path wide = new DiskBuilder(folder)
                .without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("plover-3-b.dtb", "t")
                .build("wide.img");
        halts(bench("plover-3", "1020000a", attached("plover-3", "card", "card-quick", wide)), Cause.ROOT_UNREADABLE);
    }

    @Test
    void anFstabThatNamesAMediumThatIsGoneStopsTheSystem() throws IOException {
        String gone = "PARTUUID=7c41e0b2-02 / ext4 defaults 0 1\nUUID=gone /data ext4 defaults 0 2\n";
        halts(
                card(new DiskBuilder(folder)
                        .id("7c41e0b2")
                        .root("etc/fstab", gone)
                        .build("fstab.img")),
                Cause.FSTAB_MISSING_DEVICE);
        String spared = gone.replace("/data ext4 defaults", "/data ext4 defaults,nofail");
        assertThat(Rehearsal.of(card(new DiskBuilder(folder)
                                .id("7c41e0b2")
                                .root("etc/fstab", spared)
                                .build("nofail.img")))
                        .runs())
                .isTrue();
        Path label = new DiskBuilder(folder)
                .root("etc/fstab", "LABEL=root / ext4 defaults 0 1\n# comment\nproc /proc proc defaults 0 0\n")
                .build("label.img");
        assertThat(Rehearsal.of(card(label)).runs()).isTrue();
    }

    @Test
    void aUsbDriveBehindAnUnsetFuseIsNamed() throws IOException {
        Path disk = new DiskBuilder(folder)
                .without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("plover-3-b.dtb", "t")
                .root("sbin/init", "\u007fELF\u0001")
                .build("usb.img");
        Bench.Attached usb = attached("plover-3", "usb1", "stick", disk);
        halts(bench("plover-3", "1020000a", usb), Cause.FUSE_NOT_SET);
        assertThat(Rehearsal.of(bench("plover-3", "3020000a", usb)).startedFrom())
                .contains("usb1");
    }

    @Test
    void pullingAMediumOutShowsWhatThen() throws IOException {
        Bench bench = bench(
                BOARD,
                "0xf61",
                attached(BOARD, "card", "card-quick", good),
                attached(
                        BOARD,
                        "nvme",
                        "ssd-nvme",
                        new DiskBuilder(folder).id("5eed0009").build("nvme.img")));
        assertThat(Rehearsal.of(bench).startedFrom()).contains("card");
        assertThat(Rehearsal.of(bench.without(Set.of("card"))).startedFrom()).contains("nvme");
        assertThat(Rehearsal.of(bench.without(Set.of("card", "nvme"))).cause()).isEqualTo(Cause.NO_SOURCE_LEFT);
    }

    @Test
    void aNetworkStartNeedsLinkLeaseDirectoryFilesAndExport() throws IOException {
        Bench bench = bench(BOARD, "0xf2");
        Path tftp = Files.createDirectories(folder.resolve("tftp"));
        halts(bench, Cause.NETWORK_NO_LINK);
        halts(Benches.with(bench, network(false, Optional.empty())), Cause.NETWORK_NO_LEASE);
        halts(Benches.with(bench, network(true, Optional.of(tftp))), Cause.NETWORK_NO_DIRECTORY);
        // The serial is 00000000c4a81d07; its directory lacks the leading zeros.
        Path directory = Files.createDirectories(tftp.resolve("c4a81d07"));
        halts(Benches.with(bench, network(true, Optional.of(tftp))), Cause.NETWORK_NO_FILES);
        for (String file : new String[] {"config.txt", "kernel-64.img", "plover-5-b.dtb"}) {
            Files.writeString(directory.resolve(file), "x");
        }
        Files.writeString(
                directory.resolve("cmdline.txt"), "root=/dev/nfs nfsroot=192.168.4.1:/srv/tide-clock,vers=4 rw\n");
        halts(Benches.with(bench, network(true, Optional.of(tftp), "/srv/other")), Cause.NETWORK_NO_EXPORT);
        Trace trace = Rehearsal.of(Benches.with(bench, network(true, Optional.of(tftp), "/srv/tide-clock")));
        assertThat(trace.runs()).isTrue();
        assertThat(trace.rootFrom()).contains("network");
    }

    @Test
    void menuFilesOfOtherFamiliesAreFollowed() throws IOException {
        Path tree = Files.createDirectories(folder.resolve("fat"));
        Files.writeString(tree.resolve("extlinux.conf"), "label a\n  append root=PARTUUID=5eed0001-02\n");
        Path disk = new DiskBuilder(folder)
                .without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("curlew-e-b.dtb", "t")
                .root("sbin/init", "\u007fELF\u0001")
                .build("curlew.img");
        String at = disk + "@@4194304";
        GeneralTools.run("mmd", "-i", at, "::extlinux");
        GeneralTools.run("mcopy", "-i", at, tree.resolve("extlinux.conf").toString(), "::extlinux/extlinux.conf");
        Bench bench = bench("curlew-e", "mmc1 mmc0", attached("curlew-e", "card", "card-quick", disk));
        assertThat(Rehearsal.of(bench).runs()).isTrue();
    }
}
