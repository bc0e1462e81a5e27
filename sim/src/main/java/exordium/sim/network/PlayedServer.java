// SPDX-License-Identifier: Apache-2.0
package exordium.sim.network;

import exordium.core.network.BoardAsk;
import exordium.core.network.ServerConfig;
import exordium.core.rehearsal.contents.ServedRoot;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A server that does what its files say, with no network: it answers from a kit's folder and keeps a log in the words real servers use
 * (dnsmasq 2.90; rpc.mountd(8), from memory).
 */
public final class PlayedServer implements BoardAsk.Answers {
    private static final long LARGEST = 1L << 30;

    private final ServerConfig config;
    private final Path kit;
    private final String folder;
    private final Set<NetworkFault> faults;
    private final Map<Path, ServedRoot> roots = new HashMap<>();
    private final List<String> log = new ArrayList<>();
    private int told;
    private String address = "";

    /** Where folder: the one on the server that the kit stands for; faults: of the server and of the board that asks. */
    public PlayedServer(ServerConfig config, Path kit, String folder, Set<NetworkFault> faults) {
        this.config = config;
        this.kit = kit;
        this.folder = folder;
        this.faults = Set.copyOf(faults);
    }

    public List<String> log() {
        return List.copyOf(log);
    }

    @Override
    public List<String> said() {
        List<String> since = List.copyOf(log.subList(told, log.size()));
        told = log.size();
        return since;
    }

    @Override
    public Optional<BoardAsk.Lease> lease(String mac) {
        if (faults.contains(NetworkFault.CABLE_OUT)
                || faults.contains(NetworkFault.NO_POWER)
                || faults.contains(NetworkFault.SERVER_LATE)) {
            return Optional.empty();
        }
        Optional<ServerConfig.Host> host = Optional.ofNullable(config.hosts().get(mac));
        boolean given = config.addresses()
                && !faults.contains(NetworkFault.NO_LEASE)
                && host.flatMap(ServerConfig.Host::address).isPresent();
        log.add("dnsmasq-dhcp: DHCPDISCOVER(eth0) " + mac + (given ? "" : " no address available"));
        if (!given) {
            return Optional.empty();
        }
        address = host.get().address().orElseThrow();
        log.add("dnsmasq-dhcp: DHCPOFFER(eth0) " + address + " " + mac);
        log.add("dnsmasq-dhcp: DHCPREQUEST(eth0) " + address + " " + mac);
        log.add("dnsmasq-dhcp: DHCPACK(eth0) " + address + " " + mac);
        return Optional.of(new BoardAsk.Lease(address, host.get().bootFile()));
    }

    /** Where a path on the server is in the kit; empty where it is not below its folder. */
    private Optional<Path> inKit(String path) {
        if (!path.startsWith(folder + "/") && !path.equals(folder)) {
            return Optional.empty();
        }
        Path found = kit.resolve(path.substring(folder.length()).replaceFirst("^/+", ""))
                .normalize();
        return found.startsWith(kit) ? Optional.of(found) : Optional.empty();
    }

    @Override
    public Optional<byte[]> fetch(String path) throws IOException {
        if (config.files().isEmpty() || faults.contains(NetworkFault.NO_FILES)) {
            return Optional.empty();
        }
        String top = faults.contains(NetworkFault.WRONG_FOLDER)
                ? folder + "/clients"
                : config.files().get();
        String whole = top + "/" + path;
        Optional<Path> file = inKit(whole);
        if (file.filter(Files::isRegularFile).isEmpty() || Files.size(file.get()) > LARGEST) {
            log.add("dnsmasq-tftp: file " + whole + " not found for " + address);
            return Optional.empty();
        }
        log.add("dnsmasq-tftp: sent " + whole + " to " + address);
        return Optional.of(Files.readAllBytes(file.get()));
    }

    @Override
    public boolean mounts(String path) {
        boolean may = !faults.contains(NetworkFault.NO_EXPORT)
                && config.mounts(address, path)
                && place(path).filter(Files::exists).isPresent();
        log.add(
                may
                        ? "rpc.mountd: authenticated mount request from " + address + ":700 for " + path + " (" + path
                                + ")"
                        : "rpc.mountd: refused mount request from " + address + " for " + path + " (/): not exported");
        return may;
    }

    /** Unpacked, or still the tar it will be unpacked from. */
    private Optional<Path> place(String path) {
        return inKit(path)
                .map(found -> Files.isDirectory(found) ? found : found.resolveSibling(found.getFileName() + ".tar"));
    }

    @Override
    public Optional<byte[]> look(String mounted, String path) throws IOException {
        Optional<Path> root = place(mounted);
        if (root.isEmpty()) {
            return Optional.empty();
        }
        ServedRoot served = roots.get(root.get());
        if (served == null) {
            served = ServedRoot.of(root.get());
            roots.put(root.get(), served);
        }
        return served.read(path);
    }
}
