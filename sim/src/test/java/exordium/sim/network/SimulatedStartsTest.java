// SPDX-License-Identifier: Apache-2.0
package exordium.sim.network;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import exordium.core.network.StartTimes;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.Link;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The formula for starts at the same moment against boards that ask one request after the other. */
class SimulatedStartsTest {
    private static final StartTimes FAST = times(30, 200, Link.ETHERNET_1G, Link.ETHERNET_1G, 13.5);
    private static final StartTimes SLOW_SERVER = times(30, 200, Link.ETHERNET_1G, Link.ETHERNET_100M, 9.2);
    private static final StartTimes SLOW_BOARD = times(12, 90, Link.ETHERNET_100M, Link.ETHERNET_1G, 11.5);

    private static StartTimes times(long small, long root, Link client, Link server, double thinking) {
        return new StartTimes(
                ByteSize.of(small * 1_000_000),
                ByteSize.of(root * 1_000_000),
                client.ceiling(),
                server.ceiling(),
                6,
                thinking);
    }

    private static double last(List<Double> up) {
        return Collections.max(up);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 5, 20})
    void formulaAndSimulationAgreeWithinTenPercent(int boards) {
        for (StartTimes times : List.of(FAST, SLOW_SERVER, SLOW_BOARD)) {
            double simulated = last(SimulatedStarts.of(Collections.nCopies(boards, times), 0));
            assertThat(times.together(boards)).as(times.toString()).isCloseTo(simulated, within(simulated / 10));
        }
    }

    /** 20 boards of 230 MB over 11.87 MB/s cannot be done before 387 s (IEEE 802.3 payload rate), nor much later. */
    @Test
    void aNarrowLinkIsWhatTheyWaitFor() {
        double least = 20 * 230e6 / 11.87e6;
        assertThat(last(SimulatedStarts.of(Collections.nCopies(20, SLOW_SERVER), 0)))
                .isBetween(least, least * 1.1);
        assertThat(SLOW_SERVER.alone()).isLessThan(least / 8);
    }

    @Test
    void staggeredOnesDoNotWaitForEachOther() {
        List<Double> up = SimulatedStarts.of(Collections.nCopies(5, SLOW_SERVER), SLOW_SERVER.alone());
        for (int i = 0; i < up.size(); i++) {
            assertThat(up.get(i) - i * SLOW_SERVER.alone()).isCloseTo(SLOW_SERVER.alone(), within(0.05));
        }
        assertThat(SLOW_SERVER.staggered(5)).isCloseTo(4 * SLOW_SERVER.busy() + SLOW_SERVER.alone(), within(0.001));
    }

    @Test
    void aSlowDiskIsTheNarrowestPlace() {
        StartTimes disk = new StartTimes(
                ByteSize.of(30_000_000),
                ByteSize.of(200_000_000),
                Link.ETHERNET_1G.ceiling(),
                ByteRate.ofMegabytes(8),
                6,
                9);
        assertThat(disk.busy()).isCloseTo(230 / 8.0, within(0.1));
        assertThat(disk.together(5)).isGreaterThan(5 * 230 / 8.0);
    }
}
