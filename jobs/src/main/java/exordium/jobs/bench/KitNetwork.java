// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.board.BoardProfile;
import exordium.core.network.ServerConfig;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.rehearsal.contents.ServedRoot;
import exordium.sim.network.NetworkFault;
import exordium.sim.network.SimulatedNetwork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** The network a board sees by what stands in a kit's folder, and by the faults that are played in it. */
public final class KitNetwork {
    private static final String LEASES = "dnsmasq.conf";
    private static final Pattern STANDS = Pattern.compile("(?m)^conf-dir=(\\S+)/dnsmasq\\.d");

    private final Path kit;
    private final Map<Path, Known> roots = new ConcurrentHashMap<>();

    private record Known(FileTime changed, Optional<MediumContents.RootFiles> facts) {}

    public KitNetwork(Path kit) {
        this.kit = kit.toAbsolutePath().normalize();
    }

    public boolean exists() {
        return Files.isRegularFile(kit.resolve(LEASES));
    }

    public ServerConfig config() throws IOException {
        List<String> leases = new ArrayList<>(texts("dnsmasq.d", ".conf"));
        if (exists()) {
            leases.add(Files.readString(kit.resolve(LEASES)));
        }
        return ServerConfig.parse(leases, texts("exports.d", ".exports"));
    }

    private List<String> texts(String below, String ending) throws IOException {
        Path folder = kit.resolve(below);
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        List<String> texts = new ArrayList<>();
        try (Stream<Path> all = Files.list(folder)) {
            for (Path each : all.filter(path -> path.toString().endsWith(ending))
                    .sorted()
                    .toList()) {
                texts.add(Files.readString(each));
            }
        }
        return texts;
    }

    /** The same of a kit that says itself where it will stand. */
    public Optional<Bench.Network> of(String mac, BoardProfile profile) throws IOException {
        if (mac.isBlank() || !exists()) {
            return Optional.empty();
        }
        Matcher stands = STANDS.matcher(Files.readString(kit.resolve(LEASES)));
        return stands.find() ? of(mac, profile, stands.group(1)) : Optional.empty();
    }

    /** What a board with this hardware address sees; empty where the kit does not know it. Where folder: of the kit on the server. */
    public Optional<Bench.Network> of(String mac, BoardProfile profile, String folder) throws IOException {
        ServerConfig config = config();
        String plain = mac.toLowerCase(Locale.ROOT).replace('-', ':');
        Set<NetworkFault> faults = SimulatedNetwork.read(kit).faultsOf(plain);
        Optional<ServerConfig.Host> host = Optional.ofNullable(config.hosts().get(plain));
        if (host.isEmpty()) {
            return Optional.empty();
        }
        boolean link = !faults.contains(NetworkFault.CABLE_OUT) && !faults.contains(NetworkFault.NO_POWER);
        boolean lease = config.addresses()
                && !faults.contains(NetworkFault.NO_LEASE)
                && !faults.contains(NetworkFault.SERVER_LATE);
        Optional<Path> top = config.files()
                .filter(each -> !faults.contains(NetworkFault.NO_FILES))
                .map(each -> faults.contains(NetworkFault.WRONG_FOLDER) ? kit.resolve("clients") : inKit(each, folder));
        if (profile.network().by().equals("boot-file") && top.isPresent()) {
            top = host.get()
                    .bootFile()
                    .filter(file -> file.contains("/"))
                    .map(file -> file.substring(0, file.indexOf('/')))
                    .map(top.get()::resolve)
                    .or(() -> config.files().map(each -> inKit(each, folder).resolve("nowhere")));
        }
        List<Bench.Export> exports = new ArrayList<>();
        if (!faults.contains(NetworkFault.NO_EXPORT)) {
            for (ServerConfig.Export each :
                    config.exportsFor(host.get().address().orElse(""))) {
                exports.add(export(each.path(), folder));
            }
        }
        return Optional.of(new Bench.Network(link, lease, false, top, exports));
    }

    private Bench.Export export(String path, String folder) throws IOException {
        Path place = inKit(path, folder);
        Path root = Files.isDirectory(place) ? place : place.resolveSibling(place.getFileName() + ".tar");
        if (!Files.exists(root)) {
            return new Bench.Export(path, Optional.of(place));
        }
        FileTime changed = Files.getLastModifiedTime(root);
        Known known = roots.get(root);
        // A folder may change inside without its own time changing; a tar is read once.
        if (known == null || !known.changed().equals(changed) || Files.isDirectory(root)) {
            known = new Known(changed, ServedRoot.of(root).facts());
            roots.put(root, known);
        }
        return new Bench.Export(path, Optional.of(root), known.facts());
    }

    /** A path on the server as it is in the kit; one that is not below its folder is nowhere. */
    private Path inKit(String path, String folder) {
        return path.equals(folder) || path.startsWith(folder + "/")
                ? kit.resolve(path.substring(folder.length()).replaceFirst("^/+", ""))
                        .normalize()
                : kit.resolve("nowhere");
    }
}
