// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiPathNode;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.SeenDrive;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.CRC32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is made for the real peers, looked at with general tools; the peers themselves are asked in RealFirmwareTest. */
class PeersTest {
    @TempDir
    private Path folder;

    private Path disk(String name) throws IOException {
        return new DiskBuilder(folder)
                .id("5eed0041")
                .start(
                        "extlinux/extlinux.conf",
                        "label a\n  kernel /kernel-32.img\n  append root=PARTUUID=5eed0041-02\n")
                .start("kernel-32.img", "kernel")
                .build(name);
    }

    @Test
    void aCopyHoldsTheStandInAndTheDriveStaysAsItIs() throws IOException {
        Path disk = disk("drive.img");
        byte[] before = Files.readAllBytes(disk);
        Bench.Attached medium = Benches.attached("curlew-e", "card", "card-quick", disk);
        Path copy = folder.resolve("copy.img");
        try (BlockDevice drive = FileDevice.forReading(disk)) {
            DriveCopy.make(drive, medium.contents(), Map.of("kernel-32.img", StandInFiles.kernel("card")), copy);
        }
        assertThat(Files.readAllBytes(disk)).isEqualTo(before);
        assertThat(Files.size(copy)).isEqualTo(Files.size(disk));
        Path out = folder.resolve("out");
        GeneralTools.run("mcopy", "-i", copy + "@@4194304", "::kernel-32.img", out.toString());
        assertThat(Files.readAllBytes(out)).isEqualTo(StandInFiles.kernel("card"));
        GeneralTools.run("mcopy", "-i", copy + "@@4194304", "-o", "::extlinux/extlinux.conf", out.toString());
        assertThat(Files.readString(out)).contains("5eed0041");
        assertThat(GeneralTools.run("sfdisk", "-d", copy.toString())).contains("0x5eed0041");
    }

    /** U-Boot documentation, environment: a checksum over everything behind it. */
    @Test
    void theEnvironmentCarriesItsChecksum() {
        byte[] flash = UBoot.environment(List.of("usb0", "nvme0"));
        CRC32 sum = new CRC32();
        sum.update(flash, 4, 0x40000 - 4);
        assertThat(ByteBuffer.wrap(flash).order(ByteOrder.LITTLE_ENDIAN).getInt(0))
                .isEqualTo((int) sum.getValue());
        assertThat(new String(Arrays.copyOfRange(flash, 4, 300), java.nio.charset.StandardCharsets.US_ASCII))
                .contains("for t in usb0 nvme0;");
    }

    /** A firmware volume's header adds up to zero, sixteen bits at a time (UEFI PI specification 1.7, volume 3, 3.2.1). */
    @Test
    void theVariablesLieInAVolumeThatAddsUp() {
        byte[] flash = EfiStore.of(new EfiVariables(
                List.of(0x10), Map.of(0x10, EfiLoadOption.active("card", EfiPathNode.file("\\A.EFI")))));
        ByteBuffer in = ByteBuffer.wrap(flash).order(ByteOrder.LITTLE_ENDIAN);
        int sum = 0;
        for (int at = 0; at < 0x48; at += 2) {
            sum += Short.toUnsignedInt(in.getShort(at));
        }
        assertThat(sum & 0xffff).isZero();
        assertThat(in.getShort(0x64)).isEqualTo((short) 0x55aa);
    }

    @Test
    void whoHasNothingToSayTellsWhy() throws IOException {
        Path disk = new DiskBuilder(folder).build("plain.img");
        Bench bench = Benches.bench("plover-5", "0xf1", Benches.attached("plover-5", "card", "card-quick", disk));
        RealBench real = RealBench.of(bench, Map.of("card", RealFirmwareTest.drive(disk)), folder);
        assertThat(new UBoot().silent(real))
                .hasValueSatisfying(why -> assertThat(why).contains("plover-5"));
        assertThat(new Edk2().silent(real)).isPresent();
        RealBench empty = RealBench.of(Benches.bench("plover-5", "0xf1"), Map.of(), folder);
        assertThat(new LinuxKernel().silent(empty)).isPresent();
        assertThat(real.tried()).containsExactly("card");
    }

    @Test
    void drivesAreCalledAsTheKernelFindsThem() throws IOException {
        Path disk = disk("usb.img");
        Bench bench = Benches.bench(
                "plover-5",
                "0xf4",
                Benches.attached("plover-5", "usb2", "stick", disk),
                Benches.attached("plover-5", "usb1", "stick", disk),
                Benches.attached("plover-5", "nvme", "ssd-nvme", disk));
        assertThat(SeenDrive.of(bench))
                .extracting(drive -> drive.medium().port() + " " + drive.partition(2))
                .containsExactly("nvme /dev/nvme0n1p2", "usb1 /dev/sda2", "usb2 /dev/sdb2");
        assertThat(exordium.core.rehearsal.diagnosis.Sign.portOf("/dev/sdb2", bench))
                .isEqualTo(Optional.of("usb2"));
        assertThat(exordium.core.rehearsal.diagnosis.Sign.portOf("10.0.0.1:/srv/x", bench))
                .contains("network");
        assertThat(exordium.core.rehearsal.diagnosis.Sign.portOf("/dev/loop0", bench))
                .isEmpty();
    }

    @Test
    void theEmptyDeviceTreeIsWhole() throws IOException {
        Path tree = Files.write(folder.resolve("empty.dtb"), StandInFiles.tree());
        ByteBuffer in = ByteBuffer.wrap(Files.readAllBytes(tree));
        assertThat(in.getInt(0)).isEqualTo(0xd00dfeed);
        assertThat(in.getInt(4)).isEqualTo(in.capacity());
        assertThat(in.getInt(in.getInt(8))).as("begins a node").isEqualTo(1);
        assertThat(in.getInt(in.capacity() - 4)).as("ends").isEqualTo(9);
    }

    /** A device name means what is attached: the card is mmcblk0, and there is no sda. */
    @ParameterizedTest
    @CsvSource({
        "/dev/mmcblk0p2, mounted from card, 1",
        "/dev/sda2, not found, 1",
        "/dev/mmcblk0p2, mounted from card, 900"
    })
    void aRootByDeviceNameIsWhereTheKernelHasIt(String root, String comes, long gigabytes) throws IOException {
        Path disk = new DiskBuilder(folder)
                .start("cmdline.txt", "console=tty1 root=" + root + " rootfstype=ext4 rw rootwait\n")
                .build("named.img");
        DiskBuilder.blank(disk, gigabytes << 30);
        Bench bench = Benches.bench("plover-5", "0xf1", Benches.attached("plover-5", "card", "card-quick", disk));
        RealBench real = RealBench.of(bench, Map.of("card", RealFirmwareTest.drive(disk)), folder);
        LinuxKernel kernel = new LinuxKernel();
        Needs.here(kernel.silent(real).isEmpty(), "no linux.uml here");
        Compared compared = kernel.compare(real);
        assertThat(compared.points()).as(compared.log()).containsExactly(new Compared.Point("root", comes, comes));
    }
}
