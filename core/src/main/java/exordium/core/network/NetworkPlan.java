// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import exordium.core.storage.media.Link;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A server and the boards that start from it, as somebody wrote it (docs/formats/network.md).
 *
 * @param root what boards get that say nothing of their own
 */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public record NetworkPlan(Server server, Optional<Root> root, Optional<ByteSize> growth, List<Client> clients) {
    public static final String SCHEMA = "/exordium/profiles/network.schema.json";
    /** Room a root gets beyond what its image holds. Common practice, no source. */
    private static final ByteSize USUAL_GROWTH = ByteSize.ofGigabytes(2);

    public NetworkPlan {
        clients = clients == null ? List.of() : List.copyOf(clients);
    }

    /**
     * What hands out addresses, files and roots.
     *
     * @param prefix length of the network's part of its address
     * @param device its wired socket
     * @param folder where the kit will stand on it
     * @param besideRouter whether a router there hands out the addresses already
     * @param medium kind of its storage, as the media file calls it
     * @param room it has for roots
     * @param link between it and the switch
     * @param diskRate its storage reads with
     * @param powerOverEthernet watts its switch gives in all, where boards are fed by it
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Server(
            String name,
            String address,
            int prefix,
            Optional<String> router,
            String device,
            String folder,
            boolean besideRouter,
            Optional<String> medium,
            Optional<ByteSize> room,
            Optional<Link> link,
            Optional<ByteRate> diskRate,
            Optional<Double> powerOverEthernet) {
        private static final int USUAL_PREFIX = 24;
        private static final String USUAL_DEVICE = "eth0";

        /** One of which no more is said than it must be. */
        public static Server plain(String name, String address, String folder) {
            return new Server(
                    name,
                    address,
                    USUAL_PREFIX,
                    Optional.empty(),
                    USUAL_DEVICE,
                    folder,
                    false,
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty());
        }

        public Server {
            prefix = prefix == 0 ? USUAL_PREFIX : prefix;
            device = device == null ? USUAL_DEVICE : device;
        }

        public Link usualLink() {
            return link.orElse(Link.ETHERNET_1G);
        }

        /** With this rate where nobody said one. */
        public Server withDiskRate(ByteRate usual) {
            return atDiskRate(diskRate.orElse(usual));
        }

        /** With this rate whatever was said. */
        public Server atDiskRate(ByteRate rate) {
            return new Server(
                    name,
                    address,
                    prefix,
                    router,
                    device,
                    folder,
                    besideRouter,
                    medium,
                    room,
                    link,
                    Optional.of(rate),
                    powerOverEthernet);
        }

        /** A place below the kit's folder on the server. */
        public String at(String path) {
            return folder + "/" + path;
        }
    }

    /** How a board has its root. */
    public enum Root implements Coded {
        /** One of its own, which it may write to. */
        OWN("a root of its own"),
        /** One for all boards of an image, read only; what is written goes to memory. */
        MEMORY("a shared root, what is written in memory"),
        /** The same, and a writable part of its own on the server. */
        STATE("a shared root, a writable part of its own");

        private final String said;

        Root(String said) {
            this.said = said;
        }

        public String said() {
            return said;
        }

        public boolean shared() {
            return this != OWN;
        }

        @JsonCreator
        public static Root of(String code) {
            return Coded.of(Root.class, code);
        }
    }

    /**
     * A board that starts from it.
     *
     * @param address fixed; else the first one that is free
     * @param image file its system comes from
     * @param readAtStart what it reads of its root until it is up
     * @param intents what its first start is to bring about, as a file of intents says it
     */
    @JsonInclude(JsonInclude.Include.NON_EMPTY)
    public record Client(
            String id,
            String profile,
            String serial,
            String mac,
            Optional<String> address,
            String image,
            Optional<String> hostName,
            Optional<Root> root,
            Optional<ByteSize> growth,
            Optional<ByteSize> readAtStart,
            Optional<Map<String, Object>> intents) {

        public String host() {
            return hostName.orElse(id);
        }

        public Client withAddress(String fixed) {
            return new Client(
                    id, profile, serial, mac, Optional.of(fixed), image, hostName, root, growth, readAtStart, intents);
        }

        /** With what the plan says for all put down with it. */
        Client settled(NetworkPlan plan) {
            return new Client(
                    id,
                    profile,
                    serial,
                    mac,
                    address,
                    image,
                    hostName,
                    root.or(plan::root),
                    growth.or(plan::growth),
                    readAtStart,
                    intents);
        }

        public Root rootKind() {
            return root.orElse(Root.OWN);
        }

        public ByteSize room() {
            return growth.orElse(USUAL_GROWTH);
        }

        /** Small letters with colons between. */
        public String plainMac() {
            return mac.toLowerCase(java.util.Locale.ROOT).replace('-', ':');
        }

        /** As firmware asks for it: small letters, no zeros in front. */
        public String plainSerial() {
            return serial.toLowerCase(java.util.Locale.ROOT).replaceFirst("^0+(?=.)", "");
        }
    }

    /** @throws UnreadableInput with the name of what is wrong */
    public static NetworkPlan read(ProfileReader reader, Path file) throws IOException {
        return reader.user(file, SCHEMA, NetworkPlan.class).settled();
    }

    /** Each board with an address of its own and what the plan says for all. */
    public NetworkPlan settled() throws UnreadableInput {
        List<Client> known = clients.stream().map(each -> each.settled(this)).toList();
        return new NetworkPlan(server, root, growth, new Addresses(server).given(known));
    }

    public Optional<Client> client(String id) {
        return clients.stream().filter(each -> each.id().equals(id)).findFirst();
    }

    public NetworkPlan with(Client client) {
        List<Client> all = new ArrayList<>(clients);
        all.removeIf(each -> each.id().equals(client.id()));
        all.add(client);
        return new NetworkPlan(server, root, growth, all);
    }

    public NetworkPlan without(String id) {
        return new NetworkPlan(
                server,
                root,
                growth,
                clients.stream().filter(each -> !each.id().equals(id)).toList());
    }
}
