// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.Watts;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediumKind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * One way to plug a medium into a board: the socket, the enclosure if it takes one, the links between.
 *
 * @param obstacles stops: it fits here in no way
 * @param besides what is to be said of this way although it works
 */
public record Attachment(
        Optional<StorageNeed.Socket> socket,
        Optional<Enclosure> enclosure,
        List<Link> links,
        List<Finding> obstacles,
        Optional<Finding> besides) {
    Attachment(
            Optional<StorageNeed.Socket> socket,
            Optional<Enclosure> enclosure,
            List<Link> links,
            List<Finding> obstacles) {
        this(socket, enclosure, links, obstacles, Optional.empty());
    }

    private static final Basis M2 = Basis.standard("PCI Express M.2 specification, from memory");

    public boolean works() {
        return obstacles.isEmpty();
    }

    public Watts watts(MediumKind kind) {
        return enclosure.map(box -> kind.watts().plus(box.watts())).orElse(kind.watts());
    }

    public double randomShare() {
        return enclosure.map(Enclosure::randomShare).orElse(1.0);
    }

    public double price() {
        return enclosure.map(Enclosure::price).orElse(0.0)
                + socket.map(StorageNeed.Socket::carrierPrice).orElse(0.0);
    }

    boolean onFastUsb() {
        return socket.filter(StorageNeed.Socket::fastUsb).isPresent();
    }

    /** The best way there is; where there is none, the one whose reason says most. */
    public static Attachment best(StorageNeed need, MediumKind.Medium medium, List<Enclosure> enclosures) {
        List<Attachment> ways = new ArrayList<>();
        for (StorageNeed.Socket socket : need.sockets()) {
            direct(socket, medium).ifPresent(ways::add);
            for (Enclosure box : enclosures) {
                if (box.fits(medium.kind()) && socket.takes(box.plugs())) {
                    ways.add(usb(need, socket, Optional.of(box), box.links(), medium));
                }
            }
        }
        ways.replaceAll(way -> way.enclosure().isEmpty() && way.onFastUsb()
                ? usb(
                        need,
                        way.socket().orElseThrow(),
                        Optional.empty(),
                        medium.kind().adapters(),
                        medium)
                : way);
        Optional<Finding> refused = ways.stream()
                .filter(way -> way.enclosure().isEmpty())
                .flatMap(way -> way.obstacles().stream())
                .findFirst();
        return ways.stream()
                .filter(Attachment::works)
                .max(Comparator.comparing((Attachment way) ->
                                LinkChain.of("", medium.readRate(), way.links()).effective())
                        .thenComparing(way -> way.enclosure().isEmpty())
                        .thenComparing(way -> !way.onFastUsb()))
                .map(way -> way.enclosure().isPresent() && refused.isPresent() ? way.instead(refused.get()) : way)
                .or(() -> ways.stream().findFirst())
                .orElseGet(() -> nowhere(need, medium));
    }

    /** It does not go where one would put it first: into a box instead, and that is said. */
    private Attachment instead(Finding refused) {
        return new Attachment(
                socket,
                enclosure,
                links,
                obstacles,
                Optional.of(Finding.caution(
                        "in-enclosure-instead",
                        refused.text() + " So it goes into a "
                                + enclosure.orElseThrow().title() + " on "
                                + socket.orElseThrow().title() + ".",
                        refused.basis())));
    }

    private static Optional<Attachment> direct(StorageNeed.Socket socket, MediumKind.Medium medium) {
        List<Link> links = new ArrayList<>(medium.kind().adapters());
        links.add(socket.link());
        boolean m2 = medium.kind().m2().isPresent();
        if (m2 && !socket.lengths().isEmpty()) {
            return Optional.of(
                    new Attachment(Optional.of(socket), Optional.empty(), links, carrierObstacles(socket, medium)));
        }
        return socket.takes(medium.kind().bus()) && !m2
                ? Optional.of(new Attachment(Optional.of(socket), Optional.empty(), links, List.of()))
                : Optional.empty();
    }

    private static List<Finding> carrierObstacles(StorageNeed.Socket socket, MediumKind.Medium medium) {
        MediumKind.M2 m2 = medium.kind().m2().orElseThrow();
        if (!socket.takes(medium.kind().bus())) {
            return List.of(Finding.stop(
                    "wrong-protocol",
                    medium.name() + " is M.2 " + medium.kind().bus().toUpperCase(java.util.Locale.ROOT)
                            + "; the carrier of " + socket.title()
                            + " speaks NVMe. The connector is the same, the drive would not be seen.",
                    M2));
        }
        if (!socket.lengths().contains(m2.length())) {
            return List.of(Finding.stop(
                    "carrier-too-short",
                    medium.name() + " is M.2 " + m2.length() + ", " + m2.millimetres()
                            + " mm long; this carrier takes "
                            + String.join(
                                    ", ",
                                    socket.lengths().stream()
                                            .map(String::valueOf)
                                            .toList()) + ".",
                    M2));
        }
        return List.of();
    }

    private static Attachment usb(
            StorageNeed need,
            StorageNeed.Socket socket,
            Optional<Enclosure> box,
            List<Link> inner,
            MediumKind.Medium medium) {
        List<Link> links = new ArrayList<>(inner);
        links.add(socket.link());
        List<Finding> obstacles = new ArrayList<>();
        long fast = need.sockets().stream().filter(StorageNeed.Socket::fastUsb).count();
        if (socket.fastUsb()
                && need.role().portsNeeded() > 0
                && fast - 1 < need.role().portsNeeded()) {
            obstacles.add(Finding.stop(
                    "port-needed",
                    medium.name() + " would take one of " + fast + " fast USB ports; "
                            + need.role().portsNeeded() + " are needed for other things.",
                    Basis.computed("the board's ports")));
        }
        return new Attachment(Optional.of(socket), box, links, obstacles);
    }

    private static Attachment nowhere(StorageNeed need, MediumKind.Medium medium) {
        return new Attachment(
                Optional.empty(),
                Optional.empty(),
                List.copyOf(medium.kind().adapters()),
                List.of(Finding.stop(
                        "no-socket",
                        medium.name() + " speaks " + medium.kind().bus() + "; this board has no place for it among "
                                + String.join(
                                        ", ",
                                        need.sockets().stream()
                                                .map(StorageNeed.Socket::title)
                                                .toList()) + ".",
                        Basis.computed("the board's profile"))));
    }
}
