// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.network.NetworkPlan;
import exordium.core.network.ServerConfig;
import exordium.core.network.ServerLines;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * A kit that real servers may be started by, wherever it came from: its dnsmasq files as they were looked through, and nothing in it that
 * leads out of it.
 */
final class CheckedKit {
    private static final long LARGEST = 4L << 20;
    private static final String MAIN = "dnsmasq.conf";

    private final Map<String, String> leases;
    private final ServerConfig config;

    private CheckedKit(Map<String, String> leases, ServerConfig config) {
        this.leases = leases;
        this.config = config;
    }

    /** @throws Refused when something in it is nothing that a kit is made of */
    static CheckedKit of(Path kit, NetworkPlan.Server server) throws IOException {
        Path whole = kit.toRealPath();
        Map<String, String> leases = new TreeMap<>(texts(whole, "dnsmasq.d"));
        if (Files.exists(whole.resolve(MAIN), LinkOption.NOFOLLOW_LINKS)) {
            leases.put(MAIN, text(whole, whole.resolve(MAIN)));
        }
        ServerLines lines = new ServerLines(server);
        for (Map.Entry<String, String> each : leases.entrySet()) {
            refuse(lines.strange(each.getKey(), each.getValue()));
        }
        ServerConfig config =
                ServerConfig.parse(leases.values(), texts(whole, "exports.d").values());
        for (ServerConfig.Export each : config.exports()) {
            refuse(lines.strange(each));
            if (each.path().startsWith(server.folder() + "/")) {
                requireInside(
                        whole,
                        whole.resolve(each.path().substring(server.folder().length() + 1)));
            }
        }
        requireNoWayOut(whole, whole.resolve("tftp"));
        return new CheckedKit(leases, config);
    }

    private static void refuse(Optional<String> why) {
        if (why.isPresent()) {
            throw new Refused(Finding.stop(
                    "kit-is-strange", "Nothing was started. " + why.get(), Basis.computed("dnsmasq(8), exports(5)")));
        }
    }

    /** By their place in the kit. */
    private static Map<String, String> texts(Path kit, String below) throws IOException {
        Map<String, String> texts = new TreeMap<>();
        Path folder = kit.resolve(below);
        if (!Files.exists(folder, LinkOption.NOFOLLOW_LINKS)) {
            return texts;
        }
        List<Path> files;
        requireInside(kit, folder);
        try (Stream<Path> all = Files.list(folder)) {
            files = all.sorted().toList();
        }
        for (Path file : files) {
            texts.put(below + "/" + file.getFileName(), text(kit, file));
        }
        return texts;
    }

    private static String text(Path kit, Path file) throws IOException {
        String name = kit.relativize(file).toString();
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS) || Files.size(file) > LARGEST) {
            refuse(Optional.of(name + " is a link, no file, or too large."));
        }
        try {
            return Files.readString(file);
        } catch (CharacterCodingException e) {
            refuse(Optional.of(name + " is no text."));
            throw e;
        }
    }

    /** A link in it is one of a board's own, or leads to what is none of the kit's. */
    private static void requireInside(Path kit, Path place) throws IOException {
        for (Path each : List.of(place, place.resolveSibling(place.getFileName() + ".tar"))) {
            if (Files.exists(each, LinkOption.NOFOLLOW_LINKS)
                    && (!Files.exists(each) || !each.toRealPath().equals(each.normalize()))) {
                refuse(Optional.of(kit.relativize(each) + " is reached by a link; a kit has none there."));
            }
        }
    }

    /** What is handed out to whoever asks lies in the kit. */
    private static void requireNoWayOut(Path kit, Path folder) throws IOException {
        if (!Files.exists(folder, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        requireInside(kit, folder);
        List<Path> links = new ArrayList<>();
        try (Stream<Path> all = Files.walk(folder)) {
            all.filter(Files::isSymbolicLink).forEach(links::add);
        }
        for (Path link : links) {
            if (Files.exists(link) && !link.toRealPath().startsWith(folder.toRealPath())) {
                refuse(Optional.of(kit.relativize(link) + " leads out of the folder that is handed out."));
            }
        }
    }

    ServerConfig config() {
        return config;
    }

    /** Puts what was looked through into a folder of the try's own. */
    void put(Path folder) throws IOException {
        Files.createDirectories(folder.resolve("dnsmasq.d"));
        for (Map.Entry<String, String> each : leases.entrySet()) {
            Files.writeString(folder.resolve(each.getKey()), each.getValue());
        }
    }
}
