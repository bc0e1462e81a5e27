// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.Supply;
import java.util.List;
import java.util.Optional;

/**
 * What a board asks of its storage.
 *
 * @param image what will be written, to the end of its last partition; the usual room of the system where none is named
 */
public record StorageNeed(
        Optional<ByteSize> image, Role role, Supply supply, Host host, StorageRules rules, List<Socket> sockets) {
    /** What a label promises and a card holds differ by some percent: 15.5 GB still counts as a "16 GB" card. */
    private static final double LABEL_TOLERANCE = 0.97;

    /**
     * The board itself.
     *
     * @param draw its own power with nothing plugged in
     * @param usbAllowance what USB devices may draw in all on this supply
     * @param memory in GB, as memory is sold
     * @param startSeconds of a usual start from a quick card
     * @param doubts what of it nobody looked at
     */
    public record Host(Watts draw, Watts usbAllowance, int width, double memory, double startSeconds, Doubts doubts) {
        public Host(Watts draw, Watts usbAllowance, int width, double memory, double startSeconds) {
            this(draw, usbAllowance, width, memory, startSeconds, Doubts.NONE);
        }
    }

    /** What is said behind a finding that rests on the board's power, or on its ports; empty where that was looked at. */
    public record Doubts(String power, String ports) {
        public static final Doubts NONE = new Doubts("", "");
    }

    /**
     * A place on the board a medium can go to.
     *
     * @param lengths M.2 codes its carrier takes; empty where it takes no M.2 drive
     * @param carrierPrice in euros, where the board has none yet
     */
    public record Socket(
            String port, String title, List<String> buses, Link link, List<Integer> lengths, double carrierPrice) {
        public Socket(String port, String title, List<String> buses, Link link, List<Integer> lengths) {
            this(port, title, buses, link, lengths, 0);
        }

        /** The same with a carrier to be bought, where one is wanted. */
        public Socket buyingCarrier(double price) {
            return lengths.isEmpty() ? this : new Socket(port, title, buses, link, lengths, price);
        }

        public boolean takes(String bus) {
            return buses.contains(bus);
        }

        /** A port other devices want as well. */
        public boolean fastUsb() {
            return buses.contains("usb") && link != Link.USB_2;
        }

        private Socket atPcie3() {
            return link == Link.PCIE2_X1 ? new Socket(port, title, buses, Link.PCIE3_X1, lengths, carrierPrice) : this;
        }
    }

    /** Where the house rule wants it, PCIe is driven beyond what such boards are rated for. */
    public StorageNeed {
        sockets = rules.beyondRating() ? sockets.stream().map(Socket::atPcie3).toList() : List.copyOf(sockets);
    }

    /** The least real size that carries this label, in decimal gigabytes. */
    public static ByteSize leastOf(int label) {
        return ByteSize.ofGigabytes(label * LABEL_TOLERANCE);
    }

    /** The label a size was meant by. */
    static long labelOf(ByteSize least) {
        return Math.round(least.bytes() / 1e9 / LABEL_TOLERANCE);
    }

    public StorageNeed with(Role other) {
        return new StorageNeed(image, other, supply, host, rules, sockets);
    }

    /** For another image; empty for the usual room of the system. */
    public StorageNeed withImage(Optional<ByteSize> other) {
        return new StorageNeed(other, role, supply, host, rules, sockets);
    }

    public StorageNeed with(StorageRules other) {
        return new StorageNeed(image, role, supply, host, other, sockets);
    }

    public StorageNeed with(Supply other, Watts usbAllowance) {
        Host fed = new Host(host.draw(), usbAllowance, host.width(), host.memory(), host.startSeconds(), host.doubts());
        return new StorageNeed(image, role, other, fed, rules, sockets);
    }

    /** Of a usual start of its system from a quick card, in seconds. */
    public double startSeconds() {
        return host.startSeconds() + role.system().longerStart();
    }

    /** Room wanted now: the image, or the usual room of the system, and the data. */
    public ByteSize wantedNow() {
        return system().plus(role.data());
    }

    public ByteSize wantedAtTheEnd() {
        return system().plus(role.dataAtTheEnd());
    }

    private ByteSize system() {
        return image.filter(size -> size.compareTo(role.system().room()) > 0)
                .orElse(role.system().room());
    }
}
