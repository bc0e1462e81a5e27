// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.IpWord;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** IPv4 addresses of one network, handed out so that one that was given stays when others come and go. */
final class Addresses {
    /** Below these people put routers, servers and printers. Common practice, no source. */
    private static final int FIRST = 11;

    private final NetworkPlan.Server server;
    private final long mask;
    private final long own;

    Addresses(NetworkPlan.Server server) throws UnreadableInput {
        this.server = server;
        this.own = number(server.address());
        this.mask = 0xFFFFFFFFL << (32 - server.prefix()) & 0xFFFFFFFFL;
    }

    private static long number(String address) throws UnreadableInput {
        return IpWord.number(address)
                .orElseThrow(() -> new UnreadableInput("\"" + address + "\" is no IPv4 address such as 192.168.40.2."));
    }

    static String text(long address) {
        return (address >> 24 & 255) + "." + (address >> 16 & 255) + "." + (address >> 8 & 255) + "." + (address & 255);
    }

    String netmask() {
        return text(mask);
    }

    String network() {
        return text(own & mask);
    }

    /** Whether a board can have it: inside, and neither the network itself nor the address for all. */
    boolean usable(String address) throws UnreadableInput {
        long host = number(address) & ~mask & 0xFFFFFFFFL;
        return (number(address) & mask) == (own & mask) && host != 0 && host != (~mask & 0xFFFFFFFFL);
    }

    List<NetworkPlan.Client> given(List<NetworkPlan.Client> clients) throws UnreadableInput {
        Set<Long> taken = new HashSet<>();
        taken.add(own);
        if (server.router().isPresent()) {
            taken.add(number(server.router().get()));
        }
        for (NetworkPlan.Client each : clients) {
            if (each.address().isPresent()) {
                taken.add(number(each.address().get()));
            }
        }
        List<NetworkPlan.Client> all = new ArrayList<>();
        long next = (own & mask) + FIRST;
        for (NetworkPlan.Client each : clients) {
            if (each.address().isPresent()) {
                all.add(each);
                continue;
            }
            while (taken.contains(next)) {
                next++;
            }
            if (!usable(text(next))) {
                throw new OverBound(
                        network() + "/" + server.prefix() + " has no address left for " + each.id() + "; "
                                + taken.size() + " are taken.",
                        taken.size());
            }
            taken.add(next);
            all.add(each.withAddress(text(next)));
        }
        return all;
    }
}
