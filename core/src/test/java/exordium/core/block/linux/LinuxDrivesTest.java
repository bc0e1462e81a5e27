// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.MachineDrive;
import exordium.core.block.MachineDrives;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.PlayedMachine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A machine is played by a tree of files in the form sysfs and procfs have (Linux kernel, ABI/stable/sysfs-block). */
class LinuxDrivesTest {
    @TempDir
    Path root;

    private PlayedMachine machine;

    @BeforeEach
    void machine() throws IOException {
        machine = new PlayedMachine(root);
    }

    private void put(String path, String content) throws IOException {
        machine.put(path, content);
    }

    private void drive(String name, long sectors, boolean removable) throws IOException {
        put("sys/block/" + name + "/size", sectors + "\n");
        put("sys/block/" + name + "/ro", "0\n");
        put("sys/block/" + name + "/removable", removable ? "1\n" : "0\n");
        put("sys/block/" + name + "/queue/logical_block_size", "512\n");
        put("sys/block/" + name + "/device/model", "TIDEWELL CARD \n");
        Files.createDirectories(root.resolve("sys/block/" + name + "/holders"));
    }

    /** As sysfs has it: the drive's folder hangs deep below its USB device, and block/ only points there. */
    @Test
    void aUsbDriveHasTheSerialOfItsUsbDevice() throws IOException {
        String device = "sys/devices/pci0/usb1/1-1";
        put(device + "/serial", "BRK-1207\n");
        put(device + "/1-1:1.0/host0/target0/block/sdx/size", "2048\n");
        Files.createSymbolicLink(
                root.resolve("sys/block/sdx"), root.resolve(device + "/1-1:1.0/host0/target0/block/sdx"));
        assertThat(list().get(0).serial()).isEqualTo("BRK-1207");
        assertThat(list().get(0).bus()).isEqualTo("usb");
    }

    /** What udev keeps of a medium may be read by everybody; its identifiers are those of blkid(8). */
    /** Linux kernel documentation, mmc device attributes. */
    @Test
    void anEmmcsOwnWordsAreHandedOn() throws IOException {
        drive("mmcblk0", 8192, false);
        MachineDrive emmc = list().get(0);
        assertThat(machine.drives().ownWords(emmc)).isEmpty();
        put("sys/block/mmcblk0/device/life_time", "0x03 0x04\n");
        put("sys/block/mmcblk0/device/pre_eol_info", "0x01\n");
        assertThat(machine.drives().ownWords(emmc)).contains(new MachineDrives.OwnWords("0x03 0x04", "0x01"));
    }

    @Test
    void theIdentifierOfATableIsKnownWithoutOpeningTheDrive() throws IOException {
        drive("sdx", 2048, true);
        put("sys/block/sdx/dev", "8:368\n");
        assertThat(list().get(0).tableId()).isEmpty();
        put("run/udev/data/b8:368", "S:disk/by-id/x\nE:ID_PART_TABLE_TYPE=dos\nE:ID_PART_TABLE_UUID=7C41E0B2\n");
        assertThat(list().get(0).tableId()).contains("7c41e0b2");
    }

    private void partition(String drive, String name) throws IOException {
        put("sys/block/" + drive + "/" + name + "/partition", "1\n");
        Files.createDirectories(root.resolve("sys/block/" + drive + "/" + name + "/holders"));
    }

    private List<MachineDrive> list() throws IOException {
        return new LinuxDrives(root).list(Path.of("/home/somebody/exordium"));
    }

    private List<String> codes(String id) throws IOException {
        return list().stream()
                .filter(drive -> drive.id().equals(id))
                .flatMap(drive -> drive.refusals().stream())
                .map(Finding::code)
                .toList();
    }

    @Test
    void aFreeDriveIsListedWithItsFactsAndNotRefused() throws IOException {
        drive("sdx", 62_333_952, true);
        MachineDrive drive = list().get(0);
        assertThat(drive.size()).isEqualTo(ByteSize.of(31_914_983_424L));
        assertThat(drive.model()).isEqualTo("TIDEWELL CARD");
        assertThat(drive.removable()).isTrue();
        assertThat(drive.refusals()).isEmpty();
    }

    @Test
    void aFixedDriveIsShownLikeAnyOther() throws IOException {
        drive("sdy", 1000, false);
        assertThat(list()).extracting(MachineDrive::id).containsExactly("sdy");
        assertThat(codes("sdy")).isEmpty();
    }

    @Test
    void emptyReadersAreNoDrives() throws IOException {
        drive("sdz", 0, true);
        assertThat(list()).isEmpty();
    }

    @Test
    void theDriveOfTheRunningSystemIsRefused() throws IOException {
        drive("sda", 1000, false);
        partition("sda", "sda2");
        put("proc/self/mountinfo", "28 1 8:99 / / rw - ext4 /dev/sda2 rw\n");
        assertThat(codes("sda")).contains("target-holds-system");
    }

    /** Small boards mount their root as /dev/root, which names no drive: the device numbers do (proc(5), mountinfo). */
    @Test
    void aRootMountedUnderAnotherNameIsFoundByItsNumbers() throws IOException {
        drive("mmcblk0", 1000, false);
        partition("mmcblk0", "mmcblk0p2");
        put("sys/block/mmcblk0/mmcblk0p2/dev", "179:2\n");
        put("proc/self/mountinfo", "28 1 179:2 / / rw - ext4 /dev/root rw\n");
        assertThat(codes("mmcblk0")).contains("target-holds-system", "target-holds-workspace");
    }

    @Test
    void aMountPointWithASpaceIsNamedAsItIs() throws IOException {
        drive("sdb", 1000, true);
        put("proc/self/mountinfo", "30 28 8:16 / /media/my\\040card rw - vfat /dev/sdb rw\n");
        assertThat(list().get(0).refusals().get(0).text()).contains("/media/my card;");
    }

    @Test
    void aMountedPartitionRefusesTheWholeDrive() throws IOException {
        drive("sdb", 1000, true);
        partition("sdb", "sdb1");
        put("proc/self/mountinfo", "28 1 8:99 / /media/card rw - vfat /dev/sdb1 rw\n");
        assertThat(codes("sdb")).containsExactly("target-mounted");
        assertThat(list().get(0).refusals().get(0).text()).contains("/media/card");
    }

    @Test
    void swapHoldersReadOnlyAndTheWorkspaceAreRefused() throws IOException {
        drive("sdc", 1000, false);
        partition("sdc", "sdc1");
        put("proc/swaps", "Filename Type\n/dev/sdc1 partition\n");
        put("sys/block/sdc/sdc1/holders/dm-0", "");
        put("sys/block/sdc/ro", "1\n");
        put("proc/self/mountinfo", "28 1 8:99 / /home rw - ext4 /dev/sdc1 rw\n");
        assertThat(codes("sdc"))
                .contains(
                        "target-is-swap",
                        "target-held",
                        "target-read-only",
                        "target-holds-workspace",
                        "target-mounted");
    }

    @Test
    void aLoopDeviceWithoutAFileIsRefused() throws IOException {
        drive("loop5", 1000, false);
        assertThat(codes("loop5")).containsExactly("target-absent");
        put("sys/block/loop5/loop/backing_file", "/tmp/disk\n");
        assertThat(codes("loop5")).isEmpty();
        assertThat(list().get(0).bus()).isEqualTo("loop");
    }

    @Test
    void anotherSystemHasNoDrivesToList() throws IOException {
        assertThat(new LinuxDrives(root.resolve("nowhere")).list(root)).isEmpty();
    }

    /** Nobody knows what is mounted: then nothing may be written. */
    @Test
    void whereMountsCannotBeReadEveryDriveIsRefused() throws IOException {
        drive("sdq", 1000, true);
        assertThat(codes("sdq")).isEmpty();
        Files.delete(root.resolve("proc/self/mountinfo"));
        assertThat(codes("sdq")).containsExactly("target-not-told");
        put("proc/self/mountinfo", "");
        assertThat(codes("sdq")).containsExactly("target-not-told");
    }

    /** A file system of several drives names one of them in mountinfo; the others stand in sysfs (fs/btrfs). */
    @Test
    void everyDriveOfAMountedPoolIsRefused() throws IOException {
        drive("sdr", 1000, true);
        drive("sds", 1000, true);
        put("sys/fs/btrfs/5eed/devices/sdr/size", "1000\n");
        put("sys/fs/btrfs/5eed/devices/sds/size", "1000\n");
        put("proc/self/mountinfo", "30 28 0:40 / /data rw - btrfs /dev/sdr rw\n");
        assertThat(codes("sdr")).contains("target-mounted");
        assertThat(codes("sds")).containsExactly("target-in-use");
    }

    /** A root on a mapped volume on a partition: the drive at the bottom holds the running system. */
    @Test
    void theDriveUnderAStackOfDevicesHoldsTheSystem() throws IOException {
        drive("sdt", 1000, false);
        partition("sdt", "sdt2");
        put("sys/block/sdt/sdt2/holders/dm-0", "");
        put("sys/block/dm-0/dev", "253:0\n");
        put("sys/block/dm-0/size", "900\n");
        Files.createDirectories(root.resolve("sys/block/dm-0/holders"));
        put("proc/self/mountinfo", "28 1 253:0 / / rw - ext4 /dev/mapper/root rw\n");
        assertThat(codes("sdt")).contains("target-held", "target-holds-system");
    }

    /** A pool that names no drive: which are its own, nobody can tell here. */
    @Test
    void aPoolThatNamesNoDriveKeepsAllFromBeingWritten() throws IOException {
        drive("sdu", 1000, true);
        put("proc/self/mountinfo", "28 1 0:50 / / rw - zfs pool/root rw\n");
        assertThat(codes("sdu")).containsExactly("target-not-told");
    }

    /** Every card in one reader would have the reader's serial. */
    @Test
    void aReadersSerialIsNoneOfItsCards() throws IOException {
        String device = "sys/devices/pci0/usb1/1-2";
        put(device + "/serial", "READER-1\n");
        put(device + "/1-2:1.0/host0/target0/block/sdv/size", "2048\n");
        put(device + "/1-2:1.0/host0/target0/block/sdv/removable", "1\n");
        put(device + "/1-2:1.0/host0/target0/block/sdv/diskseq", "12\n");
        Files.createSymbolicLink(
                root.resolve("sys/block/sdv"), root.resolve(device + "/1-2:1.0/host0/target0/block/sdv"));
        MachineDrive first = list().get(0);
        assertThat(first.serial()).isEmpty();
        assertThat(first.isStill(list().get(0))).isTrue();
        // Another card is put in: the same reader, the same size, and still another medium.
        put(device + "/1-2:1.0/host0/target0/block/sdv/diskseq", "13\n");
        assertThat(first.isStill(list().get(0))).isFalse();
    }
}
