// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import exordium.core.quantity.Coded;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** What one sees of a board's sockets, in the order they are usually tried; common practice, no source. */
public enum Socket implements Coded {
    CARD("card slot", StartSource.CARD, "card", 1),
    USB_FAST("USB, blue", StartSource.USB, "usb@usb-5g", 4),
    USB_SLOW("USB, black", StartSource.USB, "usb@usb-2", 4),
    M2("M.2 or ribbon", StartSource.NVME, "nvme@pcie2-x1", 1),
    SOLDERED("soldered on", StartSource.EMMC, "emmc", 1),
    NETWORK("net, 1 Gbit", StartSource.NETWORK, "network@ethernet-1g", 1),
    SLOW_NETWORK("net, 100 Mbit", StartSource.NETWORK, "network@ethernet-100m", 1);

    private final String seen;
    private final StartSource source;
    private final String port;
    private final int most;

    Socket(String seen, StartSource source, String port, int most) {
        this.seen = seen;
        this.source = source;
        this.port = port;
        this.most = most;
    }

    /** As it is called by whoever looks at it. */
    public String seen() {
        return seen;
    }

    public StartSource source() {
        return source;
    }

    /** How many of it a board has at the most. */
    public int most() {
        return most;
    }

    /** The ports of so many of each, a word each, as {@link FamilyDraft} takes them. */
    public static List<String> ports(Map<Socket, Integer> many) {
        List<String> ports = new ArrayList<>();
        for (Socket each : values()) {
            for (int i = 0; i < many.getOrDefault(each, 0); i++) {
                ports.add(each.port);
            }
        }
        return ports;
    }
}
