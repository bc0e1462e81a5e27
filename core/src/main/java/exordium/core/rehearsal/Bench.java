// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.storage.MediumKind;
import exordium.core.storage.Supply;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A board with everything that decides what it does when power comes on.
 *
 * @param order the start order as stored, in the board's dialect
 */
public record Bench(
        BoardProfile profile,
        String serial,
        LocalDate firmware,
        FirmwareConfig config,
        String order,
        Supply supply,
        List<Attached> attached,
        Network network) {

    /**
     * A medium on a port.
     *
     * @param silentCarrier whether it sits in a carrier that does not announce itself
     * @param seated false where a cable or the medium itself does not make contact
     */
    public record Attached(
            String port,
            String name,
            MediumKind kind,
            boolean silentCarrier,
            boolean seated,
            MediumContents contents) {}

    /**
     * The network the board sees.
     *
     * @param tftpRoot folder of the files a server hands out
     */
    public record Network(boolean link, boolean dhcp, Optional<Path> tftpRoot, Set<String> exports) {
        public static final Network NONE = new Network(false, false, Optional.empty(), Set.of());
    }

    /** The same bench without what is on these ports. */
    public Bench without(Set<String> ports) {
        return new Bench(
                profile,
                serial,
                firmware,
                config,
                order,
                supply,
                attached.stream().filter(each -> !ports.contains(each.port())).toList(),
                network);
    }

    public Bench withOrder(String value) {
        return new Bench(profile, serial, firmware, config, value, supply, attached, network);
    }

    public Bench withConfig(FirmwareConfig changed) {
        return new Bench(profile, serial, firmware, changed, order, supply, attached, network);
    }

    public Bench withSupply(Supply other) {
        return new Bench(profile, serial, firmware, config, order, other, attached, network);
    }
}
