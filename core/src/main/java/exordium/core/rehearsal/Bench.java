// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.quantity.Watts;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A board with everything that decides what it does when power comes on.
 *
 * @param mac the hardware address of its network socket; empty where nobody knows it
 * @param order the start order as stored, in the board's dialect; empty where none is stored
 */
public record Bench(
        BoardProfile profile,
        String serial,
        String mac,
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
            MediumContents contents,
            Optional<Enclosure> enclosure) {
        public Attached(
                String port,
                String name,
                MediumKind kind,
                boolean silentCarrier,
                boolean seated,
                MediumContents contents) {
            this(port, name, kind, silentCarrier, seated, contents, Optional.empty());
        }

        public Attached with(MediumContents other) {
            return new Attached(port, name, kind, silentCarrier, seated, other, enclosure);
        }

        Attached at(String other) {
            return new Attached(other, name, kind, silentCarrier, seated, contents, enclosure);
        }

        Attached carried(boolean silent) {
            return new Attached(port, name, kind, silent, seated, contents, enclosure);
        }

        Attached unseated() {
            return new Attached(port, name, kind, silentCarrier, false, contents, enclosure);
        }

        /** What it speaks at its port; empty where its enclosure does not take it. */
        Optional<String> bus() {
            return enclosure.isEmpty()
                    ? Optional.of(kind.bus())
                    : enclosure.filter(box -> box.takes().equals(kind.bus())).map(Enclosure::plugs);
        }

        Watts watts() {
            return enclosure.map(box -> kind.watts().plus(box.watts())).orElse(kind.watts());
        }
    }

    /**
     * The network the board sees.
     *
     * @param tftpRoot folder of the files a server hands out
     * @param internet whether an install over HTTP finds its server
     */
    public record Network(boolean link, boolean dhcp, boolean internet, Optional<Path> tftpRoot, List<Export> exports) {
        public static final Network NONE = new Network(false, false, false, Optional.empty(), List.of());

        /** A cable, and a router that hands out addresses; nothing else is known of it. */
        public static final Network USUAL = new Network(true, true, false, Optional.empty(), List.of());

        /** The same with nobody who hands out addresses. */
        public Network withoutLease() {
            return new Network(link, false, internet, tftpRoot, exports);
        }
    }

    /**
     * A root that a server hands out.
     *
     * @param folder where its files are, as far as anybody said
     * @param read what is in it, where somebody has looked already
     */
    public record Export(String path, Optional<Path> folder, Optional<MediumContents.RootFiles> read) {
        public Export(String path, Optional<Path> folder) {
            this(path, folder, Optional.empty());
        }
    }

    /** What is plugged into the ports of a source, by their sockets. */
    public Stream<Attached> mediaOn(StartSource source) {
        return profile.ports().stream().filter(port -> port.source() == source).flatMap(port -> attached.stream()
                .filter(medium -> medium.port().equals(port.id())));
    }

    /** The same bench without what is on these ports. */
    public Bench without(Set<String> ports) {
        return withAttached(
                attached.stream().filter(each -> !ports.contains(each.port())).toList());
    }

    /** The same bench with what is on these ports not making contact. */
    public Bench loose(Set<String> ports) {
        return withAttached(attached.stream()
                .map(each -> ports.contains(each.port()) ? each.unseated() : each)
                .toList());
    }

    /** The same bench with the medium of one port in another; what was there goes where that came from. */
    public Bench moved(String from, String to) {
        return withAttached(attached.stream()
                .map(each ->
                        each.port().equals(from) ? each.at(to) : each.port().equals(to) ? each.at(from) : each)
                .toList());
    }

    /** The same bench with a carrier that announces itself, or does not. */
    public Bench withCarrier(String port, boolean silent) {
        return withAttached(attached.stream()
                .map(each -> each.port().equals(port) ? each.carried(silent) : each)
                .toList());
    }

    /** The same bench with something else on the medium of a port. */
    public Bench with(String port, MediumContents contents) {
        return withAttached(attached.stream()
                .map(each -> each.port().equals(port) ? each.with(contents) : each)
                .toList());
    }

    /** The same bench with these media alone. */
    public Bench withAttached(List<Attached> media) {
        return new Bench(profile, serial, mac, firmware, config, order, supply, media, network);
    }

    /**
     * The same bench with the board's button held while power comes on: families with an ordered list then try the card
     * first; on others the button does nothing. Common practice, no source.
     */
    public Bench withButtonHeld() {
        Optional<String> card = profile.order().names().entrySet().stream()
                .filter(entry -> entry.getValue() == StartSource.CARD)
                .map(Map.Entry::getKey)
                .findFirst();
        return profile.hasButton() && card.isPresent() ? withOrder(card.get() + " " + order) : this;
    }

    public Bench withOrder(String value) {
        return new Bench(profile, serial, mac, firmware, config, value, supply, attached, network);
    }

    public Bench withNetwork(Network other) {
        return new Bench(profile, serial, mac, firmware, config, order, supply, attached, other);
    }

    public Bench withFirmware(LocalDate version) {
        return new Bench(profile, serial, mac, version, config, order, supply, attached, network);
    }

    public Bench withConfig(FirmwareConfig changed) {
        return new Bench(profile, serial, mac, firmware, changed, order, supply, attached, network);
    }

    public Bench withSupply(Supply other) {
        return new Bench(profile, serial, mac, firmware, config, order, other, attached, network);
    }
}
