// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import java.time.LocalDate;
import java.util.List;

/** One release of a board family's bootloader firmware; releases are known by their date. */
public record FirmwareRelease(List<String> boards, LocalDate version, Channel channel, String notes) {

    public boolean isFor(String profile) {
        return boards.contains(profile);
    }
}
