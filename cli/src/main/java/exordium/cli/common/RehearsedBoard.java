// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.core.firmware.FirmwareChip;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** What a board of the register was rehearsed with, each fact with how it is known. */
public record RehearsedBoard(
        String board,
        String reach,
        Optional<LocalDate> firmware,
        @JsonUnwrapped(prefix = "firmware") KnownOut firmwareKnown,
        String order,
        @JsonUnwrapped(prefix = "order") KnownOut orderKnown,
        List<PlugOut> attached) {

    public static RehearsedBoard of(Common.House house, Workbench.BoardAtHand at) throws IOException {
        return new RehearsedBoard(
                at.register().id(),
                at.register().way().code(),
                FirmwareChip.known(at.board().firmware()),
                KnownOut.of(at.board().known().firmware()),
                at.order(),
                KnownOut.of(at.board().known().order()),
                PlugOut.of(house, at));
    }
}
