// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.board.StartSource;
import exordium.core.bootorder.EfiPathNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A board that qemu plays; its drives are put where the firmware under it sees them: cards on virtio, what is soldered on and NVMe on NVMe. */
final class EmulatedBoard {
    static final Path PROGRAM = Path.of("/usr/bin/qemu-system-aarch64");
    private static final int USB_PLACE = 4;
    private static final int FIRST_PLACE = 8;
    private final List<String> words;
    private final String usbController;
    private int drives;
    private int usbDrives;

    /** @param usbController what the firmware has a driver for */
    EmulatedBoard(String usbController) {
        this.usbController = usbController;
        this.words = new ArrayList<>(List.of(
                PROGRAM.toString(),
                "-machine",
                "virt",
                "-cpu",
                "cortex-a57",
                "-m",
                "512",
                "-nographic",
                "-no-reboot",
                "-nic",
                "none"));
    }

    EmulatedBoard with(String... more) {
        words.addAll(List.of(more));
        return this;
    }

    /** Flash of the machine; the first holds the firmware, the second its variables. */
    EmulatedBoard flash(int unit, Path file, boolean readOnly) {
        return with(
                "-drive",
                "if=pflash,unit=" + unit + ",format=raw" + (readOnly ? ",readonly=on" : "") + ",file=" + file);
    }

    /** Each device has a place of its own on PCI; USB drives share that of their controller. */
    EmulatedBoard drive(StartSource source, Path file) {
        String id = "d" + drives;
        with("-drive", "if=none,id=" + id + ",format=raw,file=" + file);
        String place = ",addr=0x" + Integer.toHexString(FIRST_PLACE + drives++);
        return switch (source) {
            case CARD -> with("-device", "virtio-blk-pci,drive=" + id + place);
            case EMMC, NVME -> with("-device", "nvme,drive=" + id + ",serial=" + id + place);
            default -> {
                if (usbDrives++ == 0) {
                    with("-device", usbController + ",id=usb,addr=0x" + Integer.toHexString(USB_PLACE));
                }
                yield with("-device", "usb-storage,bus=usb.0,port=" + usbDrives + ",drive=" + id);
            }
        };
    }

    /** How UEFI gets to the next drive that is put in. */
    EfiPathNode[] way(StartSource source) {
        EfiPathNode place = EfiPathNode.pci(FIRST_PLACE + drives, 0);
        return switch (source) {
            case CARD -> new EfiPathNode[] {EfiPathNode.pciRoot(), place};
            case EMMC, NVME -> new EfiPathNode[] {EfiPathNode.pciRoot(), place, EfiPathNode.nvme(1)};
            default ->
                new EfiPathNode[] {EfiPathNode.pciRoot(), EfiPathNode.pci(USB_PLACE, 0), EfiPathNode.usb(usbDrives, 0)};
        };
    }

    List<String> command() {
        return List.copyOf(words);
    }
}
