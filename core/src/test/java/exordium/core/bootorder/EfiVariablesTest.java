// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.StartSource;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Entries of a UEFI start menu against the layout in the UEFI specification 2.10 (3.1.3, 3.3, 10.3). */
class EfiVariablesTest {
    /** Put together by hand from the specification's tables: active, "CARD", first partition of a GPT, its fallback file. */
    private static final String BY_HAND = "01000000" + "4800" + "4300410052004400" + "0000"
            + "0401" + "2a00" + "01000000" + "0008000000000000" + "00f0010000000000"
            + "28732ac11ff8d211ba4b00a0c93ec93b" + "02" + "02"
            + "0404" + "1a00" + "5c004500460049005c0042002e00450046004900" + "0000"
            + "7fff0400" + "beef";

    @TempDir
    private Path folder;

    @Test
    void anEntryIsLaidOutAsTheSpecificationSays() throws UnreadableInput {
        byte[] bytes = HexFormat.of().parseHex(BY_HAND);
        EfiLoadOption read = EfiLoadOption.parse(bytes);
        assertThat(read.isActive()).isTrue();
        assertThat(read.title()).isEqualTo("CARD");
        assertThat(read.path().get(0))
                .isEqualTo(EfiPathNode.partition(
                        1, 2048, 126_976, UUID.fromString("c12a7328-f81f-11d2-ba4b-00a0c93ec93b")));
        assertThat(read.said()).isEqualTo("partition 1, \\EFI\\B.EFI");
        assertThat(read.data()).containsExactly(0xbe, 0xef);
        assertThat(read.bytes()).isEqualTo(bytes);
        assertThat(EfiLoadOption.variable(0xab)).isEqualTo("Boot00AB");
    }

    @Test
    void whatAnEntryStartsFromIsTakenFromItsPath() {
        byte[] address = {2, 0, 0x5e, 0x10, 0, 7};
        assertThat(EfiLoadOption.active("lan", EfiPathNode.pci(3, 0), EfiPathNode.mac(address))
                        .source())
                .contains(StartSource.NETWORK);
        assertThat(EfiLoadOption.active("web", EfiPathNode.mac(address), new EfiPathNode(3, 24, new byte[0]))
                        .source())
                .contains(StartSource.NETWORK_INSTALL);
        assertThat(EfiLoadOption.active("sd", new EfiPathNode(3, 26, new byte[1]))
                        .source())
                .contains(StartSource.CARD);
        assertThat(EfiLoadOption.active("soldered", new EfiPathNode(3, 29, new byte[1]))
                        .source())
                .contains(StartSource.EMMC);
        assertThat(EfiLoadOption.active("fast", new EfiPathNode(3, 23, new byte[12]))
                        .source())
                .contains(StartSource.NVME);
        assertThat(EfiLoadOption.active("stick", new EfiPathNode(3, 5, new byte[2]))
                        .source())
                .contains(StartSource.USB);
        assertThat(EfiLoadOption.active("part", EfiPathNode.partition(1, 2048, 9, 0x5eed0001))
                        .source())
                .isEmpty();
    }

    @Test
    void aFolderOfVariablesIsReadAsARunningSystemShowsIt() throws IOException {
        String owner = "-" + EfiVariables.OWNER;
        Files.write(folder.resolve("BootOrder" + owner), HexFormat.of().parseHex("07000000" + "0300" + "ab00"));
        Files.write(folder.resolve("Boot00AB" + owner), HexFormat.of().parseHex("07000000" + BY_HAND));
        Files.writeString(folder.resolve("Boot00AC-somebody-else"), "x");
        EfiVariables read = EfiVariables.ofFolder(folder);
        assertThat(read.value()).isEqualTo("0003,00AB");
        assertThat(read.entries()).containsOnlyKeys(0xab);
        Files.write(folder.resolve("BootOrder" + owner), new byte[7]);
        assertThatThrownBy(() -> EfiVariables.ofFolder(folder)).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> EfiVariables.ofFolder(folder.resolve("none"))).isInstanceOf(UnreadableInput.class);
    }

    @Property
    void anOrderRoundTrips(@ForAll @Size(max = 30) List<@IntRange(max = 0xffff) Integer> order) throws UnreadableInput {
        assertThat(EfiVariables.order(EfiVariables.bytes(order))).isEqualTo(order);
    }

    @Property
    void aBrokenEntryIsOneSentence(@ForAll long seed) {
        Random random = new Random(seed);
        byte[] bytes = HexFormat.of().parseHex(BY_HAND);
        for (int i = 0; i < 3; i++) {
            bytes[random.nextInt(bytes.length)] = (byte) random.nextInt();
        }
        byte[] cut = Arrays.copyOf(bytes, random.nextInt(bytes.length + 1));
        try {
            EfiLoadOption.parse(cut).said();
        } catch (UnreadableInput e) {
            assertThat(e.getMessage()).endsWith(".");
        }
    }
}
