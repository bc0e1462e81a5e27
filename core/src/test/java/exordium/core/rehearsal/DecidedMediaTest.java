// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;
import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Supply;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Settings, kernel line and mounts of a medium; power, carriers, tables and worn places. */
class DecidedMediaTest extends DecidedCases {
    private Path fatOf(Path disk) throws IOException {
        Path fat = folder.resolve("only.fat");
        GeneralTools.run("dd", "if=" + disk, "of=" + fat, "bs=1M", "skip=4", "count=40", "status=none");
        return fat;
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

    @Test
    void memoryOverTheRootAndRoomBehindItAreSaid() throws IOException {
        Path disk = disk().start("cmdline.txt", "root=PARTUUID=7c41e0b2-02 boot=overlay\n")
                .build("overlay.img");
        DiskBuilder.blank(disk, 4L << 30);
        Trace trace = Rehearsal.of(card(disk));
        assertThat(trace.runs()).isTrue();
        assertThat(trace.findings()).extracting(Finding::code).contains("start-overlay", "start-grows");
        assertThat(Rehearsal.of(card(good)).findings())
                .extracting(Finding::code)
                .doesNotContain("start-overlay", "start-grows");
    }
}
