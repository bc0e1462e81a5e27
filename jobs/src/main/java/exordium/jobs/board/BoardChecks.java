// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.board;

import exordium.core.board.BoardProfile;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** What a person may say of a board. */
final class BoardChecks {
    private BoardChecks() {}

    /** @throws BadArgument when no firmware can be of that day yet */
    static LocalDate notLater(LocalDate release, LocalDate today) throws BadArgument {
        if (release.isAfter(today)) {
            throw new BadArgument(
                    "Firmware of " + release + " is of a day to come; look at the start screen once more.",
                    release.toString());
        }
        return release;
    }

    /** A chip that holds an order. @throws BadArgument when the family cannot have such a one */
    static FirmwareChip ordered(BoardProfile profile, FirmwareChip chip, String value) throws BadArgument {
        DecodedOrder decoded = OrderDialect.of(profile).decode(value);
        Optional<Finding> stop =
                decoded.findings().stream().filter(Finding::stops).findFirst();
        if (stop.isPresent()) {
            throw new BadArgument(stop.get().text(), value);
        }
        return new FirmwareChip(
                chip.running(), chip.config().with(profile.order().key(), value), chip.staged(), chip.stagedConfig());
    }

    /** @throws BadArgument naming the ports the family has */
    static void requirePort(BoardProfile profile, String port) throws BadArgument {
        List<String> ports = profile.ports().stream().map(BoardProfile.Port::id).toList();
        if (!ports.contains(port)) {
            throw new BadArgument(
                    "A " + profile.title() + " has no port \"" + port + "\"; it has " + String.join(", ", ports) + ".",
                    port);
        }
    }

    static void requireEnclosure(
            Workbench workbench, BoardProfile profile, String port, Media.Medium medium, String enclosure)
            throws UnreadableInput {
        List<Enclosure> all = workbench.media().enclosures();
        Enclosure box = all.stream()
                .filter(each -> each.id().equals(enclosure))
                .findFirst()
                .orElseThrow(() -> new BadArgument(
                        "There is no enclosure \"" + enclosure + "\"; there are "
                                + String.join(
                                        ", ", all.stream().map(Enclosure::id).toList()) + ".",
                        enclosure));
        MediumKind kind = workbench.kind(medium.kind());
        boolean fits =
                profile.port(port).filter(each -> box.leads(kind, each.buses())).isPresent();
        if (!fits) {
            throw new BadArgument(
                    "A " + box.title() + " takes drives of " + box.takes() + " and is plugged into " + box.plugs()
                            + "; " + medium.name() + " does not go into " + port + " with it.",
                    enclosure);
        }
    }
}
