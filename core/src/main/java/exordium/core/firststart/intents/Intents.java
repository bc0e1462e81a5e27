// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.intents;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.quantity.Coded;
import java.util.List;
import java.util.Optional;

/**
 * What is wanted of a first start, in a user's words. What is not said stays as it is on the medium.
 *
 * @param remoteLogin switch remote login on, or off
 * @param fixedAddress short for a network with nothing but an address for the wired port, such as 169.254.20.7
 * @param rootByIdentifier name the root by its partition's identifier instead of its place
 * @param ownIdentity take out what no two boards may share: host keys, machine identity, the disk's identifier
 * @param off things to switch off, and on: things to switch on again, by the codes of things.yaml
 * @param graphicsMemory in MB
 * @param grow fill the medium: the last partition extended here, its file system by the system's own tool
 */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public record Intents(
        Optional<Boolean> remoteLogin,
        Optional<String> fixedAddress,
        boolean rootByIdentifier,
        boolean ownIdentity,
        Optional<Account> account,
        Optional<String> hostName,
        Optional<String> keyboard,
        Optional<String> timeZone,
        Optional<Network> network,
        Optional<Boolean> remoteScreen,
        List<String> off,
        List<String> on,
        Optional<Display> display,
        Optional<Clock> clock,
        Optional<Pcie> pcie,
        Optional<Integer> graphicsMemory,
        Optional<Boolean> startBit,
        Optional<Overlay> overlay,
        Optional<Boolean> logsInMemory,
        Optional<Updates> updates,
        boolean grow,
        Optional<Dialect> dialect) {
    public static final Intents NONE = IntentsReader.of(java.util.Map.of());

    public Intents {
        off = off == null ? List.of() : List.copyOf(off);
        on = on == null ? List.of() : List.copyOf(on);
    }

    /**
     * Who logs in.
     *
     * @param passwordHash SHA-512 crypt (crypt(5)); the password itself is never kept
     * @param keys public keys, each as a line of authorized_keys (sshd(8))
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Account(String name, Optional<String> passwordHash, List<String> keys) {
        public Account {
            keys = keys == null ? List.of() : List.copyOf(keys);
        }
    }

    /** How the board comes by its address. */
    public enum Way implements Coded {
        /** Wired, from the router. */
        AUTOMATIC,
        /** Wired, set here. */
        FIXED,
        /** Wired, always the same from the router, by the hardware address. */
        RESERVED,
        /** Wired, straight to a PC: link-local (RFC 3927). */
        STRAIGHT_CABLE,
        WIFI;

        @JsonCreator
        public static Way of(String code) {
            return Coded.of(Way.class, code);
        }
    }

    /**
     * The network.
     *
     * @param address IPv4, with or without the length of its network behind a slash
     * @param hardwareAddress what the router goes by, for a reserved one
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Network(
            Way kind,
            Optional<String> address,
            Optional<String> gateway,
            List<String> nameServers,
            Optional<String> hardwareAddress,
            Optional<Wifi> wifi) {
        public Network {
            nameServers = nameServers == null ? List.of() : List.copyOf(nameServers);
        }
    }

    /** A radio network; key: 64 hex digits derived from its pass phrase (IEEE 802.11i), empty for an open one. */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Wifi(String name, String country, Optional<String> key) {}

    /**
     * The picture.
     *
     * @param borders whether black borders stay
     * @param mode such as 1920x1080@60
     * @param withoutMonitor a picture even where no monitor is plugged in, for remote screens
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Display(Optional<Boolean> borders, Optional<String> mode, Optional<Boolean> withoutMonitor) {}

    /** A raised clock, in MHz, and the voltage step that goes with it. */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Clock(int mhz, Optional<Integer> overVoltage) {}

    /** The PCIe port, and the generation it runs at. */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Pcie(boolean on, Optional<Integer> generation) {}

    /** The read-only overlay's two switches: over the root, and the start partition mounted read-only. */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Overlay(Optional<Boolean> root, Optional<Boolean> start) {}

    /** What is done about software at the first start. */
    public enum Updates implements Coded {
        NONE,
        LISTS,
        ALL;

        @JsonCreator
        public static Updates of(String code) {
            return Coded.of(Updates.class, code);
        }
    }

    /** The language a system takes its first start in. */
    public enum Dialect implements Coded {
        /** Files of the start partition, and of the root where that has no file for it. */
        PLAIN,
        /** cloud-init, NoCloud. */
        CLOUD;

        @JsonCreator
        public static Dialect of(String code) {
            return Coded.of(Dialect.class, code);
        }
    }

    public boolean none() {
        return equals(NONE);
    }

    /** The network with the short form written out; an address of the link-local range is a straight cable. */
    @JsonIgnore
    public Optional<Network> wantedNetwork() {
        return network.or(() -> fixedAddress.map(address -> new Network(
                address.startsWith("169.254.") ? Way.STRAIGHT_CABLE : Way.FIXED,
                Optional.of(address),
                Optional.empty(),
                List.of(),
                Optional.empty(),
                Optional.empty())));
    }
}
