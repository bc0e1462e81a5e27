// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What readers, sticks and enclosures tell the system, and what their owner would call them; from memory of what systems list. */
class NewcomerTest {
    @ParameterizedTest
    @CsvSource({
        "mmc, true, '', 31914983424, Card 32, sd, card",
        "mmc, true, SP32G, 31914983424, SP32G, sd, card",
        "usb, true, STORAGE DEVICE, 15931539456, STORAGE DEVICE, usb, stick",
        "usb, true, SD/MMC Card Reader, 63864569856, Card 64, sd, card",
        "usb, true, '', 8004304896, Stick 8, usb, stick",
        "usb, false, KELPLINE  240, 240057409536, KELPLINE 240, usb, boxed",
        "nvme, false, '', 256060514304, Drive 256, nvme, m2",
        "loop, false, '', 209715200, Card 209 MB, sd, card"
    })
    void isNamedAndSortedByWhatItTells(
            String bus, boolean removable, String model, long bytes, String name, String kindBus, String form)
            throws IOException {
        List<MediumKind> kinds = MediaCatalogue.shipped().kinds();
        Newcomer guess = Newcomer.of(kinds, bus, removable, model, ByteSize.of(bytes), Set.of("SP64G"));
        assertThat(guess.name()).isEqualTo(name);
        assertThat(guess.kind().bus()).isEqualTo(kindBus);
        assertThat(guess.kind().form()).isEqualTo(form);
        Set<String> taken = Set.of(name, name + " 2");
        assertThat(Newcomer.of(kinds, bus, removable, model, ByteSize.of(bytes), taken)
                        .name())
                .isEqualTo(name + " 3");
    }
}
