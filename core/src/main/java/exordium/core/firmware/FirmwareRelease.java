// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.StartSource;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * One release of a board family's bootloader firmware; releases are known by their date.
 *
 * @param enables sources that work from this release on
 * @param mends what it mends, each with the words by which it shows in a log
 * @param needs the release that has to run before this one can be taken
 */
public record FirmwareRelease(
        List<String> boards,
        LocalDate version,
        Channel channel,
        String notes,
        Optional<List<StartSource>> enables,
        Optional<List<Mend>> mends,
        Optional<LocalDate> needs) {

    /** A defect: it shows when all its signs stand in what was seen or logged, whatever their case. */
    public record Mend(String what, List<String> signs) {
        public boolean explains(String seen) {
            String lower = seen.toLowerCase(Locale.ROOT);
            return !signs.isEmpty() && signs.stream().allMatch(sign -> lower.contains(sign.toLowerCase(Locale.ROOT)));
        }
    }

    public FirmwareRelease(List<String> boards, LocalDate version, Channel channel, String notes) {
        this(boards, version, channel, notes, Optional.empty(), Optional.empty(), Optional.empty());
    }

    public boolean isFor(String profile) {
        return boards.contains(profile);
    }

    public List<Mend> defects() {
        return mends.orElse(List.of());
    }
}
