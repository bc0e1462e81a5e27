// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.finding.UnreadableInput;
import java.util.EnumMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class SocketTest {
    /** Whatever may be ticked makes ports of a family. */
    @Test
    void eachSocketIsAPortOfAFamily() throws UnreadableInput {
        Map<Socket, Integer> all = new EnumMap<>(Socket.class);
        int many = 0;
        for (Socket each : Socket.values()) {
            all.put(each, each.most());
            many += each.most();
        }
        assertThat(Socket.ports(all)).hasSize(many);
        assertThat(Socket.ports(Map.of(Socket.USB_FAST, 2))).containsExactly("usb@usb-5g", "usb@usb-5g");
        for (Socket each : Socket.values()) {
            BoardProfile made = FamilyDraft.of("heron-1")
                    .withPorts(Socket.ports(Map.of(each, 1)))
                    .made(BoardProfiles.shipped());
            assertThat(made.ports()).extracting(BoardProfile.Port::source).containsExactly(each.source());
        }
    }
}
