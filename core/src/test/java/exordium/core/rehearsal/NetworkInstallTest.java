// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.firmware.FirmwareConfig;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What an install over the network needs; the start by its digit says the same. */
class NetworkInstallTest {
    private static final LocalDate ABLE = LocalDate.of(2025, 9, 16);

    private static Bench bench(String board, LocalDate firmware, String order, Bench.Network network)
            throws IOException {
        BoardProfile profile = BoardProfiles.shipped().require(board);
        return new Bench(
                profile,
                "0001",
                "",
                firmware,
                FirmwareConfig.EMPTY,
                order,
                profile.power().supply(),
                List.of(),
                network);
    }

    private static Bench.Network network(boolean link, boolean lease, boolean internet) {
        return new Bench.Network(link, lease, internet, Optional.empty(), List.of());
    }

    @ParameterizedTest
    @CsvSource({"0xf41, 0xf741", "0xe6, 0xe76", "0x1, 0x71", "'', 0xf741", "0xf7416, 0xf7416"})
    void itsDigitComesBehindTheDrivesAndBeforeTheEnd(String order, String with) throws IOException {
        NetworkInstall install = NetworkInstall.of(bench("plover-4", ABLE, order, Bench.Network.USUAL))
                .orElseThrow();
        assertThat(install.inOrder()).isEqualTo(with);
        assertThat(install.listed()).isEqualTo(order.contains("7"));
    }

    /** Each need that is lacking is what the rehearsal of that order fails for; with all of them it installs. */
    @ParameterizedTest
    @CsvSource({
        "2025-09-16, true, true, true, INSTALLING, none",
        "2025-09-15, true, true, true, LOOPING, firmware-too-old",
        "2025-09-16, false, false, true, LOOPING, network-no-link",
        "2025-09-16, true, false, true, LOOPING, network-no-lease"
    })
    void whatIsLackingIsWhatAStartFailsFor(
            LocalDate firmware, boolean link, boolean lease, boolean internet, Trace.Outcome outcome, String cause)
            throws IOException {
        Bench bench = bench("plover-5", firmware, "0xf7", network(link, lease, internet));
        NetworkInstall install = NetworkInstall.of(bench).orElseThrow();
        Trace trace = Rehearsal.of(bench);
        assertThat(trace.outcome()).isEqualTo(outcome);
        assertThat(trace.cause().code()).isEqualTo(cause);
        assertThat(install.lacks()).isEqualTo(!trace.outcome().equals(Trace.Outcome.INSTALLING));
        assertThat(install.steps()).hasSizeGreaterThan(3);
    }

    @Test
    void whoHasNoneIsNotToldOfIt() throws IOException {
        for (String board : List.of("plover-3", "curlew-e", "dunlin-u")) {
            assertThat(NetworkInstall.of(bench(board, ABLE, "", Bench.Network.USUAL)))
                    .as(board)
                    .isEmpty();
        }
        NetworkInstall install = NetworkInstall.of(bench("plover-4", ABLE, "0xf41", Bench.Network.USUAL))
                .orElseThrow();
        assertThat(OrderDialect.of(BoardProfiles.shipped().require("plover-4"))
                        .decode(install.inOrder())
                        .sources())
                .contains(StartSource.NETWORK_INSTALL);
    }
}
