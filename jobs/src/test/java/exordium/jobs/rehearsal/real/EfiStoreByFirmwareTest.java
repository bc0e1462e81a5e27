// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.StartSource;
import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiPathNode;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** EDK2 starts by an order that was changed in its store, and what it makes of the store is read again. */
class EfiStoreByFirmwareTest {
    @TempDir
    Path folder;

    private Path disk(String name) throws IOException {
        return new DiskBuilder(folder)
                .start("EFI/BOOT/BOOTAA64.EFI", new String(StandInFiles.program(name), StandardCharsets.ISO_8859_1))
                .build(name + ".img");
    }

    @Test
    void aChangedOrderIsWhatItDoes() throws IOException {
        Needs.here((Files.isReadable(Edk2.FIRMWARE) && Files.isExecutable(EmulatedBoard.PROGRAM)), "no EDK2 here");
        EmulatedBoard machine = new EmulatedBoard("qemu-xhci");
        EfiPathNode[] card = machine.way(StartSource.CARD);
        machine.drive(StartSource.CARD, disk("card"));
        EfiPathNode[] drive = machine.way(StartSource.NVME);
        machine.drive(StartSource.NVME, disk("drive"));
        byte[] store = EfiStore.of(new EfiVariables(
                List.of(0x10, 0x11),
                Map.of(0x10, EfiLoadOption.active("card", card), 0x11, EfiLoadOption.active("drive", drive))));
        Path flash = folder.resolve("variables.fd");
        Files.write(flash, EfiStore.withOrder(store, List.of(0x11, 0x10)));
        machine.flash(0, Edk2.FIRMWARE, true).flash(1, flash, false);
        String said =
                Console.of(machine.command(), folder.resolve("edk2.log"), Pattern.compile("EFIPAYLOAD \\S+"), 240);
        assertThat(said).contains("EFIPAYLOAD drive").doesNotContain("EFIPAYLOAD card");
        EfiVariables after = EfiStore.parse(Files.readAllBytes(flash));
        assertThat(after.entries()).containsKeys(0x10, 0x11);
        assertThat(after.order()).startsWith(0x11, 0x10);
    }
}
