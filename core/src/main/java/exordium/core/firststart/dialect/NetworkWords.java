// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.kernelline.IpWord;
import java.util.List;

/** A wanted network in the words of either dialect, and what is to be said about it. */
final class NetworkWords {
    private static final int USUAL_BITS = 24;
    private static final int LINK_LOCAL_BITS = 16;

    private NetworkWords() {}

    /** The address without the length of its network. */
    static String address(Intents.Network network) {
        return network.address().orElse("").replaceFirst("/.*", "");
    }

    static int bits(Intents.Network network) {
        String text = network.address().orElse("");
        int slash = text.indexOf('/');
        if (slash > 0) {
            return Integer.parseInt(text.substring(slash + 1));
        }
        return text.startsWith("169.254.") ? LINK_LOCAL_BITS : USUAL_BITS;
    }

    private static String netmask(int bits) {
        long mask = bits == 0 ? 0 : 0xFFFFFFFFL << (32 - bits) & 0xFFFFFFFFL;
        return (mask >>> 24) + "." + (mask >>> 16 & 255) + "." + (mask >>> 8 & 255) + "." + (mask & 255);
    }

    /** Linux kernel documentation, nfsroot: client:server:gateway:netmask:host:device:autoconf:dns0:dns1. */
    static String ip(Intents.Network network, String host) {
        StringBuilder word = new StringBuilder(address(network) + "::"
                + network.gateway().orElse("") + ":" + netmask(bits(network)) + ":" + host + ":eth0:off");
        network.nameServers().forEach(each -> word.append(':').append(each));
        return word.toString();
    }

    /** What its owner has to know, whichever dialect it is written in. */
    static void tell(Draft draft, Intents.Network network, Surroundings around) {
        switch (network.kind()) {
            case FIXED, STRAIGHT_CABLE -> fixed(draft, network);
            case RESERVED ->
                draft.note(
                        "address-reserved",
                        "Nothing changes on the medium: have the router keep "
                                + (network.address().isEmpty() ? "an address" : address(network))
                                + " for the hardware address "
                                + network.hardwareAddress()
                                        .orElse(
                                                around.mac().isEmpty()
                                                        ? "on the board's label or start screen"
                                                        : around.mac())
                                + ".");
            case WIFI -> {
                draft.note(
                        "wifi-first-start",
                        "A wired first start is the safe choice: over Wi-Fi nobody sees why it does not come up.");
                if (network.wifi().orElseThrow().key().isEmpty()) {
                    draft.caution(
                            "wifi-open",
                            "The network " + network.wifi().get().name()
                                    + " would be used without a key: everybody near it reads along.");
                }
            }
            default -> {
                // The router does the rest.
            }
        }
    }

    /** Whether an address is to be set here, and is there to be set. */
    static boolean sets(Intents.Network network) {
        boolean fixed = network.kind() == Intents.Way.FIXED || network.kind() == Intents.Way.STRAIGHT_CABLE;
        return fixed && network.address().isPresent();
    }

    private static void fixed(Draft draft, Intents.Network network) {
        if (network.address().isEmpty()) {
            draft.add(Finding.stop(
                    "address-missing",
                    "A network of the kind " + network.kind().code() + " needs an address.",
                    Basis.practice()));
            return;
        }
        Basis rfc = Basis.standard("RFC 3927, section 2.1");
        String address = address(network);
        List<IpWord.Fault> faults = IpWord.parse(ip(network, "")).faults();
        faults.stream()
                .map(fault -> Finding.stop(
                        fault.code(),
                        fault.text(),
                        fault.flaw() == IpWord.Flaw.RESERVED
                                ? rfc
                                : Basis.standard("Linux kernel documentation, nfsroot")))
                .forEach(draft::add);
        boolean local = address.startsWith("169.254.");
        if (network.kind() == Intents.Way.STRAIGHT_CABLE && !local) {
            draft.add(Finding.stop(
                    "link-local-out-of-range",
                    address + " is none for a straight cable; those go from 169.254.1.0 to 169.254.254.255.",
                    rfc));
        }
        if (!faults.isEmpty()) {
            // Nothing good is to be said of an address that cannot be.
            return;
        }
        draft.add(
                local
                        ? Finding.note(
                                "address-link-local", address + " works over a straight cable, without a router.", rfc)
                        : Finding.note(
                                "address-fixed",
                                address + " must be free in your network and outside what its router hands out.",
                                Basis.practice()));
    }
}
