// SPDX-License-Identifier: Apache-2.0
package exordium.sim.network;

import exordium.core.block.Durable;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/**
 * The switch and the cables beside a kit, as they are played: kept in a file of it (docs/formats/network.md).
 *
 * @param server faults of the server
 * @param boards faults of a board's port and cable, by its hardware address
 */
public record SimulatedNetwork(List<NetworkFault> server, Map<String, List<NetworkFault>> boards) {
    private static final String FILE = "simulated.yaml";
    /** As of a worn card that stands in for an SSD. Invented. */
    private static final ByteRate SLOW = new ByteRate(4e6);

    public static final SimulatedNetwork WELL = new SimulatedNetwork(List.of(), Map.of());

    public SimulatedNetwork {
        server = server == null ? List.of() : List.copyOf(server);
        boards = boards == null ? Map.of() : new TreeMap<>(boards);
    }

    public static SimulatedNetwork read(Path kit) throws IOException {
        Path file = kit.resolve(FILE);
        return Files.isRegularFile(file) ? new ProfileReader().own(file, SimulatedNetwork.class) : WELL;
    }

    public void write(Path kit) throws IOException {
        Durable.replace(kit.resolve(FILE), new ProfileReader().writeForPeople(this));
    }

    /** What the server's storage reads at, where something else than usual is played. */
    public Optional<ByteRate> storage() {
        return server.contains(NetworkFault.SLOW_SERVER) ? Optional.of(SLOW) : Optional.empty();
    }

    public Set<NetworkFault> faultsOf(String mac) {
        Set<NetworkFault> all = EnumSet.noneOf(NetworkFault.class);
        all.addAll(server);
        all.addAll(boards.getOrDefault(mac, List.of()));
        return all;
    }

    /** With a fault of the server, or of the board with this hardware address. */
    public SimulatedNetwork with(NetworkFault fault, String mac) {
        if (fault.ofServer()) {
            return new SimulatedNetwork(added(server, fault), boards);
        }
        Map<String, List<NetworkFault>> all = new TreeMap<>(boards);
        all.put(mac, added(boards.getOrDefault(mac, List.of()), fault));
        return new SimulatedNetwork(server, all);
    }

    private static List<NetworkFault> added(List<NetworkFault> faults, NetworkFault fault) {
        List<NetworkFault> all = new ArrayList<>(faults);
        if (!all.contains(fault)) {
            all.add(fault);
        }
        return all;
    }
}
