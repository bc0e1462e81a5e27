// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** A store of UEFI variables, written and read; EDK2 itself reads what is written (RealFirmwareTest) and what is changed (EfiStoreByFirmwareTest). */
class EfiStoreTest {
    private static final EfiVariables THREE = new EfiVariables(
            List.of(2, 0, 1),
            Map.of(
                    0, EfiLoadOption.active("card", EfiPathNode.pciRoot(), EfiPathNode.pci(8, 0)),
                    1,
                            EfiLoadOption.active(
                                    "stick", EfiPathNode.pciRoot(), EfiPathNode.pci(4, 0), EfiPathNode.usb(1, 0)),
                    2, EfiLoadOption.active("network", EfiPathNode.pciRoot(), EfiPathNode.pci(3, 0))));

    @Test
    void whatIsWrittenIsRead() throws UnreadableInput {
        assertThat(EfiStore.parse(EfiStore.of(THREE))).isEqualTo(THREE);
    }

    @Test
    void anotherOrderLeavesEverythingElse() throws UnreadableInput {
        byte[] store = EfiStore.of(THREE);
        byte[] changed = EfiStore.withOrder(store, List.of(0, 1));
        assertThat(EfiStore.parse(changed)).isEqualTo(new EfiVariables(List.of(0, 1), THREE.entries()));
        byte[] again = EfiStore.withOrder(changed, List.of(1, 0, 2));
        assertThat(EfiStore.parse(again).order()).containsExactly(1, 0, 2);
        assertThat(EfiStore.parse(store)).isEqualTo(THREE);
        assertThatThrownBy(() -> EfiStore.withOrder(store, List.of(7))).hasMessageContaining("Boot0007");
    }

    @Test
    void hostileStoresAreNamed() {
        assertThatThrownBy(() -> EfiStore.parse(new byte[10])).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> EfiStore.parse(new byte[1 << 20])).isInstanceOf(UnreadableInput.class);
        Random random = new Random(3);
        byte[] store = EfiStore.of(THREE);
        for (int i = 0; i < 100; i++) {
            byte[] broken = store.clone();
            for (int j = 0; j < 6; j++) {
                broken[random.nextInt(700)] = (byte) random.nextInt();
            }
            try {
                EfiStore.parse(broken);
            } catch (UnreadableInput e) {
                assertThat(e).hasMessageNotContaining("null");
            }
        }
    }
}
