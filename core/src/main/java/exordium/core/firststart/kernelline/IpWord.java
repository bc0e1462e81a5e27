// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.kernelline;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The value of {@code ip=} on a kernel line (Linux kernel documentation, nfsroot):
 * client:server:gateway:netmask:host:device:autoconf:dns0:dns1:ntp0. A single word is the way of autoconfiguration.
 */
public record IpWord(List<String> fields) {
    private static final Set<String> AUTOCONF =
            Set.of("off", "none", "on", "any", "dhcp", "bootp", "rarp", "both", "link-local", "ibft");
    private static final int MOST = 10;
    private static final long LINK_LOCAL = 0xA9FE0000L;
    private static final long FIRST_TWO = 0xFFFF0000L;

    /** What is wrong with it. */
    public record Fault(Flaw flaw, String text) {
        public String code() {
            return flaw.code;
        }
    }

    /** What may be wrong with an address. */
    public enum Flaw {
        MALFORMED("address-malformed", true),
        HOST("host-name-malformed", false),
        RESERVED("link-local-out-of-range", true),
        OUTSIDE("address-outside-network", false);

        private final String code;
        private final boolean stops;

        Flaw(String code, boolean stops) {
            this.code = code;
            this.stops = stops;
        }

        /** Whether the kernel makes nothing of the address. */
        public boolean stops() {
            return stops;
        }
    }

    public static IpWord parse(String value) {
        return new IpWord(List.of(value.split(":", -1)));
    }

    private String field(int number) {
        return number < fields.size() ? fields.get(number) : "";
    }

    public String client() {
        return field(0);
    }

    public String host() {
        return field(4);
    }

    public List<Fault> faults() {
        List<Fault> faults = new ArrayList<>();
        if (fields.size() == 1) {
            if (!AUTOCONF.contains(client()) && number(client()).isEmpty()) {
                faults.add(malformed(
                        "\"" + client() + "\" is neither an IPv4 address nor a way to get one, such as dhcp"));
            }
            outOfRange().ifPresent(faults::add);
            return faults;
        }
        if (fields.size() > MOST) {
            faults.add(malformed("it has " + fields.size() + " fields, and ten are the most"));
        }
        String[] names = {
            "address",
            "server",
            "gateway",
            "netmask",
            "",
            "",
            "",
            "first name server",
            "second name server",
            "time server"
        };
        for (int i = 0; i < names.length; i++) {
            if (!names[i].isEmpty() && !field(i).isEmpty() && number(field(i)).isEmpty()) {
                faults.add(malformed("its " + names[i] + " \"" + field(i) + "\" is no IPv4 address"));
            }
        }
        Optional<Long> mask = number(field(3));
        if (mask.isPresent() && !contiguous(mask.get())) {
            faults.add(malformed("its netmask " + field(3) + " is none: ones first, then zeros"));
        }
        if (!field(6).isEmpty() && !AUTOCONF.contains(field(6))) {
            faults.add(malformed("\"" + field(6) + "\" is no way of autoconfiguration, such as off or dhcp"));
        }
        if (!host().isEmpty() && !HostName.valid(host())) {
            faults.add(new Fault(
                    Flaw.HOST,
                    "\"" + host()
                            + "\" is no host name: letters, digits and dashes, at most 63, no dash at either end."));
        }
        if (faults.isEmpty()) {
            outOfRange().ifPresent(faults::add);
            mask.ifPresent(bits -> outside(bits).ifPresent(faults::add));
        }
        return faults;
    }

    private static Fault malformed(String what) {
        return new Fault(Flaw.MALFORMED, "The address, ip=, cannot be read: " + what + ".");
    }

    /** RFC 3927, section 2.1: the first and the last 256 addresses of 169.254/16 are reserved. */
    private Optional<Fault> outOfRange() {
        return number(client())
                .filter(address -> (address & FIRST_TWO) == LINK_LOCAL)
                .filter(address -> (address & 0xFF00) == 0 || (address & 0xFF00) == 0xFF00)
                .map(address -> new Fault(
                        Flaw.RESERVED,
                        client() + " is reserved; link-local addresses go from 169.254.1.0 to 169.254.254.255."));
    }

    private Optional<Fault> outside(long mask) {
        Optional<Long> address = number(client());
        Optional<Long> gateway = number(field(2));
        if (address.isEmpty()) {
            return Optional.empty();
        }
        long host = address.get() & ~mask & 0xFFFFFFFFL;
        boolean wide = mask < 0xFFFFFFFEL;
        if (wide && (host == 0 || host == (~mask & 0xFFFFFFFFL))) {
            return Optional.of(new Fault(
                    Flaw.OUTSIDE,
                    client() + " is the " + (host == 0 ? "network itself" : "address for all") + " under the netmask "
                            + field(3) + "; no board can have it."));
        }
        boolean out = gateway.isPresent() && (gateway.get() & mask) != (address.get() & mask);
        return out
                ? Optional.of(new Fault(
                        Flaw.OUTSIDE,
                        "The gateway " + field(2) + " is not in the network of " + client() + " under the netmask "
                                + field(3) + "; it is never reached."))
                : Optional.empty();
    }

    private static boolean contiguous(long mask) {
        long inverted = ~mask & 0xFFFFFFFFL;
        return (inverted & (inverted + 1)) == 0;
    }

    /** An IPv4 address in four decimal parts as a number; empty where it is none. */
    public static Optional<Long> number(String address) {
        String[] parts = address.split("\\.", -1);
        if (parts.length != 4) {
            return Optional.empty();
        }
        long number = 0;
        for (String part : parts) {
            if (!part.matches("\\d{1,3}") || Integer.parseInt(part) > 255) {
                return Optional.empty();
            }
            number = number << 8 | Integer.parseInt(part);
        }
        return Optional.of(number);
    }
}
